import type { ComponentProps } from 'react';
import { IconButton } from 'react-native-paper';
import { touch } from './tokens';

type IconButtonProps = ComponentProps<typeof IconButton>;

export interface IconActionProps extends Omit<IconButtonProps, 'accessibilityLabel' | 'mode'> {
  label: string;
  /** On or off, for one that switches something. */
  pressed?: boolean;
}

/** A button that shows an icon, as large as a finger needs. */
export function IconAction({ label, pressed, style, ...props }: IconActionProps) {
  return (
    <IconButton
      accessibilityLabel={label}
      {...(pressed !== undefined && { 'aria-pressed': pressed })}
      {...props}
      style={[{ margin: 0, width: touch, height: touch }, style]}
    />
  );
}
