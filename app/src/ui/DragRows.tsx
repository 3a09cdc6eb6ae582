import { closestCenter, DndContext, MouseSensor, TouchSensor, useSensor, useSensors } from '@dnd-kit/core';
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import type { ReactNode } from 'react';
import { Sign } from './Sign';
import { useTokens } from './theme';
import { corner, touch } from './tokens';

/** Rows that are put in order by a handle before each; by keyboard with what `row` holds for it. */
export function DragRows<T>({
  items,
  idOf,
  onOrder,
  row,
}: {
  items: readonly T[];
  idOf: (item: T, i: number) => string;
  onOrder: (items: T[]) => void;
  row: (item: T, i: number) => ReactNode;
}) {
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 4 } }),
    useSensor(TouchSensor, { activationConstraint: { distance: 4 } }),
  );
  const ids = items.map(idOf);
  return (
    <DndContext
      // Few rows, all of them in view.
      autoScroll={false}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) => {
        const [from, to] = [ids.indexOf(String(active.id)), over ? ids.indexOf(String(over.id)) : -1];
        if (to >= 0 && from !== to) onOrder(arrayMove([...items], from, to));
      }}
    >
      <SortableContext items={ids} strategy={verticalListSortingStrategy}>
        <div role="list" style={{ display: 'flex', flexDirection: 'column', gap: 6 }}>
          {items.map((item, i) => (
            <Row key={ids[i]} id={ids[i]!}>
              {row(item, i)}
            </Row>
          ))}
        </div>
      </SortableContext>
    </DndContext>
  );
}

function Row({ id, children }: { id: string; children: ReactNode }) {
  const t = useTokens();
  const { setNodeRef, setActivatorNodeRef, listeners, transform, transition, isDragging } = useSortable({ id });
  return (
    <div
      ref={setNodeRef}
      role="listitem"
      style={{
        display: 'flex',
        alignItems: 'center',
        gap: 4,
        position: 'relative',
        zIndex: isDragging ? 2 : 0,
        transform: CSS.Translate.toString(transform),
        transition,
        background: t.leaf,
        border: `1px solid ${isDragging ? t.wine : t.hairline}`,
        borderRadius: corner,
      }}
    >
      <div
        ref={setActivatorNodeRef}
        {...listeners}
        aria-hidden
        data-testid="drag-handle"
        style={{ display: 'flex', alignItems: 'center', justifyContent: 'center', width: 40, minHeight: touch, cursor: 'grab', touchAction: 'none' }} // prettier-ignore
      >
        <Sign source="drag-horizontal-variant" size={20} color={t.pencil} />
      </div>
      {children}
    </div>
  );
}
