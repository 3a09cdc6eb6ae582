import type { Plane, Point } from '../raster/raster';

/** Places across and down an outline. */
const grid = 80;
/** Neighbours closer than this in L* and in colour (a*, b*) lie on one surface. */
const stepL = 4;
const stepColour = 5;

/** The surfaces that lie within an outline: a sheet's paper runs on between its words, keys and tiles each stand alone. */
export interface Surfaces {
  /** Share of the inside that the largest surface covers. */
  largest: number;
  /** Share of what lies along the outline, just within it, that the largest surface covers. */
  along: number;
  /** The second's size, share of the largest's. */
  second: number;
  /** Share of the inside that surfaces of about one size cover (within a factor of 2.5, each 0.1 to 10 % of the inside). */
  equal: number;
  /** How many these are. */
  pieces: number;
  /** Levels of L* by which the largest is lighter than the rest. */
  lighter: number;
}

/** Labels what is connected on a grid within a quad by union and find (Rosenfeld and Pfaltz 1966); places beyond the picture count as nothing. */
export function surfacesIn([a, b, c, d]: readonly Point[], lab: readonly Plane[]): Surfaces {
  const { width, height } = lab[0];
  const places = grid * grid;
  const at = new Int32Array(places).fill(-1);
  let seen = 0;
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      const [u, v] = [0.03 + (0.94 * i) / (grid - 1), 0.03 + (0.94 * j) / (grid - 1)];
      const x = Math.round((a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + c[0] * u) * v);
      const y = Math.round((a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + c[1] * u) * v);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      at[j * grid + i] = y * width + x;
      seen++;
    }
  const parent = Int32Array.from(at, (_, i) => i);
  const root = (i: number): number => {
    while (parent[i] !== i) i = parent[i] = parent[parent[i]];
    return i;
  };
  const [L, A, B] = lab.map((plane) => plane.data);
  const join = (i: number, k: number) => {
    const [p, q] = [at[i], at[k]];
    if (p < 0 || q < 0 || Math.abs(L[p] - L[q]) >= stepL || Math.hypot(A[p] - A[q], B[p] - B[q]) >= stepColour) return;
    parent[root(i)] = root(k);
  };
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      if (i + 1 < grid) join(j * grid + i, j * grid + i + 1);
      if (j + 1 < grid) join(j * grid + i, (j + 1) * grid + i);
    }
  const sizes = new Map<number, number>();
  for (let i = 0; i < places; i++) if (at[i] >= 0) sizes.set(root(i), (sizes.get(root(i)) ?? 0) + 1);
  const order = [...sizes].sort((p, q) => q[1] - p[1]);
  if (!order.length) return { largest: 0, along: 0, second: 0, equal: 0, pieces: 0, lighter: 0 };
  const [paper, most] = order[0];
  let [along, round, light, rest] = [0, 0, 0, 0];
  for (let i = 0; i < places; i++) {
    if (at[i] < 0) continue;
    const own = root(i) === paper;
    if (own) light += L[at[i]];
    else rest += L[at[i]];
    const edge = Math.min(i % grid, grid - 1 - (i % grid), Math.floor(i / grid), grid - 1 - Math.floor(i / grid));
    if (edge > 1) continue;
    round++;
    if (own) along++;
  }
  const alike = order.map(([, n]) => n).filter((n) => n > 0.001 * seen && n < 0.1 * seen);
  let [equal, pieces] = [0, 0];
  for (let from = 0, to = 0, sum = 0; from < alike.length; sum -= alike[from++]) {
    while (to < alike.length && alike[to] * 2.5 >= alike[from]) sum += alike[to++];
    if (sum > equal) [equal, pieces] = [sum, to - from];
  }
  return {
    largest: most / seen,
    along: round ? along / round : 0,
    second: (order[1]?.[1] ?? 0) / most,
    equal: equal / seen,
    pieces,
    lighter: seen > most ? light / most - rest / (seen - most) : 0,
  };
}
