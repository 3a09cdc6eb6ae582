import { useCallback, useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import { useMeasured } from '../ui/useMeasured';
import type { Point } from './quad';

const margin = 26;
const mostZoom = 12;

export interface StageView {
  stage: { width: number; height: number };
  /** Screen px a photo px, and where the photo's top left corner is. */
  scale: number;
  left: number;
  top: number;
  zoomed: boolean;
  fit: () => void;
  /** For pointers that are on no handle: two of them pinch, one pans what is zoomed. */
  down: (event: PointerEvent) => void;
  move: (event: PointerEvent) => void;
  up: (event: PointerEvent) => void;
}

/** How a photo lies on its stage: fitted at first, zoomed by wheel and pinch about the spot under them, panned by dragging. */
export function useStageView(box: RefObject<HTMLDivElement | null>, photo: { width: number; height: number }): StageView {
  const stage = useMeasured(box);
  const [view, setView] = useState({ zoom: 1, x: 0, y: 0 });
  const pointers = useRef(new Map<number, Point>());
  const fitted = Math.max(0.001, Math.min((stage.width - 2 * margin) / photo.width, (stage.height - 2 * margin) / photo.height));
  const scale = fitted * view.zoom;
  const kept = useCallback(
    (zoom: number, x: number, y: number) => {
      const reach = (edge: number, room: number) => Math.max(0, (edge * fitted * zoom - room) / 2 + 2 * margin);
      const [rx, ry] = [reach(photo.width, stage.width), reach(photo.height, stage.height)];
      return zoom <= 1 ? { zoom: 1, x: 0, y: 0 } : { zoom, x: Math.max(-rx, Math.min(rx, x)), y: Math.max(-ry, Math.min(ry, y)) };
    },
    [fitted, photo.width, photo.height, stage.width, stage.height],
  );
  const zoomAt = useCallback(
    (factor: number, [px, py]: Point) =>
      setView((v) => {
        const zoom = Math.max(1, Math.min(mostZoom, v.zoom * factor));
        const k = zoom / v.zoom;
        // The spot under the pointer stays there.
        const [dx, dy] = [px - stage.width / 2, py - stage.height / 2];
        return kept(zoom, dx - (dx - v.x) * k, dy - (dy - v.y) * k);
      }),
    [kept, stage.width, stage.height],
  );
  const local = (event: { clientX: number; clientY: number }): Point => {
    const r = box.current!.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };
  useEffect(() => {
    const element = box.current!;
    const wheel = (event: WheelEvent) => {
      event.preventDefault();
      const r = element.getBoundingClientRect();
      zoomAt(Math.exp(-event.deltaY / 400), [event.clientX - r.left, event.clientY - r.top]);
    };
    // React's own wheel handlers may not keep the page from scrolling.
    element.addEventListener('wheel', wheel, { passive: false });
    return () => element.removeEventListener('wheel', wheel);
  }, [box, zoomAt]);
  return {
    stage,
    scale,
    left: (stage.width - photo.width * scale) / 2 + view.x,
    top: (stage.height - photo.height * scale) / 2 + view.y,
    zoomed: view.zoom > 1,
    fit: () => setView({ zoom: 1, x: 0, y: 0 }),
    down: (event) => void pointers.current.set(event.pointerId, local(event)),
    move: (event) => {
      const before = pointers.current.get(event.pointerId);
      if (!before) return;
      const now = local(event);
      const other = [...pointers.current].find(([id]) => id !== event.pointerId)?.[1];
      pointers.current.set(event.pointerId, now);
      if (other) {
        const apart = (p: Point) => Math.hypot(p[0] - other[0], p[1] - other[1]) || 1;
        zoomAt(apart(now) / apart(before), [(now[0] + other[0]) / 2, (now[1] + other[1]) / 2]);
      } else setView((v) => kept(v.zoom, v.x + now[0] - before[0], v.y + now[1] - before[1]));
    },
    up: (event) => void pointers.current.delete(event.pointerId),
  };
}
