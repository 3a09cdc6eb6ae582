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

/** Quadrilaterals from pairs of opposite lines, the best-supported ones first. */
export function candidates(
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

  const within = new Best(most);
  const cutOff = new Best(mostCutOff);
  const joining: number[] = [];
  for (let a = 0; a < n; a++) {
    for (let b = a + 1; b < n; b++) {
      if (!couldBeOpposite(supports[a].line, supports[b].line)) continue;
      // Lines that run from a to b and are seen there. Since every quad has two such pairs, the one with the lowest number leads.
      joining.length = 0;
      for (let c = a + 1; c < n; c++)
        if (c !== b && on[c * n + a] === on[c * n + a] && on[c * n + b] === on[c * n + b] && sides.look(c, a, b)) joining.push(c);
      for (let k = 0; k < joining.length; k++) {
        const c = joining[k];
        for (let l = k + 1; l < joining.length; l++) {
          const d = joining[l];
          if (!couldBeOpposite(supports[c].line, supports[d].line)) continue;
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
          if (!sides.look(a, c, d) || !sides.look(b, c, d)) continue;
          const frames =
            +!!supports[a].line.frame + +!!supports[b].line.frame + +!!supports[c].line.frame + +!!supports[d].line.frame;
          if (frames > 2) continue;
          // Sides in order round the quad: c between a and b, b between c and d, d between b and a, a between d and c.
          const four = [sides.index(c, a, b), sides.index(b, c, d), sides.index(d, a, b), sides.index(a, c, d)];
          let sum = 0;
          let least = 1;
          for (const i of four) {
            // The picture's own border says nothing for or against a page.
            if (supports[(i / (n * n)) | 0].line.frame) {
              sum += 0.7;
              continue;
            }
            sum += sides.support[i];
            least = Math.min(least, 0.5 * sides.support[i] + 0.5 * sides.weakest[i]);
          }
          const score = 0.25 * sum + 0.6 * least + 0.06 * Math.log(areaShare);
          const best = frames ? cutOff : within;
          if (score < best.bar) continue;
          const corners = [ac, bc, bd, ad].map((i): [number, number] => [xs[i], ys[i]]);
          const found = [sides.side(c, a, b), sides.side(b, c, d), sides.side(d, b, a), sides.side(a, d, c)];
          best.add({
            corners: clockwise ? corners : [corners[0], corners[3], corners[2], corners[1]],
            sides: (clockwise ? found : [found[3], found[2], found[1], found[0]]) as Candidate['sides'],
            areaShare,
            score,
          });
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
        const next = { corners, sides, areaShare: area / pixels, score: 0.25 * support + 0.6 * least };
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

/** The best candidates so far; those below `bar` need not be built. */
class Best {
  bar: number;
  private list: Candidate[] = [];

  constructor(private readonly most: number) {
    this.bar = most > 0 ? -Infinity : Infinity;
  }

  add(candidate: Candidate): void {
    this.list.push(candidate);
    if (this.list.length < this.most * 12) return;
    this.list.sort((x, y) => y.score - x.score);
    this.list.length = this.most * 6;
    this.bar = this.list[this.list.length - 1].score;
  }

  /** The best of them, of those with all corners within `apart` px of each other only the best one. */
  distinct(apart: number): Candidate[] {
    this.list.sort((x, y) => y.score - x.score);
    const kept: Candidate[] = [];
    for (const candidate of this.list) {
      if (kept.some((k) => alike(k, candidate, apart))) continue;
      kept.push(candidate);
      if (kept.length >= this.most) break;
    }
    return kept;
  }
}

/** Whether all corners of two candidates lie within `apart` px of each other. */
function alike(p: Candidate, q: Candidate, apart: number): boolean {
  return p.corners.every((corner) => q.corners.some((o) => Math.hypot(o[0] - corner[0], o[1] - corner[1]) < apart));
}

function couldBeOpposite(a: Line, b: Line): boolean {
  return Math.abs(a.nx * b.nx + a.ny * b.ny) > Math.cos(0.75);
}

function turn(ax: number, ay: number, bx: number, by: number, cx: number, cy: number): number {
  return (bx - ax) * (cy - by) - (by - ay) * (cx - bx);
}
