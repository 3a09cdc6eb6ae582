import { useState } from 'react';
import { Image, Pressable, View } from 'react-native';
import { Text } from 'react-native-paper';
import { filterIds, type FilterId, type Page, type Touch } from '@libretto/model';
import { Action } from '../ui/Action';
import { usePageImage } from '../work/usePageImage';
import { setFinish, tidyPage, unpaintPage } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { SwitchRow } from '../ui/SwitchRow';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { useArrows } from '../ui/useArrows';
import { problemAlone } from '../ui/words/format';
import { sayCode, useSay } from '../ui/words/words';
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
  const say = useSay();
  const dispatch = useAppDispatch();
  const { filter: chosen, adjust } = page.recipe!;
  const tidy = page.recipe!.tidy !== false;
  const { image } = usePageImage(page, 'screen');
  const [choosing, setChoosing] = useState(false);
  const finish = { filter: chosen, ...(adjust && { adjust }) };
  const columns = width > 760 ? 4 : width > 520 ? 3 : 2;
  const nameOf = (filter: FilterId | 'auto') => say(`filter.${filter}`);
  const used = chosen === 'auto' ? (details.auto ?? page.made?.filter ?? 'grey') : chosen;
  const choose = (filter: typeof chosen) => void dispatch(setFinish([page], { filter, ...(adjust && { adjust }) }));
  const arrows = useArrows(filterIds, used, choose);
  const card = (id: FilterId) => {
    const label = nameOf(id);
    const about = say(`filterAbout.${id}`);
    const picked = details.auto === id;
    const on = chosen === id || (chosen === 'auto' && picked);
    const url = details.urls[id];
    return (
      <Pressable
        key={id}
        role="radio"
        aria-checked={on}
        aria-label={say('send.place', { name: label, about })}
        tabIndex={arrows.tabIndexOf(id)}
        onPress={() => choose(id)}
        style={{ gap: 4 }}
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
            <Spinner size={18} />
          )}
        </View>
        <Text numberOfLines={2}>
          <Text variant={on ? 'labelMedium' : 'bodyMedium'} style={{ color: on ? t.wine : t.ink }}>
            {label}
          </Text>
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {picked && chosen === 'auto' ? say('finish.autoMark') : ` ${about}`}
          </Text>
        </Text>
      </Pressable>
    );
  };
  return (
    <View style={{ padding: 14, gap: 12 }}>
      {details.problem ? <Text style={{ color: t.rust }}>{problemAlone(say, details.problem)}</Text> : null}
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <Text variant="bodySmall" style={{ flex: 1, color: t.pencil }} testID="why">
          {details.auto && details.why
            ? say('finish.auto', { filter: nameOf(details.auto), why: sayCode(say, 'why', { code: details.why }) })
            : ' '}
        </Text>
        <Action
          compact
          icon={chosen === 'auto' ? 'check' : 'auto-fix'}
          disabled={chosen === 'auto'}
          onPress={() => choose('auto')}
        >
          {say(chosen === 'auto' ? 'finish.autoPicks' : 'finish.letAuto')}
        </Action>
      </View>
      <div
        role="radiogroup"
        aria-label={say('finish.filters')}
        onKeyDown={arrows.onKeyDown}
        style={{ display: 'grid', gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, gap: 10 }}
      >
        {filterIds.map(card)}
      </div>
      {used === 'original' || used === 'picture' ? null : (
        <SwitchRow
          label={say('finish.tidy')}
          about={tidy && image?.tidied ? say('finish.tidied', { count: image.tidied }) : say('finish.tidyAbout')}
          on={tidy}
          onPress={() => void dispatch(tidyPage(page, !tidy))}
        />
      )}
      {used === 'original' || used === 'picture' ? null : (
        <View role="group" aria-label={say('finish.byHand')} style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
          {(['fill', 'keep'] as const).map((kind) => (
            <Action
              key={kind}
              compact
              main={painting === kind}
              icon={painting === kind ? 'check' : kind === 'fill' ? 'format-color-fill' : 'hand-back-right-outline'}
              onPress={() => onPainting(painting === kind ? null : kind)}
            >
              {say(painting === kind ? 'finish.painted' : kind === 'fill' ? 'finish.fill' : 'finish.keep')}
            </Action>
          ))}
          {page.recipe!.touches?.length ? (
            <Action compact onPress={() => void dispatch(unpaintPage(page))}>
              {say('finish.unpaint')}
            </Action>
          ) : null}
        </View>
      )}
      <AdjustSliders filter={used} adjusting={adjusting} wide={width > 520} />
      {others.length > 1 ? (
        <Action icon="checkbox-multiple-outline" onPress={() => setChoosing(true)} style={{ alignSelf: 'flex-start' }}>
          {say('finish.useForSome')}
        </Action>
      ) : null}
      {choosing ? (
        <PagePicker
          title={say('finish.forThese', { filter: nameOf(chosen) })}
          pages={others}
          all={all}
          recipeFor={({ recipe }) => {
            const { adjust: _own, ...rest } = recipe!;
            return { ...rest, ...finish };
          }}
          onUse={(some) =>
            void dispatch(setFinish(some, finish, { code: 'notice.finishSome', values: { filter: chosen, count: some.length } }))
          }
          onClose={() => setChoosing(false)}
        />
      ) : null}
    </View>
  );
}
