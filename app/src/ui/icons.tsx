import { View, type ColorValue } from 'react-native';
import { iconPaths } from './iconPaths';

export interface IconProps {
  name: string;
  color?: ColorValue | undefined;
  size: number;
}

/** Every icon stands beside words or within a named control: there is nothing about it to read out. */
export function SilentIcon({ name, color, size }: IconProps) {
  const path = iconPaths[name];
  if (!path && process.env.NODE_ENV !== 'production') throw new Error(`Icon ${name} is not in scripts/make-icons.mjs`);
  return (
    <View aria-hidden style={{ width: size, height: size }}>
      <svg viewBox="0 0 24 24" width={size} height={size} fill={typeof color === 'string' ? color : 'currentColor'}>
        <path d={path} />
      </svg>
    </View>
  );
}

/** For PaperProvider. */
export const paperSettings = { icon: (props: IconProps) => <SilentIcon {...props} /> } as never;

/** Where Paper asks for the icon font itself; see metro.config.js. */
export default SilentIcon;
