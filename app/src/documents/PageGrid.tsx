import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
  type DragEndEvent,
} from '@dnd-kit/core';
import { rectSortingStrategy, SortableContext, sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { useLayoutEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { anchorFor, type Document, type Page } from '@libretto/model';
import { placePages } from '../store/arranging';
import { deletePages, movePage, turnPages } from '../store/editing';
import { useAppDispatch } from '../store/store';
import { PopUp } from '../ui/PopUp';
import { VirtualList } from '../ui/VirtualList';
import { useSay } from '../ui/words/words';
import { PageLeaf } from './PageLeaf';
import type { Selection } from './useSelection';

export interface PageGridProps {
  document: Document;
  pages: readonly Page[];
  selected?: string;
  selection: Selection;
  onOpen: (page: Page) => void;
  header: ReactNode;
  footer?: ReactNode;
  /** One column, whatever the width. */
  narrow?: boolean;
}

/** The least a leaf's width is, px. */
const leafPx = 170;
const padPx = 8;

/** The pages in order; dragging (mouse, finger, keyboard) puts them into another. Only the rows that are seen are drawn. */
export function PageGrid({ document, pages, selected, selection, onOpen, header, footer, narrow = false }: PageGridProps) {
  const say = useSay();
  const dispatch = useAppDispatch();
  const [menu, setMenu] = useState<{ page: Page; x: number; y: number } | null>(null);
  const [width, setWidth] = useState(0);
  const inner = width - 2 * padPx;
  const columns = narrow ? 1 : Math.max(2, Math.floor(inner / leafPx));
  const leafWidth = Math.floor(inner / columns);
  const rows = width > 0 ? Math.ceil(pages.length / columns) : 0;
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 250, tolerance: 8 } }),
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      keyboardCodes: { start: ['Space'], cancel: ['Escape'], end: ['Space', 'Enter', 'Tab'] },
    }),
  );
  const place = (id: unknown) => document.pageIds.indexOf(String(id)) + 1;
  const announcements: Announcements = {
    onDragStart: ({ active }) => say('document.drag.lifted', { place: place(active.id) }),
    onDragOver: ({ over }) => (over ? say('document.drag.over', { place: place(over.id), total: pages.length }) : undefined),
    onDragEnd: ({ over }) => (over ? say('document.drag.down', { place: place(over.id) }) : say('document.drag.back')),
    onDragCancel: () => say('document.drag.back'),
  };
  const end = ({ active, over, activatorEvent }: DragEndEvent) => {
    const [lifted, onto] = [String(active.id), over ? String(over.id) : null];
    // Held and let go where it lay: a finger's way to choose it.
    if (onto === lifted && 'touches' in activatorEvent) selection.toggle(lifted);
    if (!onto || onto === lifted || (selection.has(lifted) && selection.has(onto))) return;
    const together = selection.has(lifted) ? selection.ids : [lifted];
    const group = pages.filter((p) => together.includes(p.id));
    void dispatch(placePages(document, group, anchorFor(document.pageIds, together, lifted, onto)));
  };
  const press = (page: Page, { shift, mod }: { shift: boolean; mod: boolean }) => {
    if (shift && !narrow) selection.reach(page.id);
    else if (selection.on || (mod && !narrow)) selection.toggle(page.id);
    else onOpen(page);
  };
  // Leaves are drawn anew for what they show only; what they call is always the latest.
  const latest = useRef({ press });
  useLayoutEffect(() => {
    latest.current = { press };
  });
  const onPress = useMemo(() => (page: Page, keys: { shift: boolean; mod: boolean }) => latest.current.press(page, keys), []);
  const at = menu ? document.pageIds.indexOf(menu.page.id) : 0;
  const shown = selected ? Math.floor(pages.findIndex((p) => p.id === selected) / columns) : undefined;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={end}
      accessibility={{ announcements, screenReaderInstructions: { draggable: say('document.drag.how') } }}
    >
      <SortableContext items={pages.map((p) => p.id)} strategy={rectSortingStrategy}>
        <VirtualList
          testID="page-grid"
          remembers={`pages of ${document.id}`}
          label={say('document.grid')}
          style={{ flex: 1, minHeight: 0 }}
          count={rows}
          keyOf={(row) => pages[row * columns]?.id ?? String(row)}
          sizeOf={() => leafWidth * 1.2 + 52}
          overscan={4}
          paddingEnd={16}
          onWidth={setWidth}
          header={header}
          footer={footer}
          {...(shown !== undefined && shown >= 0 && { shown })}
          render={(row) => (
            <View style={{ flexDirection: 'row', alignItems: 'flex-end', paddingHorizontal: padPx }}>
              {pages.slice(row * columns, (row + 1) * columns).map((page, i) => (
                <PageLeaf
                  key={page.id}
                  page={page}
                  folio={row * columns + i + 1}
                  total={pages.length}
                  width={leafWidth}
                  selected={page.id === selected}
                  other={page.checks[0]?.pageId ? place(page.checks[0].pageId) || null : null}
                  {...(selection.on && { chosen: selection.has(page.id) })}
                  onPress={onPress}
                  onMenu={(which, point) => setMenu({ page: which, ...point })}
                />
              ))}
            </View>
          )}
        />
      </SortableContext>
      {menu ? (
        <PopUp
          label={say('document.moreForPage', { folio: at + 1 })}
          at={menu}
          onClose={() => setMenu(null)}
          entries={[
            ...(narrow
              ? []
              : [
                  {
                    icon: 'checkbox-multiple-outline',
                    title: say(selection.has(menu.page.id) ? 'select.not' : 'select.this'),
                    onPress: () => selection.toggle(menu.page.id),
                  },
                ]),
            { icon: 'rotate-right', title: say('common.turn'), onPress: () => void dispatch(turnPages([menu.page])) },
            {
              icon: 'arrow-left',
              title: say('document.earlier'),
              disabled: at === 0,
              onPress: () => void dispatch(movePage(document, at, at - 1)),
            },
            {
              icon: 'arrow-right',
              title: say('document.later'),
              disabled: at === pages.length - 1,
              onPress: () => void dispatch(movePage(document, at, at + 1)),
            },
            {
              icon: 'delete-outline',
              title: say('common.delete'),
              onPress: () => void dispatch(deletePages(document, [menu.page])),
            },
          ]}
        />
      ) : null}
    </DndContext>
  );
}
