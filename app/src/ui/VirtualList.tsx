import { useVirtualizer } from '@tanstack/react-virtual';
import { useDeferredValue, useEffect, useRef, type ReactNode } from 'react';
import { useHeadSize } from './useHeadSize';

export interface VirtualListProps {
  /** How many entries there are, and a key for each. */
  count: number;
  keyOf: (index: number) => string;
  /** About how large an entry is along the list, px; it is measured once it is drawn. */
  sizeOf: (index: number) => number;
  render: (index: number) => ReactNode;
  horizontal?: boolean;
  /** How many entries are drawn beyond what is seen. */
  overscan?: number;
  gap?: number;
  /** Space before the first and after the last entry, px. */
  paddingStart?: number;
  paddingEnd?: number;
  /** What stands before the entries and after them, and scrolls with them. */
  header?: ReactNode;
  footer?: ReactNode;
  /** Brought into view when it changes. */
  shown?: number;
  /** Under this name the list is found again where it was left. */
  remembers?: string;
  label?: string;
  testID?: string;
  style?: React.CSSProperties;
  onWidth?: (width: number) => void;
}

/** Where lists were left, px, as long as the tab is open. */
const left = new Map<string, number>();

/** Text lays itself out inline, without its padding, unless its parent is a flex box. */
const column = { display: 'flex', flexDirection: 'column' } as const;

interface EntryProps {
  size: number;
  horizontal: boolean;
  /** The list is being scrolled. */
  hurried: boolean;
  children: ReactNode;
}

/** An entry; one that comes while the list is being scrolled is an empty space first and drawn in a quiet moment, so that the finger never waits for it. */
function Entry({ size, horizontal, hurried, children }: EntryProps) {
  const drawn = useDeferredValue(true, !hurried);
  return drawn ? children : <div style={horizontal ? { width: size } : { height: size }} />;
}

/** A list of which only what is seen is drawn, however long it is. */
export function VirtualList({
  count,
  keyOf,
  sizeOf,
  render,
  horizontal = false,
  overscan = 6,
  gap = 0,
  paddingStart = 0,
  paddingEnd = 0,
  header,
  footer,
  shown,
  remembers,
  label,
  testID,
  style,
  onWidth,
}: VirtualListProps) {
  const scroller = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const margin = useHeadSize(head, scroller, onWidth);
  // eslint-disable-next-line react-hooks/incompatible-library -- the list is drawn by its owner's render in any case
  const virtual = useVirtualizer({
    count,
    getScrollElement: () => scroller.current,
    estimateSize: sizeOf,
    getItemKey: keyOf,
    horizontal,
    overscan,
    gap,
    paddingStart,
    paddingEnd,
    scrollMargin: margin,
    // jsdom and the first frame know no sizes.
    initialRect: { width: 390, height: 844 },
    initialOffset: (remembers !== undefined && left.get(remembers)) || 0,
    onChange: ({ scrollOffset }, isScrolling) => {
      if (remembers !== undefined && isScrolling && scrollOffset !== null) left.set(remembers, scrollOffset);
    },
  });
  useEffect(() => {
    if (shown !== undefined && shown >= 0 && shown < count) virtual.scrollToIndex(shown, { align: 'auto' });
    // Only when another entry is to be shown.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [shown]);
  const total = virtual.getTotalSize();
  return (
    <div
      ref={scroller}
      data-testid={testID}
      data-count={count}
      {...(label && { role: 'group', 'aria-label': label })}
      style={{
        overflowX: horizontal ? 'auto' : 'hidden',
        overflowY: horizontal ? 'hidden' : 'auto',
        overscrollBehavior: 'contain',
        position: 'relative',
        ...style,
      }}
    >
      <div ref={head} style={column}>
        {header}
      </div>
      <div
        style={{ position: 'relative', ...(horizontal ? { width: total, height: '100%' } : { height: total, width: '100%' }) }}
      >
        {virtual.getVirtualItems().map((item) => (
          <div
            key={item.key}
            ref={virtual.measureElement}
            data-index={item.index}
            style={{
              ...column,
              position: 'absolute',
              ...(horizontal ? { bottom: 0, left: item.start - margin } : { left: 0, right: 0, top: item.start - margin }),
            }}
          >
            <Entry size={item.size} horizontal={horizontal} hurried={virtual.isScrolling}>
              {render(item.index)}
            </Entry>
          </div>
        ))}
      </div>
      <div style={column}>{footer}</div>
    </div>
  );
}
