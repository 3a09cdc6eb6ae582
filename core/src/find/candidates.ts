import type { Line } from './lines';
import { crossAll, SideMemo, type Crossings, type Side } from './sides';
import { stretch, type LineSupport } from './support';

/** Four lines that could be a page, corners clockwise on screen. */
export interface Candidate {
  corners: [number, number][];
  sides: [Side, Side, Side, Side];
  areaShare: number;
  score: number;
}

export interface CandidateOptions {
  /** Least area, share of the picture; default 0.012. */
  leastArea?: number;
  /** How far a corner may lie outside, share of the longer picture side; default 0.2. */
  outside?: number;
  /** How many to keep that lie wholly in the picture; default 60. */
  most?: number;
  /** How many to keep besides that go on beyond it; default 30. */
  mostCutOff?: number;
  /** How many with a side moved out; default 30. */
  mostGrown?: number;
}

/** What a side along the picture's border counts for in the sum of the supports. */
const frameScore = 0.7;
const areaWeight = 0.06;
/** @param sum of the four sides' supports; @param least of them, weak stretches counted. */
const scoreOf = (sum: number, least: number) => 0.25 * sum + 0.6 * least;

/** Lines a and b with c and d across them. */
interface Quadruple {
  a: number;
  b: number;
  c: number;
  d: number;
  clockwise: boolean;
  areaShare: number;
  score: number;
}

/** Quadrilaterals from pairs of opposite lines, the best-supported ones first. */
export function proposeOutlines(
  supports: readonly LineSupport[],
  width: number,
  height: number,
  options: CandidateOptions = {},
): Candidate[] {
  const { leastArea = 0.012, outside = 0.2, most = 60, mostCutOff = 30, mostGrown = 30 } = options;
  const n = supports.length;
  const margin = outside * Math.max(width, height);
  const crossings = crossAll(supports, width, height, margin);
  const { xs, ys, on } = crossings;
  const sides = new SideMemo(supports, crossings, 0.06 * Math.min(width, height));
  const isFrame = Uint8Array.from(supports, ({ line }) => +!!line.frame);
  const opposite = new Uint8Array(n * n);
  for (let i = 0; i < n; i++)
    for (let j = 0; j < n; j++) opposite[i * n + j] = +couldBeOpposite(supports[i].line, supports[j].line);
  const largest = areaWeight * Math.log((1 + (2 * margin) / width) * (1 + (2 * margin) / height));

  const build = ({ a, b, c, d, clockwise, areaShare, score }: Quadruple): Candidate => {
    const corners = [a * n + c, b * n + c, b * n + d, a * n + d].map((i): [number, number] => [xs[i], ys[i]]);
    const found = [sides.side(c, a, b), sides.side(b, c, d), sides.side(d, b, a), sides.side(a, d, c)];
    return {
      corners: clockwise ? corners : [corners[0], corners[3], corners[2], corners[1]],
      sides: (clockwise ? found : [found[3], found[2], found[1], found[0]]) as Candidate['sides'],
      areaShare,
      score,
    };
  };
  const within = new Best(most, build);
  const cutOff = new Best(mostCutOff, build);
  const joining = new Int32Array(n);
  const support = new Float32Array(n);
  const least = new Float32Array(n);
  for (let a = 0; a < n; a++) {
    for (let b = a + 1; b < n; b++) {
      if (!opposite[a * n + b]) continue;
      // Lines that run from a to b and are seen there. Since every quad has two such pairs, the one with the lowest number leads.
      let count = 0;
      for (let c = a + 1; c < n; c++) {
        if (c === b || on[c * n + a] !== on[c * n + a] || on[c * n + b] !== on[c * n + b] || !sides.look(c, a, b)) continue;
        const side = sides.index(c, a, b);
        // The picture's own border says nothing for or against a page.
        support[count] = isFrame[c] ? frameScore : sides.support[side];
        least[count] = isFrame[c] ? 1 : sides.evenness(side);
        joining[count++] = c;
      }
      for (let k = 0; k < count; k++) {
        const c = joining[k];
        const framesSoFar = isFrame[a] + isFrame[b] + isFrame[c];
        for (let l = k + 1; l < count; l++) {
          const d = joining[l];
          if (!opposite[c * n + d]) continue;
          const frames = framesSoFar + isFrame[d];
          if (frames > 2) continue;
          const best = frames ? cutOff : within;
          // Most of them are no match for what there is already, whatever the other two sides are.
          const bound = scoreOf(support[k] + support[l] + 2, Math.min(least[k], least[l]));
          if (bound + largest < best.bar) continue;
          const ac = a * n + c;
          const bc = b * n + c;
          const bd = b * n + d;
          const ad = a * n + d;
          // A crossing or concave quad has corner turns of both signs.
          const t0 = turn(xs[ac], ys[ac], xs[bc], ys[bc], xs[bd], ys[bd]);
          const t1 = turn(xs[bc], ys[bc], xs[bd], ys[bd], xs[ad], ys[ad]);
          const t2 = turn(xs[bd], ys[bd], xs[ad], ys[ad], xs[ac], ys[ac]);
          const t3 = turn(xs[ad], ys[ad], xs[ac], ys[ac], xs[bc], ys[bc]);
          const clockwise = t0 > 0;
          if (t1 > 0 !== clockwise || t2 > 0 !== clockwise || t3 > 0 !== clockwise) continue;
          const areaShare = Math.abs(t0 + t2) / 2 / (width * height);
          if (areaShare < leastArea) continue;
          const extra = areaWeight * Math.log(areaShare);
          if (bound + extra < best.bar) continue;
          if (!sides.look(a, c, d) || !sides.look(b, c, d)) continue;
          let sum = support[k] + support[l];
          let weakest = Math.min(least[k], least[l]);
          for (const line of [a, b]) {
            const side = sides.index(line, c, d);
            sum += isFrame[line] ? frameScore : sides.support[side];
            if (!isFrame[line]) weakest = Math.min(weakest, sides.evenness(side));
          }
          const score = scoreOf(sum, weakest) + extra;
          if (score >= best.bar) best.add({ a, b, c, d, clockwise, areaShare, score });
        }
      }
    }
  }
  const apart = 0.012 * Math.max(width, height);
  const kept = within.distinct(apart);
  const further = mostGrown ? grown(kept, supports, crossings, sides, width * height, apart, mostGrown) : [];
  return [...kept, ...further, ...cutOff.distinct(apart)];
}

/** Both neighbours have to be seen at least so well on the stretch by which a side moves out, which is at least so long (samples of the line). */
const growSupport = 0.6;
const growSamples = 4;

/**
 * Candidates with one side moved out to another line, where both its neighbours are seen to go on as far: of a ruled sheet whose edge is partly hidden, all
 * pairs of rules look better than the sheet itself and fill the list.
 */
function grown(
  from: readonly Candidate[],
  supports: readonly LineSupport[],
  { xs, ys, on }: Crossings,
  memo: SideMemo,
  pixels: number,
  apart: number,
  most: number,
): Candidate[] {
  const n = supports.length;
  const found: Candidate[] = [];
  for (const candidate of from)
    for (let i = 0; i < 4; i++) {
      const [own, after, across, before] = [0, 1, 2, 3].map((k) => candidate.sides[(i + k) % 4]);
      for (let line = 0; line < n; line++) {
        if (line === own.line || line === across.line || supports[line].line.frame) continue;
        if (!couldBeOpposite(supports[line].line, supports[across.line].line)) continue;
        if (![before, after].every((side) => goesOnTo(side, on[side.line * n + line], on[side.line * n + own.line], supports)))
          continue;
        if (!memo.look(line, before.line, after.line) || !memo.look(before.line, line, across.line) || !memo.look(after.line, line, across.line)) continue; // prettier-ignore
        const corners = candidate.corners.slice() as Candidate['corners'][number][];
        const sides = candidate.sides.slice() as Candidate['sides'];
        corners[i] = [xs[before.line * n + line], ys[before.line * n + line]];
        corners[(i + 1) % 4] = [xs[after.line * n + line], ys[after.line * n + line]];
        sides[i] = memo.side(line, before.line, after.line);
        sides[(i + 1) % 4] = memo.side(after.line, line, across.line);
        sides[(i + 3) % 4] = memo.side(before.line, across.line, line);
        const area = Math.abs(turn(...corners[0], ...corners[1], ...corners[2]) + turn(...corners[2], ...corners[3], ...corners[0])) / 2; // prettier-ignore
        const support = sides.reduce((sum, side) => sum + side.support, 0);
        const least = Math.min(...sides.map((side) => 0.5 * side.support + 0.5 * side.weakest));
        const next = { corners, sides, areaShare: area / pixels, score: scoreOf(support, least) };
        if (!from.some((k) => alike(k, next, apart))) found.push(next);
      }
    }
  found.sort((p, q) => q.score + q.areaShare - p.score - p.areaShare);
  const kept: Candidate[] = [];
  for (const next of found) {
    if (kept.some((k) => alike(k, next, apart))) continue;
    kept.push(next);
    if (kept.length >= most) break;
  }
  return kept;
}

/** Whether a side is seen to go on from its end at one sample position to another one beyond it. */
function goesOnTo(side: Side, to: number, end: number, supports: readonly LineSupport[]): boolean {
  const other = Math.abs(side.from - end) < Math.abs(side.to - end) ? side.to : side.from;
  if (!(Math.abs(to - end) >= growSamples) || (to - end) * (end - other) <= 0) return false;
  // Beyond a coloured band the same side is seen otherwise: any class of the support will do.
  const support = supports[side.line];
  return support.sums.some((_, group) => {
    const { mean, seen } = stretch(support, group, end, to);
    return seen > 0.8 && mean > growSupport;
  });
}

/** The best quadruples so far; those below `bar` need not come in. */
class Best {
  bar: number;
  private list: Quadruple[] = [];

  constructor(
    private readonly most: number,
    private readonly build: (quadruple: Quadruple) => Candidate,
  ) {
    this.bar = most > 0 ? -Infinity : Infinity;
  }

  add(quadruple: Quadruple): void {
    this.list.push(quadruple);
    if (this.list.length < this.most * 12) return;
    this.list.sort((x, y) => y.score - x.score);
    this.list.length = this.most * 6;
    this.bar = this.list[this.list.length - 1].score;
  }

  /** The best of them, of those with all corners within `apart` px of each other only the best one. */
  distinct(apart: number): Candidate[] {
    this.list.sort((x, y) => y.score - x.score);
    const kept: Candidate[] = [];
    for (const quadruple of this.list) {
      const candidate = this.build(quadruple);
      if (kept.some((k) => alike(k, candidate, apart))) continue;
      kept.push(candidate);
      if (kept.length >= this.most) break;
    }
    return kept;
  }
}

/** Whether all corners of two candidates lie within `apart` px of each other. */
function alike(p: Candidate, q: Candidate, apart: number): boolean {
  const near = apart * apart;
  for (const [x, y] of p.corners) {
    let least = Infinity;
    for (const [u, v] of q.corners) least = Math.min(least, (u - x) * (u - x) + (v - y) * (v - y));
    if (least >= near) return false;
  }
  return true;
}

function couldBeOpposite(a: Line, b: Line): boolean {
  return Math.abs(a.nx * b.nx + a.ny * b.ny) > Math.cos(0.75);
}

function turn(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  return (bx - ax) * (cy - by) - (by - ay) * (cx - bx);
}
