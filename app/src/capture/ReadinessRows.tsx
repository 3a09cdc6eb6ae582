import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { Sign } from '../ui/Sign';
import { darkTokens } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { useLiveView, type LiveViewStore } from './useLive';

const rows = ['whole', 'close', 'light', 'still'] as const;

/** Whole, Close, Light, Still: each a short bar, ticked when it is full. */
export function ReadinessRows({ view }: { view: LiveViewStore }) {
  const t = darkTokens;
  const say = useSay();
  const { readiness } = useLiveView(view);
  return (
    <View style={{ flexDirection: 'row', gap: 14, paddingHorizontal: 16, paddingVertical: 10 }}>
      {rows.map((key) => {
        const label = say(key === 'close' ? 'capture.closeness' : `capture.${key}`);
        const value = readiness?.[key] ?? 0;
        const done = value >= 1;
        return (
          <View
            key={key}
            role="meter"
            aria-label={label}
            aria-valuenow={Math.round(value * 100)}
            aria-valuemin={0}
            aria-valuemax={100}
            style={{ flex: 1, gap: 4 }}
          >
            <View style={{ flexDirection: 'row', justifyContent: 'space-between', minHeight: 20 }}>
              <Text variant="bodyMedium" style={{ color: done ? t.moss : t.ink }}>
                {label}
              </Text>
              {done ? <Sign source="check" size={17} color={t.moss} /> : null}
            </View>
            <View style={{ height: 5, backgroundColor: t.hairline }}>
              <View style={{ height: 5, width: `${Math.round(value * 100)}%`, backgroundColor: done ? t.moss : t.brass }} />
            </View>
          </View>
        );
      })}
    </View>
  );
}
