import type { Outline } from '@libretto/model';

export type Quad = Outline['quad'];
export type Point = Quad[number];

export const cornerNames = ['Top left corner', 'Top right corner', 'Bottom right corner', 'Bottom left corner'] as const;
export const sideNames = ['Top side', 'Right side', 'Bottom side', 'Left side'] as const;

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
