import type { Point } from '../raster/raster';
import type { Sampler } from './sampler';

/** A side traced on a picture: where the edge was seen, and a polynomial through it. */
export interface TracedSide {
  /** Ends of the chord on which the polynomial lives. */
  a: Point;
  b: Point;
  /** Offset in px along the chord's right-hand normal at t in 0..1: `Σ coefficients[k]·t^k`. */
  coefficients: number[];
  /** The offsets as they were seen, in the order of their share along the chord; what is not seen is missing. */
  path: { t: number; o: number }[];
  /** Share of the samples that agree with the polynomial within `agreePx`. */
  agreement: number;
  /** Step of the channel across the side over two offsets: the median of the samples. */
  level: number;
  /** Largest distance of the curve from the straight line through its ends, as a share of the chord. */
  bow: number;
}

export interface TraceOptions {
  /** How far the edge may lie beside the chord, px. */
  reachPx: number;
  /** Samples along the chord. */
  samples: number;
  /** 1 straight, 3 cubic. */
  degree: number;
  /** Distance at which a sample stops to count, px. */
  agreePx: number;
  /** Which way the edge goes: +1 the channel grows along the chord's right-hand normal, −1 it falls. */
  sign: 1 | -1;
  /** A curve about which it is looked for, as the offset from the chord at each share of it; default the chord itself. */
  around?: (t: number) => number;
  /** How far it may lie beside that at the ends of the side, px; more towards the middle. Default: as far as everywhere. */
  endsPx?: number;
}

/**
 * Finds one side's edge near its chord: the strongest continuous path of signed gradient (dynamic programming, one offset a sample,
 * neighbours at most one step apart), then a polynomial fitted to it robustly (iteratively reweighted, Tukey's biweight).
 */
export function traceSide(sample: Sampler, a: Point, b: Point, options: TraceOptions): TracedSide | null {
  const { reachPx, samples, degree, agreePx, sign, around = () => 0, endsPx = Infinity } = options;
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  if (length < 8) return null;
  const dx = (b[0] - a[0]) / length;
  const dy = (b[1] - a[1]) / length;
  const nx = -dy;
  const ny = dx;
  const step = Math.max(0.5, reachPx / 24);
  const half = Math.ceil(reachPx / step);
  const width = 2 * half + 1;
  const strength = new Float32Array(samples * width).fill(NaN);
  const along = Math.min(3, length / samples / 2);
  const profile = new Float32Array(width + 2);
  const places = { x: 0, y: 0, stepX: nx * step, stepY: ny * step, count: width + 2, alongX: dx * along, alongY: dy * along };
  for (let i = 0; i < samples; i++) {
    const t = (i + 0.5) / samples;
    const middle = around(t);
    const first = middle - (half + 1) * step;
    places.x = a[0] + dx * t * length + nx * first;
    places.y = a[1] + dy * t * length + ny * first;
    sample(places, profile);
    for (let k = 0; k < width; k++) {
      const d = sign * (profile[k + 2] - profile[k]);
      if (d === d) strength[i * width + k] = d > 0 ? d : 0;
    }
  }
  // A sample's strengths are cut at a common level, so that one glaring spot does not pull the path.
  const tops: number[] = [];
  for (let i = 0; i < samples; i++) {
    let top = NaN;
    for (let k = 0; k < width; k++) {
      const v = strength[i * width + k];
      if (v === v && !(v <= top)) top = v;
    }
    if (top === top) tops.push(top);
  }
  if (tops.length < samples * 0.25) return null;
  tops.sort((p, q) => p - q);
  const level = Math.max(1e-6, tops[tops.length >> 1]);

  const cost = new Float32Array(samples * width);
  const back = new Int8Array(samples * width);
  for (let i = 0; i < samples; i++) {
    const t = (i + 0.5) / samples;
    const allowed = (endsPx + 0.5 * length * Math.min(t, 1 - t)) / step;
    for (let k = 0; k < width; k++) {
      const v = strength[i * width + k];
      const own = Math.abs(k - half) > allowed ? 3 : v === v ? 1 - Math.min(1, v / level) : 0.9;
      const pull = 0.12 * Math.abs((k - half) / half);
      let best = Infinity;
      if (i === 0) best = 0;
      else
        for (let d = -1; d <= 1; d++) {
          const from = k + d;
          if (from < 0 || from >= width) continue;
          const c = cost[(i - 1) * width + from] + (d ? 0.15 : 0);
          if (c < best) {
            best = c;
            back[i * width + k] = d;
          }
        }
      cost[i * width + k] = best + own + pull;
    }
  }
  let k = 0;
  for (let j = 1; j < width; j++) if (cost[(samples - 1) * width + j] < cost[(samples - 1) * width + k]) k = j;
  const ts: number[] = [];
  const os: number[] = [];
  const ws: number[] = [];
  for (let i = samples - 1; i >= 0; i--) {
    const v = strength[i * width + k];
    if (v === v && v > 0.15 * level) {
      // Strengths were cut for the path; the edge itself is at the true maximum beside it.
      let top = k;
      for (let j = Math.max(1, k - 2); j <= Math.min(width - 2, k + 2); j++)
        if (strength[i * width + j] > strength[i * width + top]) top = j;
      const before = top > 0 ? strength[i * width + top - 1] : NaN;
      const after = top < width - 1 ? strength[i * width + top + 1] : NaN;
      const bend = before - 2 * strength[i * width + top] + after;
      const sub = bend < 0 ? Math.max(-1, Math.min(1, (0.5 * (before - after)) / bend)) : 0;
      ts.push((i + 0.5) / samples);
      os.push(around((i + 0.5) / samples) + (top - half + sub) * step);
      ws.push(Math.min(1, v / level));
    }
    k += back[i * width + k];
  }
  if (ts.length < Math.max(6, samples * 0.2)) return null;
  const { coefficients, agreement } = robustPolynomial(ts, os, ws, degree, agreePx);
  const path = ts.map((t, i) => ({ t, o: os[i] })).reverse();
  return { a, b, coefficients, path, level, agreement: (agreement * ts.length) / tops.length, bow: bowOf(coefficients) / length };
}

/**
 * A traced side as a curve that follows what was seen more closely than a polynomial can: median of five, mean of five, straight between. Beyond what
 * was seen it goes on as it ends.
 */
export function smoothPath({ path }: TracedSide): (t: number) => number {
  const n = path.length;
  const medians = path.map((_, i) => {
    const near = path.slice(Math.max(0, i - 2), i + 3).map((p) => p.o);
    return near.sort((p, q) => p - q)[near.length >> 1];
  });
  const smooth = medians.map((_, i) => {
    const from = Math.max(0, i - 2);
    const to = Math.min(n, i + 3);
    let sum = 0;
    for (let k = from; k < to; k++) sum += medians[k];
    return sum / (to - from);
  });
  const slope = (i: number, j: number) => (smooth[j] - smooth[i]) / (path[j].t - path[i].t || 1);
  const first = slope(2, Math.min(n - 1, 8));
  const last = slope(Math.max(0, n - 9), n - 3);
  return (t) => {
    if (t <= path[2].t) return smooth[2] + (t - path[2].t) * first;
    if (t >= path[n - 3].t) return smooth[n - 3] + (t - path[n - 3].t) * last;
    let i = Math.max(2, Math.min(n - 4, Math.floor(((t - path[0].t) / (path[n - 1].t - path[0].t)) * (n - 1))));
    while (path[i].t > t) i--;
    while (path[i + 1].t < t) i++;
    const share = (t - path[i].t) / (path[i + 1].t - path[i].t || 1);
    return smooth[i] + (smooth[i + 1] - smooth[i]) * share;
  };
}

type Followed = Pick<TracedSide, 'a' | 'b' | 'coefficients'> & { curve?: (t: number) => number };

/** How far a traced side lies beside its chord at t, px along the chord's right-hand normal. */
export const offsetAt = (side: Followed, t: number): number => (side.curve ? side.curve(t) : evaluate(side.coefficients, t));

/** Point of a traced side at t (0 at `a`, 1 at `b`; a little beyond is allowed). */
export function pointOn(side: Followed, t: number): Point {
  const length = Math.hypot(side.b[0] - side.a[0], side.b[1] - side.a[1]);
  const dx = (side.b[0] - side.a[0]) / length;
  const dy = (side.b[1] - side.a[1]) / length;
  const o = offsetAt(side, t);
  return [side.a[0] + dx * t * length - dy * o, side.a[1] + dy * t * length + dx * o];
}

export function evaluate(coefficients: readonly number[], t: number): number {
  let v = 0;
  for (let k = coefficients.length - 1; k >= 0; k--) v = v * t + coefficients[k];
  return v;
}

function bowOf(coefficients: readonly number[]): number {
  const start = evaluate(coefficients, 0);
  const end = evaluate(coefficients, 1);
  let bow = 0;
  for (let t = 0.05; t < 1; t += 0.05) bow = Math.max(bow, Math.abs(evaluate(coefficients, t) - start - (end - start) * t));
  return bow;
}

/** Weighted least squares, reweighted with Tukey's biweight from a wide to the final width. */
function robustPolynomial(ts: number[], os: number[], ws: number[], degree: number, agreePx: number) {
  const sorted = os.slice().sort((a, b) => a - b);
  let coefficients = [sorted[sorted.length >> 1]];
  const spread = Math.max(agreePx * 2, (sorted[Math.floor(sorted.length * 0.9)] - sorted[Math.floor(sorted.length * 0.1)]) * 1.5);
  const terms = degree + 1;
  for (const width of [spread * 2, spread, spread * 0.6, agreePx * 3, agreePx * 2, agreePx * 2, agreePx * 2]) {
    const matrix = Array.from({ length: terms }, () => new Float64Array(terms + 1));
    for (let i = 0; i < ts.length; i++) {
      const r = (os[i] - evaluate(coefficients, ts[i])) / Math.max(width, agreePx * 2);
      if (Math.abs(r) >= 1) continue;
      const w = ws[i] * (1 - r * r) ** 2;
      const powers = [1];
      for (let p = 1; p < terms; p++) powers[p] = powers[p - 1] * ts[i];
      for (let p = 0; p < terms; p++) {
        for (let q = 0; q < terms; q++) matrix[p][q] += w * powers[p] * powers[q];
        matrix[p][terms] += w * powers[p] * os[i];
      }
    }
    for (let p = 1; p < terms; p++) matrix[p][p] += 1e-4 * ts.length * p;
    const solved = solve(matrix);
    if (!solved) break;
    coefficients = solved;
  }
  let agree = 0;
  for (let i = 0; i < ts.length; i++) if (Math.abs(os[i] - evaluate(coefficients, ts[i])) < agreePx) agree++;
  return { coefficients, agreement: agree / ts.length };
}

/** Gauss elimination with partial pivoting on an augmented matrix; null when singular. */
function solve(m: Float64Array[]): number[] | null {
  const n = m.length;
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(m[r][c]) > Math.abs(m[pivot][c])) pivot = r;
    if (Math.abs(m[pivot][c]) < 1e-12) return null;
    [m[c], m[pivot]] = [m[pivot], m[c]];
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const f = m[r][c] / m[c][c];
      for (let k = c; k <= n; k++) m[r][k] -= f * m[c][k];
    }
  }
  return m.map((row, i) => row[n] / row[i]);
}
