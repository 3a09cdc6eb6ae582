import { View } from 'react-native';
import { useTokens } from './theme';

/** How far something has come, 0..1, with a name for those who do not see it. */
export function Progress({ value, label }: { value: number; label: string }) {
  const t = useTokens();
  const percent = Math.round(100 * Math.max(0, Math.min(1, value || 0)));
  return (
    <View
      role="progressbar"
      aria-label={label}
      aria-valuenow={percent}
      aria-valuemin={0}
      aria-valuemax={100}
      style={{ height: 4, backgroundColor: t.hairline, alignSelf: 'stretch' }}
    >
      <View style={{ height: 4, width: `${percent}%`, backgroundColor: t.wine }} />
    </View>
  );
}
