import { useEffect, useState } from 'react';
import { View, type ColorValue } from 'react-native';
import { iconPaths } from './iconPaths';

export interface IconProps {
  name: string;
  color?: ColorValue | undefined;
  size: number;
}

const paths: Record<string, string> = { ...iconPaths };
let more: Promise<void> | null = null;

/** Icons besides those of the first screen. */
export const addIcons = (others: Readonly<Record<string, string>>): void => void Object.assign(paths, others);

/** Asked for again when the next one is missing, where they did not come. */
const moreIcons = (): Promise<void> =>
  (more ??= import('./moreIconPaths').then(
    ({ moreIconPaths }) => addIcons(moreIconPaths),
    () => {
      more = null;
    },
  ));

/** An icon's outline; empty until it is there. */
function useOutline(name: string): string {
  const [, come] = useState(false);
  useEffect(() => {
    if (name in paths) return;
    let wanted = true;
    void moreIcons().then(() => {
      if (wanted) come(true);
    });
    return () => {
      wanted = false;
    };
  }, [name]);
  return paths[name] ?? '';
}

/** Every icon stands beside words or within a named control: there is nothing about it to read out. */
export function SilentIcon({ name, color, size }: IconProps) {
  const path = useOutline(name);
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
