import { Button, type ButtonProps } from 'react-native-paper';
import { corner, touch } from '../theme/tokens';

/** A button of the usual size: wine for the one main action of a screen, a leaf with a hairline for the others. */
export function Action({ main = false, tall = false, ...props }: Omit<ButtonProps, 'mode'> & { main?: boolean; tall?: boolean }) {
  return (
    <Button
      mode={main ? 'contained' : 'outlined'}
      {...(!main && { textColor: undefined })}
      {...props}
      style={[{ borderRadius: corner }, props.style]}
      contentStyle={[{ minHeight: tall ? 48 : touch }, props.contentStyle]}
      labelStyle={[{ marginVertical: 8, marginHorizontal: 14 }, props.labelStyle]}
    />
  );
}
