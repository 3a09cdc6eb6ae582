import type { ComponentProps } from 'react';
import { Button } from 'react-native-paper';
import { useTokens } from './theme';
import { corner, touch } from './tokens';

type ButtonProps = ComponentProps<typeof Button>;

/** A button of the usual size: wine for the one main action of a screen, a leaf with a hairline for the others. */
export function Action({ main = false, tall = false, ...props }: Omit<ButtonProps, 'mode'> & { main?: boolean; tall?: boolean }) {
  const t = useTokens();
  return (
    <Button
      mode={main ? 'contained' : 'outlined'}
      {...props}
      {...(!main && !props.textColor && { textColor: t.ink })}
      style={[{ borderRadius: corner }, props.style]}
      contentStyle={[{ minHeight: tall ? 48 : touch }, props.contentStyle]}
      labelStyle={[{ marginVertical: 8, marginHorizontal: 14 }, props.icon ? { marginLeft: 20 } : null, props.labelStyle]}
    />
  );
}
