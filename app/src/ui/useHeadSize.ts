import { useEffect, useState, type RefObject } from 'react';

/** How high a list's head is, so that its entries are counted from below it; tells the list's width as well. */
export function useHeadSize(
  head: RefObject<HTMLElement | null>,
  list: RefObject<HTMLElement | null>,
  onWidth?: (width: number) => void,
): number {
  const [size, setSize] = useState(0);
  useEffect(() => {
    if (!head.current || !list.current || typeof ResizeObserver === 'undefined') return;
    const observer = new ResizeObserver(() => {
      setSize(head.current?.offsetHeight ?? 0);
      if (list.current) onWidth?.(list.current.clientWidth);
    });
    observer.observe(head.current);
    observer.observe(list.current);
    return () => observer.disconnect();
  }, [head, list, onWidth]);
  return size;
}
