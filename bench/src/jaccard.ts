import type { Point } from '@libretto/core';

/**
 * Jaccard index of two outlines in the true page's own plane, so that a far corner counts as much as a near one: the measure of
 * the ICDAR 2015 smartphone document capture competition, challenge 1 (Burie et al., ICDAR 2015).
 *
 * @param truth the page's corners, in its own order from top-left.
 * @param found the corners to judge, any start.
 * @param sizeMm the page's true width and height.
 * @param picture width and height of the photo, to judge only by the part of both that lies in it.
 */
export function jaccard(
  truth: readonly Point[],
  found: readonly Point[],
  sizeMm: readonly [number, number],
  picture?: readonly [number, number],
): number {
  const [w, h] = sizeMm;
  const rectangle: Point[] = [[0, 0], [w, 0], [w, h], [0, h]]; // prettier-ignore
  const H = homographyOf(truth, rectangle);
  const middle = centre(truth);
  const reference = H[6] * middle[0] + H[7] * middle[1] + 1;
  if (found.some(([x, y]) => (H[6] * x + H[7] * y + 1) / reference <= 1e-6)) return 0;
  const toPage = (corners: readonly Point[]) =>
    corners.map(([x, y]): Point => {
      const d = H[6] * x + H[7] * y + 1;
      return [(H[0] * x + H[1] * y + H[2]) / d, (H[3] * x + H[4] * y + H[5]) / d];
    });
  const frame: Point[] | null = picture ? [[-0.5, -0.5], [picture[0] - 0.5, -0.5], [picture[0] - 0.5, picture[1] - 0.5], [-0.5, picture[1] - 0.5]] : null; // prettier-ignore
  const page = frame ? toPage(clip(truth, frame)) : rectangle;
  const mapped = toPage(frame ? clip(found, frame) : found);
  const shared = area(clip(mapped, page));
  const union = area(mapped) + area(page) - shared;
  return union > 0 ? shared / union : 0;
}

function centre(p: readonly Point[]): Point {
  return [p.reduce((s, q) => s + q[0], 0) / p.length, p.reduce((s, q) => s + q[1], 0) / p.length];
}

function area(p: readonly Point[]): number {
  let s = 0;
  for (let i = 0; i < p.length; i++) {
    const q = p[(i + 1) % p.length]!;
    s += p[i]![0] * q[1] - q[0] * p[i]![1];
  }
  return Math.abs(s) / 2;
}

/** Sutherland and Hodgman 1974; `window` convex, clockwise on screen. */
function clip(subject: readonly Point[], window: readonly Point[]): Point[] {
  let out = [...subject];
  for (let i = 0; i < window.length; i++) {
    const a = window[i]!;
    const b = window[(i + 1) % window.length]!;
    const side = (p: Point) => (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0]);
    const from = out;
    out = [];
    for (let j = 0; j < from.length; j++) {
      const p = from[j]!;
      const q = from[(j + 1) % from.length]!;
      const sp = side(p);
      const sq = side(q);
      if (sp >= 0) out.push(p);
      if (sp > 0 !== sq > 0 && sp !== sq)
        out.push([p[0] + ((q[0] - p[0]) * sp) / (sp - sq), p[1] + ((q[1] - p[1]) * sp) / (sp - sq)]);
    }
  }
  return out;
}

/** The eight unknowns of the homography that takes four points onto four others, by elimination: independent of the core's own. */
function homographyOf(from: readonly Point[], to: readonly Point[]): number[] {
  const m: number[][] = [];
  for (let i = 0; i < 4; i++) {
    const [x, y] = from[i]!;
    const [u, v] = to[i]!;
    m.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  for (let c = 0; c < 8; c++) {
    let pivot = c;
    for (let r = c; r < 8; r++) if (Math.abs(m[r]![c]!) > Math.abs(m[pivot]![c]!)) pivot = r;
    [m[c], m[pivot]] = [m[pivot]!, m[c]!];
    for (let r = 0; r < 8; r++) {
      if (r === c) continue;
      const f = m[r]![c]! / m[c]![c]!;
      for (let k = c; k <= 8; k++) m[r]![k]! -= f * m[c]![k]!;
    }
  }
  return m.map((row, i) => row[8]! / row[i]!);
}
