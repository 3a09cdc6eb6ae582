import { createPlane, type Plane, type Point } from '../raster/raster';
import type { PageMap } from '../rectify/pageMap';
import type { Litter } from './tidy';

/** A stroke painted over a page: to be filled with paper, or to be kept as photographed. It lies on the photo, so that it stays on the print when a corner moves. */
export interface Touch {
  kind: 'fill' | 'keep';
  /** Photo px. */
  points: readonly Point[];
  /** Photo px. */
  radius: number;
}

type Size = { width: number; height: number };
/** Where a page lies in its photo, and its size on paper. */
type Mapped = { map: PageMap; widthMm: number; heightMm: number };

/** What is to be filled on a page of this size, after what was painted by hand; later strokes go over earlier ones. */
export function touchedUp(litter: Litter | null, touches: readonly Touch[], size: Size, page: Mapped): Litter | null {
  if (!touches.length) return litter;
  const mask = litter ? { ...litter.mask, data: litter.mask.data.slice() } : createPlane(size.width, size.height);
  for (const touch of touches) stamp(mask, touch, touch.kind === 'fill' ? 1 : 0, page);
  return mask.data.some((v) => v > 0) ? { mask, places: litter?.places ?? 0 } : null;
}

/** 1 where the last stroke that was painted is of this kind; null where there is none. */
export function painted(touches: readonly Touch[], kind: Touch['kind'], size: Size, page: Mapped): Plane | null {
  if (!touches.some((touch) => touch.kind === kind)) return null;
  const mask = createPlane(size.width, size.height);
  for (const touch of touches) stamp(mask, touch, touch.kind === kind ? 1 : 0, page);
  return mask;
}

function stamp(
  { width, height, data }: Plane,
  { points, radius }: Touch,
  value: number,
  { map, widthMm, heightMm }: Mapped,
): void {
  const places = points.map((p) => map.toPage(p));
  const r = Math.max(1, (radius / map.scaleAt(places[0])) * Math.max(width / widthMm, height / heightMm));
  const line = places.map(([u, v]): Point => [u * width - 0.5, v * height - 0.5]);
  for (const [i, b] of line.entries()) {
    const a = line[Math.max(0, i - 1)];
    const x1 = Math.min(width - 1, Math.ceil(Math.max(a[0], b[0]) + r));
    const y1 = Math.min(height - 1, Math.ceil(Math.max(a[1], b[1]) + r));
    for (let y = Math.max(0, Math.floor(Math.min(a[1], b[1]) - r)); y <= y1; y++)
      for (let x = Math.max(0, Math.floor(Math.min(a[0], b[0]) - r)); x <= x1; x++)
        if (distance([x, y], a, b) <= r) data[y * width + x] = value;
  }
}

/** From a point to a line between two others. */
function distance([x, y]: Point, a: Point, b: Point): number {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const t = dx || dy ? Math.max(0, Math.min(1, ((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy))) : 0;
  return Math.hypot(x - a[0] - t * dx, y - a[1] - t * dy);
}
