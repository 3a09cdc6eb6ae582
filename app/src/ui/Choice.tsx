import { Pressable } from 'react-native';
import { Text } from 'react-native-paper';
import { useTokens } from './theme';
import { corner } from './tokens';
import { useArrows } from './useArrows';

export interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  /** What stands in each, and what it is called where that does not say enough. */
  options: readonly { value: T; label: string; name?: string }[];
  onChange: (value: T) => void;
}

/** One of a few, all of them in view; they go on in the next line where the width ends. Arrow keys go from one to the next. */
export function Choice<T extends string>({ label, value, options, onChange }: ChoiceProps<T>) {
  const t = useTokens();
  const { onKeyDown, tabIndexOf } = useArrows(
    options.map((o) => o.value),
    value,
    onChange,
  );
  return (
    <div role="radiogroup" aria-label={label} onKeyDown={onKeyDown} style={{ display: 'flex', flexWrap: 'wrap', gap: 8 }}>
      {options.map((option) => {
        const on = option.value === value;
        return (
          <Pressable
            key={option.value}
            role="radio"
            aria-checked={on}
            {...(option.name && { 'aria-label': option.name })}
            tabIndex={tabIndexOf(option.value)}
            onPress={() => onChange(option.value)}
            style={{
              flexGrow: 1,
              minHeight: 48,
              minWidth: 48,
              alignItems: 'center',
              justifyContent: 'center',
              padding: 6,
              borderWidth: on ? 2 : 1,
              borderColor: on ? t.wine : t.hairline,
              borderRadius: corner,
              backgroundColor: t.leaf,
            }}
          >
            <Text variant={on ? 'labelLarge' : 'bodyMedium'} style={{ color: on ? t.wine : t.ink, textAlign: 'center' }}>
              {option.label}
            </Text>
          </Pressable>
        );
      })}
    </div>
  );
}
