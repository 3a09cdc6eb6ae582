import { useEffect, useRef, useState, type KeyboardEvent, type PointerEvent, type RefObject } from 'react';
import { asPolygon, bent, isPage, snapped, within, withCorner, withSide, type Point, type Quad } from './quad';

export type Handle = { kind: 'corner' | 'side' | 'curve'; index: number };

/** How near, in screen px, a dragged corner is taken onto one that the finder saw. */
const snapPx = 9;
/** Where along its side a curve handle sits: beside the side handle. */
export const curveAt = 0.75;
/** A run of nudges within this time is one step to undo. */
const settleMs = 700;

export interface HandlesOptions {
  box: RefObject<HTMLDivElement | null>;
  /** Screen px a photo px. */
  scale: number;
  photo: { width: number; height: number };
  quad: Quad;
  polygon: readonly Point[] | null;
  seen: readonly Quad[];
  onDraft: (quad: Quad) => void;
  onDone: (quad: Quad) => void;
  onBend: (polygon: Point[], done: boolean) => void;
}

/** Dragging an outline's handles by pointer and nudging them by the arrow keys. */
export function useHandles({ box, scale, photo, quad, polygon, seen, onDraft, onDone, onBend }: HandlesOptions) {
  const [drag, setDrag] = useState<{ handle: Handle; grip: Point; from: Quad; curve: readonly Point[]; finger: Point } | null>(
    null,
  );
  const [held, setHeld] = useState<Handle | null>(null);
  const pending = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const latest = useRef(quad);
  useEffect(() => {
    latest.current = quad;
  }, [quad]);

  const place = (from: Quad, handle: Handle, by: Point, snap = false): Quad => {
    if (handle.kind === 'curve') return from;
    const shape = handle.kind === 'corner' ? 'corner' : 'side';
    const moved =
      handle.kind === 'corner'
        ? withCorner(from, handle.index, [from[handle.index]![0] + by[0], from[handle.index]![1] + by[1]])
        : withSide(from, handle.index, by);
    const next = snap ? snapped(moved, { kind: shape, index: handle.index }, seen, snapPx / scale) : moved;
    const kept = next.map((p) => within(p, photo.width, photo.height)) as Quad;
    return isPage(kept) ? kept : latest.current;
  };
  const local = (event: PointerEvent): Point => {
    const r = box.current!.getBoundingClientRect();
    return [event.clientX - r.left, event.clientY - r.top];
  };
  const grab = (handle: Handle) => (event: PointerEvent<HTMLDivElement>) => {
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    const finger = local(event);
    setDrag({ handle, grip: finger, from: latest.current, curve: polygon ?? asPolygon(latest.current), finger });
  };
  const pull = (event: PointerEvent) => {
    if (!drag) return;
    const finger = local(event);
    setDrag({ ...drag, finger });
    const by: Point = [(finger[0] - drag.grip[0]) / scale, (finger[1] - drag.grip[1]) / scale];
    if (drag.handle.kind === 'curve') {
      const share = 4 * curveAt * (1 - curveAt);
      onBend(bent(drag.curve, drag.handle.index, [by[0] / share, by[1] / share]), false);
      return;
    }
    // With Alt held, or from the keyboard, nothing snaps.
    const next = place(drag.from, drag.handle, by, !event.altKey);
    latest.current = next;
    onDraft(next);
  };
  const letGo = () => {
    if (!drag) return;
    setDrag(null);
    if (drag.handle.kind === 'curve') {
      if (polygon && polygon !== drag.curve) onBend([...polygon], true);
      return;
    }
    if (latest.current !== drag.from) onDone(latest.current);
  };
  const nudge = (handle: Handle) => (event: KeyboardEvent) => {
    const far = event.shiftKey ? 10 : 1;
    const by = ({ ArrowLeft: [-far, 0], ArrowRight: [far, 0], ArrowUp: [0, -far], ArrowDown: [0, far] } as Record<string, Point>)[
      event.key
    ];
    if (!by) return;
    event.preventDefault();
    event.stopPropagation();
    if (handle.kind === 'curve') {
      const curve = polygon ?? asPolygon(latest.current);
      onBend(bent(curve, handle.index, by), true);
      return;
    }
    const next = place(latest.current, handle, by);
    latest.current = next;
    onDraft(next);
    // A run of nudges is one step to undo.
    clearTimeout(pending.current);
    pending.current = setTimeout(() => onDone(latest.current), settleMs);
  };
  const leave = () => {
    setHeld(null);
    if (!pending.current) return;
    clearTimeout(pending.current);
    pending.current = undefined;
    onDone(latest.current);
  };

  return {
    /** The handle that is being dragged or has the focus. */
    active: drag?.handle ?? held,
    /** Where the finger is while dragging, px of the stage. */
    finger: drag?.finger ?? null,
    dragging: drag !== null,
    local,
    pull,
    letGo,
    /** What a handle's own element needs. */
    on: (handle: Handle) => ({
      onPointerDown: grab(handle),
      onKeyDown: nudge(handle),
      onFocus: () => setHeld(handle),
      onBlur: leave,
    }),
  };
}
