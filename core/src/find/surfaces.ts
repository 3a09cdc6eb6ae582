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

/**
 * The places of a grid within a quad in a picture, row by row; −1 where they lie beyond it.
 */
function placesIn([a, b, c, d]: readonly Point[], { width, height }: Plane): Int32Array {
  const at = new Int32Array(grid * grid).fill(-1);
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      const [u, v] = [0.03 + (0.94 * i) / (grid - 1), 0.03 + (0.94 * j) / (grid - 1)];
      const x = Math.round((a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + c[0] * u) * v);
      const y = Math.round((a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + c[1] * u) * v);
      if (x >= 0 && y >= 0 && x < width && y < height) at[j * grid + i] = y * width + x;
    }
  return at;
}

/** Labels what is connected on a grid within a quad by union and find (Rosenfeld and Pfaltz 1966); places beyond the picture count as nothing. */
export function surfacesIn(corners: readonly Point[], lab: readonly Plane[]): Surfaces {
  const places = grid * grid;
  const at = placesIn(corners, lab[0]);
  const seen = at.reduce((sum, place) => sum + Number(place >= 0), 0);
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

/** Shifts at which rows of keys, tiles or slats are looked for, places. */
const shifts = { least: 3, most: 30 };
/** The lightness round a place that is taken off, places to each side. */
const around = 8;

/**
 * How much what lies within a quad repeats itself across and down it, the stronger first: the mean correlation of its rows (columns) with themselves at the shift that suits them best, after a shift at which they correlate least.
 * Lines of print repeat one way only, keys and tiles both ways.
 *
 * @returns two numbers, −1 to 1.
 */
export function repetition(corners: readonly Point[], lab: readonly Plane[]): [number, number] {
  const at = placesIn(corners, lab[0]);
  const L = lab[0].data;
  const along = (step: number, across: number): number => {
    const sums = new Float64Array(shifts.most + 1);
    let energy = 0;
    const line = new Float64Array(grid);
    for (let k = 0; k < grid; k++) {
      let any = true;
      const values = Array.from({ length: grid }, (_, i) => {
        const place = at[k * across + i * step];
        any &&= place >= 0;
        return place >= 0 ? L[place] : 0;
      });
      if (!any) continue;
      for (let i = 0; i < grid; i++) {
        let [sum, n] = [0, 0];
        for (let m = Math.max(0, i - around); m <= Math.min(grid - 1, i + around); m++, n++) sum += values[m];
        line[i] = values[i] - sum / n;
        energy += line[i] * line[i];
      }
      for (let s = 1; s <= shifts.most; s++) {
        let sum = 0;
        for (let i = 0; i + s < grid; i++) sum += line[i] * line[i + s];
        sums[s] += (sum * grid) / (grid - s);
      }
    }
    // What is even repeats nothing: noise of half a level.
    energy += 0.25 * grid * grid;
    let [least, best] = [1, 0];
    for (let s = 1; s <= shifts.most; s++) {
      const r = sums[s] / energy;
      least = Math.min(least, r);
      if (s >= shifts.least) best = Math.max(best, r - Math.max(0, least));
    }
    return best;
  };
  const [across, down] = [along(1, grid), along(grid, 1)];
  return [Math.max(across, down), Math.min(across, down)];
}
