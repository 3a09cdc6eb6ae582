import { homography, project } from '@libretto/core/rectify/homography';
import type { Outline } from '@libretto/model';

export type Quad = Outline['quad'];
export type Point = Quad[number];

/** The quad with one corner elsewhere. */
export function withCorner(quad: Quad, corner: number, to: Point): Quad {
  return quad.map((p, i) => (i === corner ? to : p)) as Quad;
}

/** The quad with one side shifted parallel to itself: its corners slide along the neighbouring sides. */
export function withSide(quad: Quad, side: number, by: Point): Quad {
  const a = quad[side]!;
  const b = quad[(side + 1) % 4]!;
  const before = quad[(side + 3) % 4]!;
  const after = quad[(side + 2) % 4]!;
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const nx = -(b[1] - a[1]) / length;
  const ny = (b[0] - a[0]) / length;
  const shift = by[0] * nx + by[1] * ny;
  const slide = (from: Point, towards: Point): Point => {
    const dx = towards[0] - from[0];
    const dy = towards[1] - from[1];
    const along = dx * nx + dy * ny;
    if (Math.abs(along) < 1) return [from[0] + nx * shift, from[1] + ny * shift];
    return [from[0] + (dx * shift) / along, from[1] + (dy * shift) / along];
  };
  const next = [...quad] as Quad;
  next[side] = slide(a, before);
  next[(side + 1) % 4] = slide(b, after);
  return next;
}

/** Whether the corners go round clockwise on screen without crossing or folding in: only then there is a page to make. */
export function isPage(quad: Quad): boolean {
  for (let i = 0; i < 4; i++) {
    const [a, b, c] = [quad[i]!, quad[(i + 1) % 4]!, quad[(i + 2) % 4]!];
    if ((b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]) < 25) return false;
  }
  return true;
}

/** Corners may lie a quarter of the photo outside it. */
export function within(point: Point, width: number, height: number): Point {
  const out = 0.25 * Math.max(width, height);
  return [Math.max(-out, Math.min(width + out, point[0])), Math.max(-out, Math.min(height + out, point[1]))];
}

/** The curved outline that goes with moved corners: each side keeps its curve and follows its two ends. */
export function polygonFor(outline: Outline, quad: Quad): Point[] | undefined {
  const { polygon } = outline;
  if (!polygon || polygon.length % 4) return undefined;
  const n = polygon.length / 4;
  const moved = quad.map(([x, y], i) => [x - outline.quad[i]![0], y - outline.quad[i]![1]] as const);
  return polygon.map(([x, y], k): Point => {
    const side = Math.floor(k / n);
    const t = (k % n) / n;
    const [a, b] = [moved[side]!, moved[(side + 1) % 4]!];
    return [x + a[0] * (1 - t) + b[0] * t, y + a[1] * (1 - t) + b[1] * t];
  });
}

/** The side's curve bent by an amount in the middle, its ends where they are: the points of a polygon with as many points a side. */
export function bent(polygon: readonly Point[], side: number, by: Point): Point[] {
  const n = polygon.length / 4;
  return polygon.map(([x, y], k): Point => {
    if (Math.floor(k / n) !== side) return [x, y];
    const t = (k % n) / n;
    const share = 4 * t * (1 - t);
    return [x + by[0] * share, y + by[1] * share];
  });
}

/** Bow over chord from which a side counts as curved: below, it is the lens (measured: docs/finding.md). */
const curvedFrom = 0.006;

/** Whether a side of the outline is bent so far that it can be seen. */
export function isCurved({ quad, polygon }: Pick<Outline, 'quad' | 'polygon'>): boolean {
  if (!polygon) return false;
  const n = polygon.length / 4;
  return polygon.some((p, k) => {
    const [a, b] = [quad[Math.floor(k / n)]!, quad[(Math.floor(k / n) + 1) % 4]!];
    const chord = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    const off = Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / chord;
    return off / chord > curvedFrom;
  });
}

/** A straight outline as a polygon, so that its sides can be bent. */
export function asPolygon(quad: Quad, perSide = 16): Point[] {
  return quad.flatMap((a, i) => {
    const b = quad[(i + 1) % 4]!;
    return Array.from({ length: perSide }, (_, k): Point => {
      const t = k / perSide;
      return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
    });
  });
}

/** Corners and sides that lie near ones which the finder saw move onto them; `near` in photo px. */
export function snapped(
  quad: Quad,
  handle: { kind: 'corner' | 'side'; index: number },
  seen: readonly Quad[],
  near: number,
): Quad {
  const touched = handle.kind === 'corner' ? [handle.index] : [handle.index, (handle.index + 1) % 4];
  const closest = (p: Point): Point | null => {
    let best: Point | null = null;
    let least = near;
    for (const q of seen.flat()) {
      const d = Math.hypot(q[0] - p[0], q[1] - p[1]);
      if (d < least) [best, least] = [q, d];
    }
    return best;
  };
  const targets = touched.map((i) => closest(quad[i]!));
  if (targets.some((t) => !t)) return quad;
  return quad.map((p, i) => (touched.includes(i) ? targets[touched.indexOf(i)]! : p)) as Quad;
}

/** The middle three fifths of a page, for taking a part of it. */
export function middlePart(quad: Quad): Quad {
  const H = homography(unit, quad);
  return ([[0.2, 0.2], [0.8, 0.2], [0.8, 0.8], [0.2, 0.8]] as const).map((p) => plain(project(H, p))) as Quad; // prettier-ignore
}

/** The left and right (or upper and lower) half of a page, as it is read after its turn. */
export function halves(quad: Quad, across: boolean): [Quad, Quad] {
  const H = homography(unit, quad);
  const at = (x: number, y: number) => plain(project(H, [x, y]));
  return across
    ? [[at(0, 0), at(0.5, 0), at(0.5, 1), at(0, 1)], [at(0.5, 0), at(1, 0), at(1, 1), at(0.5, 1)]]
    : [[at(0, 0), at(1, 0), at(1, 0.5), at(0, 0.5)], [at(0, 0.5), at(1, 0.5), at(1, 1), at(0, 1)]]; // prettier-ignore
}

const unit = [[0, 0], [1, 0], [1, 1], [0, 1]] as const; // prettier-ignore
const plain = ([x, y]: readonly [number, number]): Point => [x, y];

/**
 * The quad of a page that shares a side with one that was moved: the two pages of an open book have their gutter in common, so it is one handle for both.
 * Null where they share no side, or where that side was not moved.
 *
 * @param near how far apart two corners may lie to be one, px.
 */
export function withGutter(before: Quad, after: Quad, other: Quad, near: number): Quad | null {
  const apart = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const own = other.map((corner) => before.findIndex((p) => apart(p, corner) < near));
  if (own.filter((i) => i >= 0).length !== 2) return null;
  if (own.every((i) => i < 0 || apart(before[i]!, after[i]!) === 0)) return null;
  return other.map((corner, k) => (own[k]! < 0 ? corner : after[own[k]!]!)) as Quad;
}
