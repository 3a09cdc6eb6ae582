import { Image, Pressable, View } from 'react-native';
import { ActivityIndicator, Text } from 'react-native-paper';
import { filters, type Page } from '@libretto/model';
import { Action } from '../../components/Action';
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
  const card = ({ id, label, about }: (typeof filters)[number]) => {
    const picked = details.auto === id;
    const on = chosen === id || (chosen === 'auto' && picked);
    const url = details.urls[id];
    return (
      <Pressable
        key={id}
        role="radio"
        aria-checked={on}
        aria-label={`${label}, ${about}`}
        onPress={() => dispatch(setFilter([page], id))}
        style={{ width: cell, gap: 4 }}
      >
        <View
          style={{
            height: Math.round((cell * detailSize[1]) / detailSize[0]),
            borderWidth: on ? 3 : 1,
            borderColor: on ? t.wine : t.hairline,
            backgroundColor: t.leaf,
            overflow: 'hidden',
            justifyContent: 'center',
          }}
        >
          {url ? (
            <Image source={{ uri: url }} style={{ width: '100%', height: '100%' }} resizeMode="cover" accessibilityLabel="" />
          ) : (
            <ActivityIndicator size={18} />
          )}
        </View>
        <Text>
          <Text variant={on ? 'labelMedium' : 'bodyMedium'} style={{ color: on ? t.wine : t.ink }}>
            {label}
          </Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {picked && chosen === 'auto' ? ' auto' : ` ${about}`}
          </Text>
        </Text>
      </Pressable>
    );
  };
  return (
    <View style={{ padding: 14, gap: 12 }}>
      {details.problem ? <Text style={{ color: t.rust }}>{details.problem}</Text> : null}
      <View role="radiogroup" aria-label="Filter" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
        {filters.map(card)}
      </View>
      <Action
        icon={chosen === 'auto' ? 'check' : 'auto-fix'}
        disabled={chosen === 'auto'}
        onPress={() => dispatch(setFilter([page], 'auto'))}
        style={{ alignSelf: 'flex-start' }}
      >
        {chosen === 'auto' ? 'Auto picks for this page' : 'Let Auto pick'}
      </Action>
    </View>
  );
}
