import type { Plane, Point } from '../raster/raster';
import { surroundings } from './background';
import type { Candidate } from './candidates';
import { base, cuts, depth, packed, step } from './evidenceWeights';
import { overlap } from './overlap';
import { rimOf } from './rim';
import { repetition, surfacesIn } from './surfaces';
import { positionOn, type LineSupport } from './support';
import { sumOfTrees, unpackTrees } from './trees';

/** What tells a sheet from a keyboard, a tile or a drawer: what lies within it, and whether there are more of its kind; in the order of `evidenceOf`'s numbers. */
export const evidenceNames = [
  'logit', 'alike', 'commonest', 'pattern', 'even', 'darkOnLight', 'lightOnDark', 'changesAcross', 'changesDown', 'chroma', 'light', 'crossing', 'crossingBest',
  'beyond', 'repeats', 'area', 'cutOff', 'first', 'largest', 'along', 'second', 'equal', 'pieces', 'lighter', 'repeating', 'repeatingBoth',
  'rim', 'rimLeast', 'rimMost', 'rounded',
] as const; // prettier-ignore

interface Seen {
  lab: readonly Plane[];
  supports: readonly LineSupport[];
  candidates: readonly Candidate[];
}

const grid = 48;
/** Levels of L* by which neighbouring places differ where something is drawn, and by which print differs from its ground. */
const stepL = 3;
const printL = 12;
/** A line crosses an outline when so much of its way through is seen. */
const crossed = 0.7;

/** @param confidence of what looks at the outline alone; @param first whether it is the photo's first choice. */
export function evidenceOf(
  candidate: Candidate,
  { lab, supports, candidates }: Seen,
  confidence: number,
  first: boolean,
): Float32Array {
  const { corners } = candidate;
  const { width, height } = lab[0];
  const { alike, commonest, pattern } = surroundings(corners, lab);
  const L = new Float32Array(grid * grid).fill(NaN);
  let [chroma, n] = [0, 0];
  const inL: number[] = [];
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      const [x, y] = at(corners, 0.06 + (0.88 * i) / (grid - 1), 0.06 + (0.88 * j) / (grid - 1));
      const [px, py] = [Math.round(x), Math.round(y)];
      if (px < 0 || py < 0 || px >= width || py >= height) continue;
      const p = py * width + px;
      L[j * grid + i] = lab[0].data[p];
      inL.push(lab[0].data[p]);
      chroma += Math.hypot(lab[1].data[p], lab[2].data[p]);
      n++;
    }
  inL.sort((a, b) => a - b);
  const middle = inL[inL.length >> 1] ?? 0;
  let [even, pairs, across, down, dark, bright] = [0, 0, 0, 0, 0, 0];
  for (let j = 0; j < grid; j++)
    for (let i = 0; i < grid; i++) {
      const here = L[j * grid + i];
      if (here !== here) continue;
      if (here < middle - printL) dark++;
      if (here > middle + printL) bright++;
      const right = i + 1 < grid ? Math.abs(L[j * grid + i + 1] - here) : NaN;
      const below = j + 1 < grid ? Math.abs(L[(j + 1) * grid + i] - here) : NaN;
      if (right !== right || below !== below) continue;
      pairs++;
      if (right < stepL && below < stepL) even++;
      if (right > printL) across++;
      if (below > printL) down++;
    }
  const share = (count: number, of: number) => (of ? count / of : 0);
  const { crossing, best } = crossings(corners, supports, candidate);
  const beyond = linesBeyond(corners, supports, candidate);
  const size = Math.log(candidate.areaShare);
  const kin: Candidate[] = [];
  for (const other of candidates) {
    if (Math.abs(Math.log(other.areaShare) - size) > 0.45 || other.score < 0.75 * candidate.score) continue;
    if (overlap(other.corners, corners) > 0.1 || kin.some((k) => overlap(k.corners, other.corners) > 0.3)) continue;
    kin.push(other);
    if (kin.length > 11) break;
  }
  const { largest, along, second, equal, pieces, lighter } = surfacesIn(corners, lab);
  const rim = rimOf(corners, lab);
  const c = Math.max(0.002, Math.min(0.998, confidence));
  return Float32Array.from([
    Math.log(c / (1 - c)), alike, commonest, pattern, share(even, pairs), share(dark, n), share(bright, n), share(across, pairs), share(down, pairs), share(chroma, n) / 20, middle / 100,
    Math.log1p(crossing), best, Math.log1p(beyond), Math.log1p(kin.length), size, candidate.sides.filter((s) => supports[s.line].line.frame).length, Number(first),
    largest, along, Math.log(second + 0.02), equal, Math.log1p(pieces), lighter / 20, ...repetition(corners, lab),
    rim.mean / 20, rim.least / 20, rim.most / 20, rim.rounded,
  ]); // prettier-ignore
}

const at = ([a, b, c, d]: Candidate['corners'], u: number, v: number): Point => [
  (a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + c[0] * u) * v,
  (a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + c[1] * u) * v,
];

/** How strongly a line is seen between two of its points, in its best class. */
function seenBetween(s: LineSupport, from: Point, to: Point): number {
  const a = Math.max(0, Math.round(Math.min(positionOn(s, ...from), positionOn(s, ...to))));
  const b = Math.min(s.count, Math.round(Math.max(positionOn(s, ...from), positionOn(s, ...to))));
  return b > a ? Math.max(...s.sums.map((sums) => sums[b] - sums[a])) / (b - a) : 0;
}

/** Lines that are seen nearly all the way through an outline, as rows of keys and joints of tiles are: how many, and how well the best. */
function crossings(corners: readonly Point[], supports: readonly LineSupport[], candidate: Candidate) {
  let [crossing, best] = [0, 0];
  const own = new Set(candidate.sides.map(({ line }) => line));
  for (const [i, s] of supports.entries()) {
    if (s.line.frame || own.has(i)) continue;
    const hits: Point[] = [];
    for (let k = 0; k < 4; k++) {
      const [p, q] = [corners[k], corners[(k + 1) % 4]];
      const [dp, dq] = [p, q].map(([x, y]) => x * s.line.nx + y * s.line.ny - s.line.c);
      if (dp < 0 !== dq < 0) hits.push([p[0] + ((q[0] - p[0]) * dp) / (dp - dq), p[1] + ((q[1] - p[1]) * dp) / (dp - dq)]);
    }
    if (hits.length !== 2) continue;
    // Not along a side.
    const off = corners.map(([x, y]) => Math.abs(x * s.line.nx + y * s.line.ny - s.line.c)).sort((p, q) => p - q);
    const size = Math.sqrt(Math.hypot(corners[1][0] - corners[0][0], corners[1][1] - corners[0][1]) * Math.hypot(corners[2][0] - corners[1][0], corners[2][1] - corners[1][1])); // prettier-ignore
    if (off[1] < 0.06 * size) continue;
    const seen = seenBetween(s, hits[0], hits[1]);
    best = Math.max(best, seen);
    if (seen > crossed) crossing++;
  }
  return { crossing, best };
}

/** Lines outside, along a side as they are as clearly seen as it: slats, shelves and tiles go on, a sheet ends. */
function linesBeyond(corners: readonly Point[], supports: readonly LineSupport[], candidate: Candidate): number {
  let count = 0;
  const own = new Set(candidate.sides.map(({ line }) => line));
  for (const [i, s] of supports.entries()) {
    if (s.line.frame || own.has(i)) continue;
    const side = corners.map(([x, y]) => x * s.line.nx + y * s.line.ny - s.line.c);
    if (side.some((d) => d < 0 !== side[0] < 0)) continue;
    for (let k = 0; k < 4; k++) {
      const [p, q] = [corners[k], corners[(k + 1) % 4]];
      const [dx, dy] = [q[0] - p[0], q[1] - p[1]];
      const length = Math.hypot(dx, dy);
      // Within some 8° of the side.
      if (Math.abs(dx * s.line.nx + dy * s.line.ny) > 0.14 * length) continue;
      if (seenBetween(s, foot(s, p), foot(s, q)) > crossed) {
        count++;
        break;
      }
    }
  }
  return count;
}

function foot({ line }: LineSupport, [x, y]: Point): Point {
  const d = x * line.nx + y * line.ny - line.c;
  return [x - d * line.nx, y - d * line.ny];
}

const trees = unpackTrees(depth, base, cuts, packed, step);

/** Probability that an outline is a page's, by all evidence; see bench/src/trainEvidence.ts. */
export const judgeEvidence = (evidence: ArrayLike<number>): number => 1 / (1 + Math.exp(-sumOfTrees(trees, evidence)));
