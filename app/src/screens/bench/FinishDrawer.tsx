import { Image, Pressable, View } from 'react-native';
import { ActivityIndicator, Text } from 'react-native-paper';
import { filters, type FilterId, type Page } from '@libretto/model';
import { setFilter } from '../../state/editing';
import { useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import type { Details } from './useDetails';

export const detailSize = [236, 150] as const;

/** The same detail under each filter, side by side at full size: people judge a filter by whether the small print reads. */
export function FinishDrawer({ page, details, width }: { page: Page; details: Details; width: number }) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const chosen = page.recipe!.filter;
  const columns = width > 520 ? 4 : 2;
  const cell = Math.floor((width - 28 - 10 * (columns - 1)) / columns);
  const card = (id: FilterId | 'auto', label: string, note: string, shows: FilterId | null) => {
    const on = chosen === id;
    const url = shows ? details.urls[shows] : undefined;
    return (
      <Pressable key={id} role="radio" aria-checked={on} aria-label={`${label}, ${note}`} onPress={() => dispatch(setFilter([page], id))} style={{ width: cell, gap: 4 }}>
        <View style={{ height: Math.round((cell * detailSize[1]) / detailSize[0]), borderWidth: on ? 3 : 1, borderColor: on ? t.wine : t.hairline, backgroundColor: t.leaf, overflow: 'hidden', justifyContent: 'center' }}>
          {url ? <Image source={{ uri: url }} style={{ width: '100%', height: '100%' }} resizeMode="cover" accessibilityLabel="" /> : <ActivityIndicator size={18} />}
        </View>
        <Text variant="bodyMedium" style={{ color: on ? t.wine : t.ink }}>
          <Text variant={on ? 'labelMedium' : 'bodyMedium'} style={{ color: on ? t.wine : t.ink }}>
            {label}
          </Text>{' '}
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {note}
          </Text>
        </Text>
      </Pressable>
    );
  };
  return (
    <View role="radiogroup" aria-label="Filter" style={{ padding: 14, gap: 12 }}>
      {details.problem ? <Text style={{ color: t.rust }}>{details.problem}</Text> : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
        {filters.map((f) => card(f.id, f.label, f.about, f.id))}
        {card('auto', 'Auto', details.auto ? `takes ${filters.find((f) => f.id === details.auto)!.label} here` : 'picks by the page', details.auto)}
      </View>
    </View>
  );
}
