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
import { useState } from 'react';
import { View } from 'react-native';
import { Menu } from 'react-native-paper';
import type { Document, Page } from '@libretto/model';
import { deletePages, movePage, turnPages } from '../../state/editing';
import { useAppDispatch } from '../../state/store';
import { PageLeaf } from './PageLeaf';

export interface PageGridProps {
  document: Document;
  pages: readonly Page[];
  width: number;
  selected?: string;
  onOpen: (page: Page) => void;
}

/** The pages in order; dragging (mouse, finger, keyboard) puts them into another. */
export function PageGrid({ document, pages, width, selected, onOpen }: PageGridProps) {
  const dispatch = useAppDispatch();
  const [menu, setMenu] = useState<{ page: Page; x: number; y: number } | null>(null);
  const columns = Math.max(2, Math.floor(width / 190));
  const leafWidth = Math.floor(width / columns);
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
    onDragStart: ({ active }) => `Page ${place(active.id)} lifted. Arrow keys move it, Space puts it down.`,
    onDragOver: ({ over }) => (over ? `Over place ${place(over.id)} of ${pages.length}` : undefined),
    onDragEnd: ({ over }) => (over ? `Put down at place ${place(over.id)}` : 'Put back'),
    onDragCancel: () => 'Put back',
  };
  const end = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      dispatch(movePage(document, document.pageIds.indexOf(String(active.id)), document.pageIds.indexOf(String(over.id))));
  };
  const choose = (action: (page: Page) => void) => () => {
    if (menu) action(menu.page);
    setMenu(null);
  };
  const at = menu ? document.pageIds.indexOf(menu.page.id) : 0;
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={end}
      accessibility={{
        announcements,
        screenReaderInstructions: { draggable: 'Enter opens the page. Space lifts it for moving with the arrow keys.' },
      }}
    >
      <SortableContext items={pages.map((p) => p.id)} strategy={rectSortingStrategy}>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'flex-end' }}>
          {pages.map((page, i) => (
            <PageLeaf
              key={page.id}
              page={page}
              folio={i + 1}
              total={pages.length}
              width={leafWidth}
              selected={page.id === selected}
              onOpen={() => onOpen(page)}
              onMenu={(point) => setMenu({ page, ...point })}
            />
          ))}
        </View>
      </SortableContext>
      {menu ? (
        <Menu visible onDismiss={() => setMenu(null)} anchor={{ x: menu.x, y: menu.y }}>
          <Menu.Item leadingIcon="rotate-right" title="Turn" onPress={choose((page) => dispatch(turnPages([page])))} />
          <Menu.Item
            leadingIcon="arrow-left"
            title="Move earlier"
            disabled={at === 0}
            onPress={choose(() => dispatch(movePage(document, at, at - 1)))}
          />
          <Menu.Item
            leadingIcon="arrow-right"
            title="Move later"
            disabled={at === pages.length - 1}
            onPress={choose(() => dispatch(movePage(document, at, at + 1)))}
          />
          <Menu.Item
            leadingIcon="delete-outline"
            title="Delete"
            onPress={choose((page) => dispatch(deletePages(document, [page])))}
          />
        </Menu>
      ) : null}
    </DndContext>
  );
}
