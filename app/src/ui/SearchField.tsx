import { TextInput, View } from 'react-native';
import { IconAction } from './IconAction';
import { Sign } from './Sign';
import { useTokens } from './theme';
import { corner, fonts } from './tokens';
import { useSay } from './words/words';

export interface SearchFieldProps {
  value: string;
  label: string;
  onChange: (value: string) => void;
}

/** A field to search in, with a way to empty it. */
export function SearchField({ value, label, onChange }: SearchFieldProps) {
  const t = useTokens();
  const say = useSay();
  return (
    <View
      {...({ role: 'search' } as object)}
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        minHeight: 52,
        paddingLeft: 14,
        borderRadius: corner,
        borderWidth: 1,
        borderColor: t.hairline,
        backgroundColor: t.leaf,
      }}
    >
      <Sign source="magnify" size={24} color={t.pencil} />
      <TextInput
        value={value}
        onChangeText={onChange}
        placeholder={label}
        aria-label={label}
        placeholderTextColor={t.pencil}
        inputMode="search"
        style={{ flex: 1, minWidth: 0, minHeight: 44, paddingHorizontal: 12, fontSize: 16, fontFamily: fonts.text, color: t.ink }}
      />
      {value ? <IconAction icon="close" label={say('common.clear')} onPress={() => onChange('')} /> : null}
    </View>
  );
}
