import type { Plane, Point } from '../raster/raster';

/** Places along a side. */
const samples = 24;
/** Distances from an outline, share of the root of its area: just outside, further out, within. */
const near = [0.012, 0.022, 0.034] as const;
const far = [0.08, 0.11] as const;
const within = 0.04;
/** On the diagonals from a corner, within it, and where outline and surroundings show their own colours. */
const inCorner = [0.02, 0.035] as const;
const inside = 0.14;
const outside = 0.06;

/** What lies just outside an outline: a screen has a dark rim all round, a sheet a shadow on one or two sides. */
export interface Rim {
  /** Levels of L* by which a narrow band round the outline is darker than what lies within and beyond it: over its sides the mean, the least, the most. */
  mean: number;
  least: number;
  most: number;
  /** 0..1: how much the corners look like the surroundings: basins and screens are rounded, a sheet reaches into its corners. */
  rounded: number;
}

/** @param corners of an outline in the picture that `lab` is of; sides and corners beyond it tell nothing. */
export function rimOf(corners: readonly Point[], lab: readonly Plane[]): Rim {
  const { width, height } = lab[0];
  const place = (x: number, y: number) => {
    const [px, py] = [Math.round(x), Math.round(y)];
    return px < 0 || py < 0 || px >= width || py >= height ? -1 : py * width + px;
  };
  const cx = corners.reduce((s, p) => s + p[0], 0) / 4;
  const cy = corners.reduce((s, p) => s + p[1], 0) / 4;
  const size = Math.sqrt(Math.abs(corners.reduce((s, [x, y], i) => s + x * corners[(i + 1) % 4][1] - corners[(i + 1) % 4][0] * y, 0)) / 2); // prettier-ignore
  const L = lab[0].data;
  const rims: number[] = [];
  for (let k = 0; k < 4; k++) {
    const [a, b] = [corners[k], corners[(k + 1) % 4]];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    let [nx, ny] = [(b[1] - a[1]) / length, (a[0] - b[0]) / length];
    if (nx * (a[0] - cx) + ny * (a[1] - cy) < 0) [nx, ny] = [-nx, -ny];
    let [sum, n] = [0, 0];
    for (let i = 0; i < samples; i++) {
      const t = 0.08 + (0.84 * i) / (samples - 1);
      const [x, y] = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
      const at = (share: number) => place(x + nx * share * size, y + ny * share * size);
      const [nears, fars, inner] = [near.map(at), far.map(at), at(-within)];
      if (inner < 0 || nears.some((p) => p < 0) || fars.some((p) => p < 0)) continue;
      const beyond = fars.reduce((s, p) => s + L[p], 0) / fars.length;
      sum += Math.min(L[inner], beyond) - Math.min(...nears.map((p) => L[p]));
      n++;
    }
    if (n >= samples / 3) rims.push(sum / n);
  }
  const distance = (p: number, q: number) => Math.hypot(...lab.map(({ data }) => data[p] - data[q]));
  let [rounded, seen] = [0, 0];
  for (const [x, y] of corners) {
    const reach = Math.hypot(x - cx, y - cy) || 1;
    const [dx, dy] = [((cx - x) / reach) * size, ((cy - y) / reach) * size];
    const at = (share: number) => place(x + dx * share, y + dy * share);
    const [paper, ground] = [at(inside), at(-outside)];
    if (paper < 0 || ground < 0) continue;
    for (const share of inCorner) {
      const here = at(share);
      if (here < 0) continue;
      const [toPaper, toGround] = [distance(here, paper), distance(here, ground)];
      if (toPaper + toGround < 4) continue;
      rounded += toPaper / (toPaper + toGround);
      seen++;
    }
  }
  return {
    mean: rims.length ? rims.reduce((s, v) => s + v, 0) / rims.length : 0,
    least: rims.length ? Math.min(...rims) : 0,
    most: rims.length ? Math.max(...rims) : 0,
    rounded: seen ? rounded / seen : 0,
  };
}
