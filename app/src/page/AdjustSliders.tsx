import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Adjust, FilterId } from '@libretto/model';
import { Action } from '../ui/Action';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';

type Key = keyof Adjust;

interface Slider {
  key: Key;
  least: number;
  most: number;
  /** As the filter is made. */
  rest: number;
  filters: readonly FilterId[];
}

const sliders: readonly Slider[] = [
  { key: 'evening', least: 0, most: 1, rest: 1, filters: ['even-light', 'grey', 'ink', 'board'] },
  { key: 'strokes', least: -1, most: 1, rest: 0, filters: ['even-light', 'grey', 'ink', 'board'] },
  { key: 'brightness', least: -1, most: 1, rest: 0, filters: ['original', 'even-light', 'grey', 'board', 'picture'] },
  { key: 'contrast', least: -1, most: 1, rest: 0, filters: ['original', 'even-light', 'grey', 'board', 'picture'] },
  { key: 'sharpness', least: 0, most: 1, rest: 0, filters: ['original', 'even-light', 'grey', 'board', 'picture'] },
  { key: 'warmth', least: -1, most: 1, rest: 0, filters: ['original', 'even-light', 'board', 'picture'] },
]; // prettier-ignore

/** Only what differs from the filter as made is kept. */
export function withTurned(adjust: Adjust | undefined, key: Key, value: number): Adjust | undefined {
  const rest = sliders.find((s) => s.key === key)!.rest;
  const next = { ...adjust, [key]: value };
  if (Math.abs(value - rest) < 0.01) delete next[key];
  return Object.keys(next).length ? next : undefined;
}

export interface Adjusting {
  adjust: Adjust | undefined;
  /** While a slider moves. */
  onMove: (adjust: Adjust | undefined) => void;
  /** Let go. */
  onSet: (adjust: Adjust | undefined) => void;
}

/** What can be turned on the filter that is used, each with its resting place in the middle or at its end. */
export function AdjustSliders({ filter, adjusting, wide }: { filter: FilterId; adjusting: Adjusting; wide: boolean }) {
  const t = useTokens();
  const say = useSay();
  const { adjust, onMove, onSet } = adjusting;
  return (
    <View style={{ gap: 4 }}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 24 }}>
        {sliders
          .filter((s) => s.filters.includes(filter))
          .map(({ key, least, most, rest }) => {
            const label = say(`finish.${key}`);
            const value = adjust?.[key] ?? rest;
            return (
              <label
                key={key}
                style={{
                  display: 'flex',
                  alignItems: 'center',
                  gap: 12,
                  minHeight: 44,
                  width: wide ? 'calc(50% - 12px)' : '100%',
                }}
              >
                <Text style={{ width: 132 }}>{label}</Text>
                <input
                  type="range"
                  min={least}
                  max={most}
                  step={0.05}
                  value={value}
                  aria-label={label}
                  aria-valuetext={say('finish.percent', { value: Math.round(100 * value) })}
                  style={{ flex: 1, minWidth: 0, height: 44, accentColor: t.wine }}
                  onChange={(event) => onMove(withTurned(adjust, key, Number(event.currentTarget.value)))}
                  onPointerUp={(event) => onSet(withTurned(adjust, key, Number(event.currentTarget.value)))}
                  onKeyUp={(event) => onSet(withTurned(adjust, key, Number(event.currentTarget.value)))}
                  onDoubleClick={() => onSet(withTurned(adjust, key, rest))}
                />
              </label>
            );
          })}
      </View>
      <Action compact disabled={!adjust} onPress={() => onSet(undefined)} style={{ alignSelf: 'flex-start' }}>
        {say('common.reset')}
      </Action>
    </View>
  );
}
