import type { ComponentProps } from 'react';
import { Text } from 'react-native-paper';

/** A heading of a level; the first one names the screen. */
export function Heading({ level = 1, ...props }: ComponentProps<typeof Text> & { level?: 1 | 2 | 3 }) {
  return <Text role="heading" aria-level={level} {...props} />;
}
