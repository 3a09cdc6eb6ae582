import type { Plane, Point } from '../raster/raster';
import type { Candidate } from './candidates';
import type { Line } from './lines';
import { pointOn, traceSide } from './refine';
import { planeSampler } from './sampler';
import type { LineSupport } from './support';

/** A line that could be the fourth side of three, as the numbers of their lines: before it, across from it, after it. */
export interface FaintSide {
  line: Line;
  beside: [number, number, number];
}

/** Three sides are seen so well, and the fourth no better than this. */
const [clearSupport, faintSupport] = [0.85, 0.8];
const mostTriples = 6;
const mostLines = 2;
/** Stretches of a chord; the step has to be seen in all but a quarter of them: lines of print end at margins. */
const stretches = 16;
const tolerated = 3;
/** How far to either side of a chord the picture is looked at, px. */
const besidePx = [2, 3.5];
const [stepPx, skewStepPx] = [3, 4];
/** How far a side may lean against the one across from it: so much longer may one neighbour be than the other, share of that one's length. */
const mostSkew = 0.35;
const leastDepth = 0.2;
/** A step is one from so many times a stretch's noise on. */
const leastStep = 3;

/**
 * Fourth sides that no single point of the edge tells from noise: where three sides are seen, the step is summed along whole chords between the two that should end there.
 * White paper on a white desk has such a side where its shadow is missing.
 *
 * @param lab the small picture's planes, smoothed.
 */
export function faintSides(
  lab: readonly Plane[],
  candidates: readonly Candidate[],
  supports: readonly LineSupport[],
): FaintSide[] {
  const triples = new Map<string, { candidate: Candidate; side: number; sum: number }>();
  for (const candidate of candidates) {
    const seen = candidate.sides.map(({ line, support }) => (supports[line].line.frame ? clearSupport : support));
    const isFrame = candidate.sides.map(({ line }) => !!supports[line].line.frame);
    for (let side = 0; side < 4; side++) {
      const others = [1, 2, 3].map((k) => (side + k) % 4);
      if (!isFrame[side] && candidate.sides[side].support > faintSupport) continue;
      if (others.some((k) => seen[k] < clearSupport) || others.filter((k) => isFrame[k]).length > 1) continue;
      const key = others.map((k) => candidate.sides[k].line).join();
      const sum = others.reduce((s, k) => s + seen[k], 0);
      if (!(sum <= (triples.get(key)?.sum ?? 0))) triples.set(key, { candidate, side, sum });
    }
  }
  const best = [...triples.values()].sort((p, q) => q.sum - p.sum).slice(0, mostTriples);
  return best.flatMap(({ candidate, side }) => {
    const [after, across, before] = [1, 2, 3].map((k) => candidate.sides[(side + k) % 4].line);
    const [q1, q0, p0, p1] = [1, 2, 3, 4].map((k) => candidate.corners[(side + k) % 4]);
    return fourthSides(lab, p0, p1, q0, q1).map((line): FaintSide => ({ line, beside: [before, across, after] }));
  });
}

interface Chord {
  a: Point;
  b: Point;
  channel: number;
  sign: 1 | -1;
  /** Step over a stretch's noise. */
  step: number;
}

/** @param p0 where one neighbour begins, at the side across; through `p1` it goes on; `q0`, `q1` the other. */
function fourthSides(lab: readonly Plane[], p0: Point, p1: Point, q0: Point, q1: Point): Line[] {
  const { width, height } = lab[0];
  const base = Math.hypot(q0[0] - p0[0], q0[1] - p0[1]);
  const [u, v] = [towards(p0, p1), towards(q0, q1)];
  const inside = ([x, y]: Point) => x > -0.1 * width && y > -0.1 * height && x < 1.1 * width && y < 1.1 * height;
  const ends: [Point, Point][] = [];
  const depth = Math.hypot(width, height);
  for (let s = leastDepth * base; s < depth; s += stepPx)
    for (let skew = -mostSkew * base; skew <= mostSkew * base; skew += skewStepPx) {
      const t = s + skew;
      if (t < leastDepth * base) continue;
      const a: Point = [p0[0] + u[0] * s, p0[1] + u[1] * s];
      const b: Point = [q0[0] + v[0] * t, q0[1] + v[1] * t];
      if (inside(a) && inside(b)) ends.push([a, b]);
    }
  const steps = new Float32Array(stretches);
  const chords: Chord[] = [];
  lab.forEach((plane, channel) => {
    const all = new Float32Array(ends.length * stretches);
    ends.forEach(([a, b], i) => {
      stepsAlong(plane, a, b, steps);
      all.set(steps, i * stretches);
    });
    const noise = medianSize(all);
    if (!(noise > 0)) return;
    ends.forEach(([a, b], i) => {
      const sorted = all.slice(i * stretches, (i + 1) * stretches).sort();
      const [low, high] = [sorted[tolerated], -sorted[stretches - 1 - tolerated]];
      const step = Math.max(low, high) / noise;
      if (step > leastStep) chords.push({ a, b, channel, sign: low > high ? 1 : -1, step });
    });
  });
  chords.sort((c, d) => d.step - c.step);
  const kept: Chord[] = [];
  for (const chord of chords) {
    // Print is seen in lightness, far better than such a side: each channel has its own.
    if (kept.filter((k) => k.channel === chord.channel).length >= mostLines) continue;
    if (kept.some((k) => Math.max(apart(k.a, chord.a), apart(k.b, chord.b)) < 0.06 * base)) continue;
    kept.push(chord);
  }
  return kept.map(({ a, b, channel, sign }) => {
    const side = traceSide(planeSampler(lab[channel]), a, b, { reachPx: 4, samples: 60, degree: 1, agreePx: 1.5, sign });
    return side && side.agreement > 0.35 ? lineThrough(pointOn(side, 0), pointOn(side, 1)) : lineThrough(a, b);
  });
}

/** How much higher the plane is on the right of a chord than on its left, in each of its stretches; 0 outside the picture. */
function stepsAlong({ width, height, data }: Plane, a: Point, b: Point, out: Float32Array): void {
  const [dx, dy] = towards(a, b);
  const length = apart(a, b);
  const per = Math.max(2, Math.min(8, Math.round(length / stretches / 2)));
  for (let j = 0; j < stretches; j++) {
    let sum = 0;
    let n = 0;
    for (let k = 0; k < per; k++) {
      const at = ((j + (k + 0.5) / per) / stretches) * length;
      const x = a[0] + dx * at;
      const y = a[1] + dy * at;
      for (const d of besidePx) {
        const rx = Math.round(x - dy * d);
        const ry = Math.round(y + dx * d);
        const lx = Math.round(x + dy * d);
        const ly = Math.round(y - dx * d);
        if (rx < 0 || ry < 0 || lx < 0 || ly < 0 || rx >= width || lx >= width || ry >= height || ly >= height) continue;
        sum += data[ry * width + rx] - data[ly * width + lx];
        n++;
      }
    }
    out[j] = n ? sum / n : 0;
  }
}

/** Median of the absolute values, of every seventh. */
function medianSize(values: Float32Array): number {
  const some = new Float32Array(Math.ceil(values.length / 7));
  for (let i = 0; i < some.length; i++) some[i] = Math.abs(values[i * 7]);
  some.sort();
  return some[some.length >> 1] ?? 0;
}

const apart = (a: Point, b: Point) => Math.hypot(b[0] - a[0], b[1] - a[1]);

function towards(a: Point, b: Point): Point {
  const length = apart(a, b) || 1;
  return [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
}

function lineThrough(a: Point, b: Point): Line {
  const [dx, dy] = towards(a, b);
  return { nx: -dy, ny: dx, c: -dy * a[0] + dx * a[1], votes: 0 };
}
