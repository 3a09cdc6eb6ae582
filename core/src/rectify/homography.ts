import type { Point } from '../raster/raster';

/** Row-major 3×3 matrix; `(x, y, 1)` maps to `(u·w, v·w, w)`. */
export type Homography = readonly [number, number, number, number, number, number, number, number, number];

/**
 * The homography that takes four points onto four others: normalised DLT (Hartley and Zisserman, Multiple View Geometry, 2nd ed.,
 * algorithm 4.2; for four pairs it is exact).
 *
 * @throws RangeError when three of the points lie on a line.
 */
export function homography(from: readonly Point[], to: readonly Point[]): Homography {
  if (from.length !== 4 || to.length !== 4)
    throw new RangeError(`A homography needs four pairs of points, received ${from.length} and ${to.length}`);
  if (threeOnALine(from) || threeOnALine(to)) throw new RangeError('Three of the four corners lie on one line');
  const a = normalisation(from);
  const b = normalisation(to);
  const rows: number[][] = [];
  for (let i = 0; i < 4; i++) {
    const x = (from[i][0] - a.x) * a.s;
    const y = (from[i][1] - a.y) * a.s;
    const u = (to[i][0] - b.x) * b.s;
    const v = (to[i][1] - b.y) * b.s;
    rows.push([x, y, 1, 0, 0, 0, -u * x, -u * y, u], [0, 0, 0, x, y, 1, -v * x, -v * y, v]);
  }
  for (let c = 0; c < 8; c++) {
    let pivot = c;
    for (let r = c + 1; r < 8; r++) if (Math.abs(rows[r][c]) > Math.abs(rows[pivot][c])) pivot = r;
    [rows[c], rows[pivot]] = [rows[pivot], rows[c]];
    for (let r = 0; r < 8; r++) {
      if (r === c) continue;
      const f = rows[r][c] / rows[c][c];
      for (let k = c; k < 9; k++) rows[r][k] -= f * rows[c][k];
    }
  }
  const h = rows.map((row, i) => row[8] / row[i]);
  const normalised: Homography = [h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1];
  const into: Homography = [a.s, 0, -a.s * a.x, 0, a.s, -a.s * a.y, 0, 0, 1];
  const back: Homography = [1 / b.s, 0, b.x, 0, 1 / b.s, b.y, 0, 0, 1];
  return multiply(back, multiply(normalised, into));
}

export function multiply(m: Homography, n: Homography): Homography {
  const out = new Array<number>(9);
  for (let r = 0; r < 3; r++)
    for (let c = 0; c < 3; c++) out[r * 3 + c] = m[r * 3] * n[c] + m[r * 3 + 1] * n[3 + c] + m[r * 3 + 2] * n[6 + c];
  return out as unknown as Homography;
}

/** Where the homography takes a point. */
export function project(m: Homography, [x, y]: Point): Point {
  const w = m[6] * x + m[7] * y + m[8];
  return [(m[0] * x + m[1] * y + m[2]) / w, (m[3] * x + m[4] * y + m[5]) / w];
}

function threeOnALine(points: readonly Point[]): boolean {
  const size = Math.max(...points.map((p) => Math.hypot(p[0] - points[0][0], p[1] - points[0][1])));
  return [0, 1, 2, 3].some((skip) => {
    const [a, b, c] = points.filter((_, i) => i !== skip);
    return Math.abs((b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])) <= 1e-9 * size * size;
  });
}

/** Moves the centroid to the origin and the mean distance to √2. */
function normalisation(points: readonly Point[]) {
  const x = points.reduce((s, p) => s + p[0], 0) / points.length;
  const y = points.reduce((s, p) => s + p[1], 0) / points.length;
  const distance = points.reduce((s, p) => s + Math.hypot(p[0] - x, p[1] - y), 0) / points.length;
  return { x, y, s: distance > 0 ? Math.SQRT2 / distance : 1 };
}
