import type { ReactNode } from 'react';
import { ScrollView } from 'react-native';
import { Heading } from './Heading';
import { Over } from './Over';

export interface SheetProps {
  title: string;
  onClose: () => void;
  /** px */
  maxWidth?: number;
  children: ReactNode;
}

/** A sheet at the foot of the window with a heading; what does not fit is scrolled to. */
export function Sheet({ title, onClose, maxWidth = 560, children }: SheetProps) {
  return (
    <Over low label={title} maxWidth={maxWidth} onClose={onClose}>
      <ScrollView contentContainerStyle={{ padding: 16, gap: 12 }}>
        <Heading level={2} variant="titleLarge">
          {title}
        </Heading>
        {children}
      </ScrollView>
    </Over>
  );
}
