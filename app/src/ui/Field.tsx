import { forwardRef } from 'react';
import { TextInput, type TextInputProps } from 'react-native';
import { useTokens } from './theme';
import { corner, fonts, touch } from './tokens';

export interface FieldProps extends Omit<TextInputProps, 'aria-label' | 'placeholderTextColor'> {
  label: string;
}

/** A line to type in; its name stands in it while it is empty. */
export const Field = forwardRef<TextInput, FieldProps>(function Field({ label, placeholder, style, onKeyPress, ...props }, ref) {
  const t = useTokens();
  return (
    <TextInput
      ref={ref}
      {...props}
      onKeyPress={(event) => {
        onKeyPress?.(event);
        // The library lets no key of a field through: Escape leaves it, and the next one closes the sheet that it stands in.
        if (event.nativeEvent.key === 'Escape') (event.target as unknown as HTMLElement).blur();
      }}
      aria-label={label}
      placeholder={placeholder ?? label}
      placeholderTextColor={t.pencil}
      style={[
        {
          minHeight: touch,
          minWidth: 0,
          paddingHorizontal: 12,
          fontSize: 16,
          fontFamily: fonts.text,
          color: t.ink,
          backgroundColor: t.leaf,
          borderWidth: 1,
          borderColor: t.hairline,
          borderRadius: corner,
        },
        style,
      ]}
    />
  );
});
