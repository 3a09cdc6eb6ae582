import { useRouter } from 'expo-router';
import { useState } from 'react';
import { filterIds, interleaved, type Document, type Page } from '@libretto/model';
import { orderPages } from '../store/arranging';
import { deletePages, setFinish, turnPages } from '../store/editing';
import { noticed } from '../store/session';
import { useAppDispatch } from '../store/store';
import { Bar, BarAction } from '../ui/BarAction';
import { MoreMenu, type MenuEntry } from '../ui/MoreMenu';
import { useKeys } from '../ui/useKeys';
import { problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { savePdfOf } from '../work/exporting';
import { bringIn, chooseFiles } from '../work/importing';
import { wasCancelled } from '../work/pool';
import { problemOf } from '../work/problem';
import { MoveSheet } from './MoveSheet';
import { OrderSheet } from './OrderSheet';
import type { Selection } from './useSelection';

export interface SelectionBarProps {
  document: Document;
  pages: readonly Page[];
  selection: Selection;
}

/** What can be done with the pages that are chosen; in the place where *Send* stands otherwise. */
export function SelectionBar({ document, pages, selection }: SelectionBarProps) {
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const [moving, setMoving] = useState(false);
  const [order, setOrder] = useState<{ title: string; ids: string[] } | null>(null);
  const chosen = pages.filter((p) => selection.has(p.id));
  const none = !chosen.length;
  const alone = chosen.length === 1 ? chosen[0]! : null;
  const ids = chosen.map((p) => p.id);
  const turn = () => !none && void dispatch(turnPages(chosen));
  const remove = () => {
    if (none) return;
    void dispatch(deletePages(document, chosen));
    selection.end();
  };
  useKeys({
    r: turn,
    delete: remove,
    backspace: remove,
    m: () => !none && setMoving(true),
    escape: selection.end,
  });
  const finish = (filter: (typeof filterIds)[number] | 'auto') =>
    void dispatch(setFinish(chosen, { filter }, { code: 'notice.finishChosen', values: { filter, count: chosen.length } }));
  const looks = alone?.recipe;
  const next = alone && document.pageIds[document.pageIds.indexOf(alone.id) + 1];
  const more: MenuEntry[] = [
    {
      icon: 'content-copy',
      title: say('select.sameLook'),
      disabled: !looks || pages.length < 2,
      onPress: () =>
        looks &&
        void dispatch(
          setFinish(
            pages,
            { filter: looks.filter, ...(looks.adjust && { adjust: looks.adjust }) },
            {
              code: 'notice.sameLook',
              values: { folio: pages.indexOf(alone!) + 1, count: pages.length - 1 },
            },
          ),
        ),
    },
    {
      icon: 'camera-retake-outline',
      title: say('check.action.retake'),
      disabled: !alone,
      onPress: () => alone && router.navigate(`/capture?into=${document.id}&again=${alone.id}`),
    },
    {
      icon: 'image-plus',
      title: say('select.insert'),
      disabled: !alone,
      onPress: () =>
        alone &&
        chooseFiles((files) => {
          selection.end();
          void dispatch(bringIn(files, document.id, { ...(next && { before: next }) }));
        }),
    },
    {
      icon: 'camera-plus-outline',
      title: say('select.insertByCamera'),
      disabled: !alone,
      onPress: () => router.navigate(`/capture?into=${document.id}${next ? `&before=${next}` : ''}`),
    },
    {
      icon: 'cellphone-arrow-down',
      title: say('select.savePdf'),
      disabled: !chosen.some((p) => p.state === 'ready'),
      onPress: () =>
        void dispatch(savePdfOf(document, chosen, say('select.pdfName', { name: document.name, count: chosen.length }))).catch(
          (error: unknown) =>
            wasCancelled(error) ||
            dispatch(noticed({ code: 'notice.notMade', values: { reason: problemAlone(say, problemOf(error)) } })),
        ),
    },
    {
      icon: 'swap-vertical',
      title: say('select.reverse'),
      disabled: chosen.length < 2,
      onPress: () => setOrder({ title: say('select.reverse'), ids: [...ids].reverse() }),
    },
    {
      icon: 'book-open-page-variant-outline',
      title: say('select.interleave'),
      disabled: chosen.length < 3,
      onPress: () => setOrder({ title: say('select.interleave'), ids: interleaved(ids) }),
    },
  ];
  const filters: MenuEntry[] = (['auto', ...filterIds] as const).map((id) => ({
    title: say(`filter.${id}`),
    onPress: () => finish(id),
  }));
  return (
    <Bar label={say('select.bar')}>
      <BarAction icon="rotate-right" label={say('common.turn')} disabled={none} onPress={turn} />
      <MoreMenu label={say('finish.filters')} entries={filters}>
        {(open) => <BarAction icon="auto-fix" label={say('select.finish')} disabled={none} menu onPress={open} />}
      </MoreMenu>
      <BarAction icon="file-move-outline" label={say('select.move')} disabled={none} onPress={() => setMoving(true)} />
      <BarAction icon="delete-outline" label={say('common.delete')} disabled={none} onPress={remove} />
      <MoreMenu label={say('common.more')} entries={more}>
        {(open) => <BarAction icon="dots-horizontal" label={say('common.more')} disabled={none} menu onPress={open} />}
      </MoreMenu>
      {moving ? (
        <MoveSheet
          document={document}
          all={pages}
          pages={chosen}
          onClose={() => setMoving(false)}
          onMoved={(to) => {
            setMoving(false);
            selection.end();
            if (to) router.replace(`/document/${to}`);
          }}
        />
      ) : null}
      {order ? (
        <OrderSheet
          title={order.title}
          order={order.ids}
          pages={pages}
          onClose={() => setOrder(null)}
          onUse={() => {
            void dispatch(orderPages(document, order.ids, { code: 'notice.ordered', values: { count: order.ids.length } }));
            setOrder(null);
          }}
        />
      ) : null}
    </Bar>
  );
}
