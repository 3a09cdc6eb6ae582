import { useEffect, useState, type ReactNode } from 'react';
import { Modal, View } from 'react-native';
import { Surface } from 'react-native-paper';
import { useTokens } from './theme';
import { useKeys } from './useKeys';

export interface OverProps {
  label: string;
  onClose: () => void;
  maxWidth: number;
  /** At the foot of the window, as wide as it allows, instead of in its middle. */
  low?: boolean;
  children: ReactNode;
}

/** A sheet over the page: the focus stays on it and goes back afterwards, Escape or a tap beside it closes it. */
export function Over({ label, onClose, maxWidth, low = false, children }: OverProps) {
  const t = useTokens();
  useKeys({ escape: onClose }, { over: true });
  const [before] = useState(() => document.activeElement);
  useEffect(
    () => () => {
      if (before instanceof HTMLElement && before.isConnected) before.focus();
    },
    [before],
  );
  return (
    <Modal transparent visible aria-label={label}>
      <div aria-hidden onClick={onClose} style={{ position: 'fixed', inset: 0, background: 'rgba(0, 0, 0, 0.45)' }} />
      <View
        pointerEvents="box-none"
        style={{ height: '100%', alignItems: 'center', justifyContent: low ? 'flex-end' : 'center' }}
      >
        <Surface
          elevation={3}
          style={{
            backgroundColor: t.leaf,
            width: low ? '100%' : '92%',
            maxWidth,
            maxHeight: '92%',
            ...(low ? { borderTopLeftRadius: 10, borderTopRightRadius: 10 } : { borderRadius: 10 }),
          }}
        >
          {children}
        </Surface>
      </View>
    </Modal>
  );
}
