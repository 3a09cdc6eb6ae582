import type { Plane, Point } from '../raster/raster';
import type { Candidate } from './candidates';
import { overlap } from './overlap';
import { base, cuts, depth, packed, step } from './rivalWeights';
import type { LineSupport } from './support';
import { sumOfTrees, unpackTrees } from './trees';

const own = [
  'score', 'area', 'present', 'presentLeast', 'weakest', 'endIn', 'endInLeast', 'endOut', 'endOutMost', 'corner', 'cornerLeast', 'step', 'stepLeast', 'far', 'farLeast',
  'inner', 'innerMost', 'innerSecond', 'outer', 'outerMost', 'outerSecond', 'square', 'moved',
] as const; // prettier-ignore
/** What tells the top sheet's outline from others that nearly coincide with it, in the order of `describeRivals`' numbers: its own, and each less the group's mean. */
export const rivalNames = [...own, ...own.map((name) => `${name}Apart`)];

const mostRivals = 12;
const leastOverlap = 0.8;
/** Outlines that are ranked lower by more than this are none. */
const leastScore = 4.5;
/** Long side in px of the picture that rivals are compared on. */
export const rivalEdgePx = 960;

interface Seen {
  lab: readonly Plane[];
  supports: readonly LineSupport[];
  candidates: readonly Candidate[];
}

/** Candidates that nearly coincide with a chosen one, itself first, then by score; of one that goes on beyond the picture there are none. */
export function rivalsOf(
  chosen: Candidate,
  { lab, supports, candidates }: Seen,
  scores: readonly number[],
): { candidate: Candidate; score: number }[] {
  const { width, height } = lab[0];
  const isWhole = ({ corners, sides }: Candidate) =>
    sides.every(({ line }) => !supports[line].line.frame) &&
    corners.every(([x, y]) => x >= 0 && y >= 0 && x < width && y < height);
  const top = scores[candidates.indexOf(chosen)];
  const first = { candidate: chosen, score: top };
  if (!isWhole(chosen)) return [first];
  const rivals = candidates.flatMap((candidate, i) => {
    const ratio = candidate.areaShare / chosen.areaShare;
    const near = candidate !== chosen && scores[i] > top - leastScore && ratio > 0.75 && ratio < 1.33;
    return near && isWhole(candidate) && overlap(candidate.corners, chosen.corners) > leastOverlap
      ? [{ candidate, score: scores[i] }]
      : [];
  });
  return [first, ...rivals.sort((a, b) => b.score - a.score).slice(0, mostRivals - 1)];
}

/** Places along a side, and beyond each of its ends. */
const [along, ends] = [60, 5];
/** Levels of Lab by which an edge is half seen. */
const half = 5;
/** How far from a side others are looked for, share of the root of the outline's area. */
const [nearest, furthest] = [0.012, 0.06];
const alignPx = 3;

/** How clearly an edge is seen at places along a side (and a little beyond) and at whole pixels beside it, inwards positive. */
interface Strip {
  reach: number;
  seen: Float32Array;
}

function stripOf(lab: readonly Plane[], a: Point, b: Point, inward: Point, reach: number): Strip {
  const { width, height } = lab[0];
  const [L, A, B] = lab.map((plane) => plane.data);
  const across = 2 * reach + 1;
  const seen = new Float32Array((along + 2 * ends) * across);
  const at = (x: number, y: number) => {
    const [px, py] = [Math.round(x), Math.round(y)];
    return px < 0 || py < 0 || px >= width || py >= height ? -1 : py * width + px;
  };
  for (let i = 0; i < along + 2 * ends; i++) {
    const t = (i - ends + 0.5) / along;
    const [x, y] = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
    for (let o = -reach; o <= reach; o++) {
      const p = at(x + inward[0] * (o + 1), y + inward[1] * (o + 1));
      const q = at(x + inward[0] * (o - 1), y + inward[1] * (o - 1));
      if (p < 0 || q < 0) continue;
      const rise = Math.sqrt((L[p] - L[q]) ** 2 + (A[p] - A[q]) ** 2 + (B[p] - B[q]) ** 2);
      seen[i * across + o + reach] = rise / (rise + half);
    }
  }
  return { reach, seen };
}

/** The strip's mean along a line from `from` to `to` (offsets at the side's ends, px), between two places. */
function lineIn({ reach, seen }: Strip, from: number, to: number, first: number, last: number): number {
  const across = 2 * reach + 1;
  let sum = 0;
  for (let i = first; i < last; i++) {
    const o = Math.round(from + ((to - from) * (i - ends + 0.5)) / along) + reach;
    if (o < 1 || o >= across - 1) continue;
    const p = i * across + o;
    sum += Math.max(seen[p - 1], seen[p], seen[p + 1]);
  }
  return sum / (last - first);
}

/** The clearest line beside a side, on one of its sides, that runs nearly as it does. */
function besides(strip: Strip, from: number, way: 1 | -1): number {
  const lean = Math.max(1, Math.round(strip.reach / 3));
  let best = 0;
  for (let o = from; o <= strip.reach - 1; o++)
    for (let d = -lean; d <= lean; d += Math.max(1, lean / 3)) {
      const other = o + d;
      if (other < from - 1 || other > strip.reach - 1) continue;
      best = Math.max(best, lineIn(strip, way * o, way * other, ends + 3, along + ends - 3));
    }
  return best;
}

/** One outline's numbers but for those that compare it with others. */
function describeOne(corners: readonly Point[], lab: readonly Plane[], score: number): number[] {
  const { width, height } = lab[0];
  const area = Math.abs(corners.reduce((s, [x, y], i) => s + x * corners[(i + 1) % 4][1] - corners[(i + 1) % 4][0] * y, 0)) / 2;
  const size = Math.sqrt(area);
  const reach = Math.max(8, Math.min(48, Math.ceil(furthest * size)));
  const from = Math.max(4, Math.round(nearest * size));
  const [cx, cy] = [0, 1].map((k) => corners.reduce((s, p) => s + p[k] / 4, 0));
  const [present, weakest, steps, fars, inner, outer]: number[][] = [[], [], [], [], [], []];
  /** Of each side at its two corners. */
  const [endsIn, endsOut]: [number, number][][] = [[], []];
  let moved = 0;
  for (let k = 0; k < 4; k++) {
    const [a, b] = [corners[k], corners[(k + 1) % 4]];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
    let n: Point = [-(b[1] - a[1]) / length, (b[0] - a[0]) / length];
    if (n[0] * (cx - a[0]) + n[1] * (cy - a[1]) < 0) n = [-n[0], -n[1]];
    const strip = stripOf(lab, a, b, n, reach);
    let [best, p, q] = [-1, 0, 0];
    for (let u = -alignPx; u <= alignPx; u++)
      for (let v = -alignPx; v <= alignPx; v++) {
        const here = lineIn(strip, u, v, ends, along + ends);
        if (here > best) [best, p, q] = [here, u, v];
      }
    moved += (Math.abs(p) + Math.abs(q)) / 8;
    present.push(best);
    const window = along / 6;
    weakest.push(Math.min(...[0, 1, 2, 3, 4, 5].map((w) => lineIn(strip, p, q, ends + w * window, ends + (w + 1) * window))));
    endsIn.push([lineIn(strip, p, q, ends, ends + 4), lineIn(strip, p, q, ends + along - 4, ends + along)]);
    endsOut.push([lineIn(strip, p, q, 0, ends - 1), lineIn(strip, p, q, ends + along + 1, along + 2 * ends)]);
    inner.push(besides(strip, from, 1));
    outer.push(besides(strip, from, -1));
    const colour = (o: number) => {
      const sums = [0, 0, 0];
      let places = 0;
      for (let i = 2; i < along - 2; i += 2) {
        const t = (i + 0.5) / along;
        const off = p + (q - p) * t + o;
        const [x, y] = [Math.round(a[0] + (b[0] - a[0]) * t + n[0] * off), Math.round(a[1] + (b[1] - a[1]) * t + n[1] * off)];
        if (x < 0 || y < 0 || x >= width || y >= height) continue;
        lab.forEach(({ data }, c) => (sums[c] += data[y * width + x]));
        places++;
      }
      return sums.map((s) => (places ? s / places : NaN));
    };
    const apart = (one: readonly number[], other: readonly number[]) => Math.hypot(...one.map((v, c) => v - other[c])) || 0;
    const paper = colour(4);
    steps.push(Math.log1p(apart(paper, colour(-4)) / 4));
    fars.push(Math.log1p(apart(paper, colour(-9)) / 4));
  }
  const atCorner = [0, 1, 2, 3].map((k) => {
    const before = (k + 3) % 4;
    return Math.min(endsIn[before][1], endsIn[k][0]) - Math.max(endsOut[before][1], endsOut[k][0]);
  });
  const [allIn, allOut] = [endsIn.flat(), endsOut.flat()];
  const [innerBest, innerSecond] = topTwo(inner);
  const [outerBest, outerSecond] = topTwo(outer);
  return [
    score, Math.log(area), mean(present), Math.min(...present), Math.min(...weakest), mean(allIn), Math.min(...allIn), mean(allOut), Math.max(...allOut),
    mean(atCorner), Math.min(...atCorner), mean(steps), Math.min(...steps), mean(fars), Math.min(...fars),
    mean(inner), innerBest, innerSecond, mean(outer), outerBest, outerSecond, slantOf(corners, width, height), moved,
  ]; // prettier-ignore
}

const mean = (list: readonly number[]) => list.reduce((s, v) => s + v, 0) / list.length;
const topTwo = (list: readonly number[]) => [...list].sort((a, b) => b - a) as [number, number];

/** Cosine of the angle at which an outline's sides meet on the sheet, for a phone's usual lens (26 mm at full frame, common practice): 0 for a rectangle. */
function slantOf(corners: readonly Point[], width: number, height: number): number {
  const focal = (26 / 36) * Math.max(width, height);
  const rays = corners.map(([x, y]) => [x - width / 2, y - height / 2, focal]);
  const cross = ([a, b, c]: number[], [d, e, f]: number[]) => [b * f - c * e, c * d - a * f, a * e - b * d];
  const along = (i: number, j: number, k: number, l: number) => cross(cross(rays[i], rays[j]), cross(rays[k], rays[l]));
  const [u, v] = [along(0, 1, 3, 2), along(1, 2, 0, 3)];
  const dot = u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
  return Math.abs(dot) / (Math.hypot(...u) * Math.hypot(...v) || 1);
}

/**
 * @param rivals corners in the picture that `lab` is of, and their scores.
 * @returns numbers of each; see `rivalNames`.
 */
export function describeRivals(
  rivals: readonly { corners: readonly Point[]; score: number }[],
  lab: readonly Plane[],
): Float32Array[] {
  const all = rivals.map(({ corners, score }) => describeOne(corners, lab, score));
  const means = all[0].map((_, i) => mean(all.map((numbers) => numbers[i])));
  return all.map((numbers) => Float32Array.from([...numbers, ...numbers.map((v, i) => v - means[i])]));
}

const trees = unpackTrees(depth, base, cuts, packed, step);

/** How much an outline looks like the top sheet's among its rivals, in logits; see bench/src/trainRivals.ts. */
export const judgeRival = (numbers: ArrayLike<number>): number => sumOfTrees(trees, numbers);

/** Ahead by less than this in logits another outline does not take the first one's place. */
const lead = 1.5;
/** Which is picked, by logits; the first stays where none is clearly ahead. */
export function pickLead(logits: readonly number[]): number {
  const best = logits.indexOf(Math.max(...logits));
  return logits[best] - logits[0] > lead ? best : 0;
}

/**
 * The outline of the top sheet among rivals.
 *
 * @param lab of a picture of `rivalEdgePx`; @param up from the candidates' picture to that one.
 */
export function topSheet(
  rivals: readonly { candidate: Candidate; score: number }[],
  lab: readonly Plane[],
  up: number,
): Candidate {
  const onFine = rivals.map(({ candidate, score }) => ({ score, corners: candidate.corners.map(([x, y]): Point => [(x + 0.5) * up - 0.5, (y + 0.5) * up - 0.5]) })); // prettier-ignore
  return rivals[pickLead(describeRivals(onFine, lab).map(judgeRival))].candidate;
}
