import { useState } from 'react';
import { Image, Pressable, View } from 'react-native';
import { ActivityIndicator, Switch, Text } from 'react-native-paper';
import { filterLabel, filters, type Page, type Touch } from '@libretto/model';
import { Action } from '../../components/Action';
import { usePageImage } from '../../components/usePageImage';
import { setFinish, tidyPage, unpaintPage } from '../../state/editing';
import { useAppDispatch } from '../../state/store';
import { useTokens } from '../../theme/theme';
import { AdjustSliders, type Adjusting } from './AdjustSliders';
import { PagePicker } from './PagePicker';
import type { Details } from './useDetails';

export const detailSize = [236, 150] as const;
const cardHeight = 104;

export interface FinishDrawerProps {
  page: Page;
  details: Details;
  width: number;
  adjusting: Adjusting;
  /** The other pages that are finished otherwise. */
  others: readonly Page[];
  all: readonly Page[];
  painting: Touch['kind'] | null;
  onPainting: (next: Touch['kind'] | null) => void;
}

/** The same detail under each filter, side by side at full size: people judge a filter by whether the small print reads. */
export function FinishDrawer({ page, details, width, adjusting, others, all, painting, onPainting }: FinishDrawerProps) {
  const t = useTokens();
  const dispatch = useAppDispatch();
  const { filter: chosen, adjust } = page.recipe!;
  const tidy = page.recipe!.tidy !== false;
  const { image } = usePageImage(page, 'screen');
  const [choosing, setChoosing] = useState(false);
  const finish = { filter: chosen, ...(adjust && { adjust }) };
  const columns = width > 760 ? 4 : width > 520 ? 3 : 2;
  const cell = Math.floor((width - 28 - 10 * (columns - 1)) / columns);
  const used = chosen === 'auto' ? (details.auto ?? page.made?.filter ?? 'grey') : chosen;
  const choose = (filter: typeof chosen) => dispatch(setFinish([page], { filter, ...(adjust && { adjust }) }));
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
        onPress={() => choose(id)}
        style={{ width: cell, gap: 4 }}
      >
        <View
          style={{
            height: cardHeight,
            borderWidth: on ? 3 : 1,
            borderColor: on ? t.wine : t.hairline,
            backgroundColor: t.leaf,
            overflow: 'hidden',
            alignItems: 'center',
            justifyContent: 'center',
          }}
        >
          {url ? (
            <Image source={{ uri: url }} style={{ width: detailSize[0], height: detailSize[1] }} accessibilityLabel="" />
          ) : (
            <ActivityIndicator size={18} />
          )}
        </View>
        <Text numberOfLines={2}>
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
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <Text variant="bodySmall" style={{ flex: 1, color: t.pencil }} testID="why">
          {details.auto && details.why ? `Auto: ${filterLabel(details.auto)}, ${details.why}` : ' '}
        </Text>
        <Action
          compact
          icon={chosen === 'auto' ? 'check' : 'auto-fix'}
          disabled={chosen === 'auto'}
          onPress={() => choose('auto')}
        >
          {chosen === 'auto' ? 'Auto picks' : 'Let Auto pick'}
        </Action>
      </View>
      <View role="radiogroup" aria-label="Filter" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
        {filters.map(card)}
      </View>
      {used === 'original' || used === 'picture' ? null : (
        <Pressable
          role="switch"
          aria-checked={tidy}
          aria-label="Tidy edges"
          onPress={() => dispatch(tidyPage(page, !tidy))}
          style={{ flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 44 }}
        >
          <View style={{ flex: 1 }}>
            <Text>Tidy edges</Text>
            <Text variant="bodySmall" style={{ color: t.pencil }}>
              {tidy && image?.tidied
                ? `${image.tidied === 1 ? 'one place' : `${image.tidied} places`} filled with paper`
                : 'fingertips and desk on the margin, filled with paper'}
            </Text>
          </View>
          <View aria-hidden pointerEvents="none">
            <Switch value={tidy} />
          </View>
        </Pressable>
      )}
      {used === 'original' || used === 'picture' ? null : (
        <View role="group" aria-label="By hand" style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
          {(['fill', 'keep'] as const).map((kind) => (
            <Action
              key={kind}
              compact
              main={painting === kind}
              icon={painting === kind ? 'check' : kind === 'fill' ? 'format-color-fill' : 'hand-back-right-outline'}
              onPress={() => onPainting(painting === kind ? null : kind)}
            >
              {painting === kind ? 'Done painting' : kind === 'fill' ? 'Fill by hand' : 'Keep by hand'}
            </Action>
          ))}
          {page.recipe!.touches?.length ? (
            <Action compact onPress={() => dispatch(unpaintPage(page))}>
              Take strokes away
            </Action>
          ) : null}
        </View>
      )}
      <AdjustSliders filter={used} adjusting={adjusting} wide={width > 520} />
      {others.length > 1 ? (
        <Action icon="checkbox-multiple-outline" onPress={() => setChoosing(true)} style={{ alignSelf: 'flex-start' }}>
          Use for some pages
        </Action>
      ) : null}
      {choosing ? (
        <PagePicker
          title={`${filterLabel(chosen)} for these pages?`}
          pages={others}
          all={all}
          recipeFor={({ recipe }) => {
            const { adjust: _own, ...rest } = recipe!;
            return { ...rest, ...finish };
          }}
          onUse={(some) => dispatch(setFinish(some, finish, `${filterLabel(chosen)} for ${some.length} more pages`))}
          onClose={() => setChoosing(false)}
        />
      ) : null}
    </View>
  );
}
