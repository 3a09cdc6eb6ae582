import type { Edgels } from './gradient';

/** A straight line `nx·x + ny·y = c` in pixels, the normal of unit length. */
export interface Line {
  nx: number;
  ny: number;
  c: number;
  /** Sum of the votes, comparable within one channel only. */
  votes: number;
  /** One of the picture's own four borders, not an edge that was seen. */
  frame?: boolean;
}

const degree = Math.PI / 180;
const spread = 3;
const cellPx = 1.5;

/**
 * Straight lines by a signed Hough transform: 360° × 1.5 px, each edgel votes within ±3° of its own gradient, so that the two sides of
 * a dark stroke do not add up. Peaks are refitted three times to the edgels that agree.
 * Method: Duda and Hart 1972, with gradient direction after O'Gorman and Clowes 1976.
 */
export function houghLines(points: Edgels, width: number, height: number, most: number): Line[] {
  const cx = (width - 1) / 2;
  const cy = (height - 1) / 2;
  const reach = Math.hypot(width, height) / 2 + 4;
  const cells = Math.ceil((2 * reach) / cellPx);
  const byAngle = sortByAngle(points);
  const middle = reach / cellPx - 0.5;
  const votes = new Float32Array(360 * cells);
  // A degree after the other, so that one row of votes is worked on at a time and stays in the cache.
  const { x: xs, y: ys, weight: weights, start } = byAngle;
  for (let a = 0; a < 360; a++) {
    const c = cosines[a] / cellPx;
    const s = sines[a] / cellPx;
    const offset = middle - cx * c - cy * s;
    const row = a * cells;
    for (let d = -spread; d <= spread; d++) {
      const bucket = (a + d + 360) % 360;
      const fade = fades[d + spread];
      for (let k = start[bucket], end = start[bucket + 1]; k < end; k++) {
        const position = xs[k] * c + ys[k] * s + offset;
        const cell = position | 0;
        const w = weights[k] * fade;
        const share = w * (position - cell);
        votes[row + cell] += w - share;
        votes[row + cell + 1] += share;
      }
    }
  }
  const peaks: { a: number; cell: number; v: number }[] = [];
  const least = Math.max(6, 0.02 * Math.min(width, height));
  for (let a = 0; a < 360; a++) {
    for (let cell = 1; cell < cells - 1; cell++) {
      const v = votes[a * cells + cell];
      if (v < least || v < votes[a * cells + cell - 1] || v <= votes[a * cells + cell + 1]) continue;
      if (v < votes[((a + 1) % 360) * cells + cell] || v <= votes[((a + 359) % 360) * cells + cell]) continue;
      peaks.push({ a, cell, v });
    }
  }
  peaks.sort((p, q) => q.v - p.v);
  const lines: Line[] = [];
  for (const peak of peaks) {
    const rho = (peak.cell + 0.5) * cellPx - reach + cosines[peak.a] * cx + sines[peak.a] * cy;
    const start: Line = { nx: cosines[peak.a], ny: sines[peak.a], c: rho, votes: peak.v };
    if (lines.some((l) => sameLine(l, start, 4 * degree, 4, width, height))) continue;
    const line = refit(start, byAngle);
    if (lines.some((l) => sameLine(l, line, 2 * degree, 3, width, height))) continue;
    lines.push(line);
    if (lines.length >= most) break;
  }
  return lines;
}

/** An edgel's vote falls off to the sides of its own direction. */
const fades = Float64Array.from({ length: 2 * spread + 1 }, (_, i) => 1 - (0.12 * (i - spread) ** 2) / spread);
const cosines = new Float64Array(360);
const sines = new Float64Array(360);
for (let a = 0; a < 360; a++) {
  cosines[a] = Math.cos(a * degree);
  sines[a] = Math.sin(a * degree);
}

/** Edgels in the order of their direction. */
interface ByAngle {
  x: Float32Array;
  y: Float32Array;
  weight: Float32Array;
  /** `start[d]`: where degree d begins. */
  start: Uint32Array;
}

function sortByAngle(points: Edgels): ByAngle {
  const { count, angle } = points;
  const bucket = new Uint16Array(count);
  const start = new Uint32Array(361);
  for (let i = 0; i < count; i++) {
    const b = (Math.round(angle[i] / degree) + 360) % 360;
    bucket[i] = b;
    start[b + 1]++;
  }
  for (let d = 0; d < 360; d++) start[d + 1] += start[d];
  const next = start.slice();
  const x = new Float32Array(count);
  const y = new Float32Array(count);
  const weight = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const k = next[bucket[i]]++;
    x[k] = points.x[i];
    y[k] = points.y[i];
    weight[k] = points.weight[i];
  }
  return { x, y, weight, start };
}

/** Total least squares on the edgels that lie near the line and look the same way, three times with a narrowing band. */
function refit(start: Line, points: ByAngle): Line {
  let line = start;
  for (const [band, turn] of [
    [3.5, 8],
    [2.5, 6],
    [1.8, 5],
  ] as const) {
    const angle = Math.atan2(line.ny, line.nx);
    let s = 0;
    let sx = 0;
    let sy = 0;
    let sxx = 0;
    let sxy = 0;
    let syy = 0;
    const main = Math.round(angle / degree);
    for (let d = -turn; d <= turn; d++) {
      const bucket = (main + d + 720) % 360;
      for (let i = points.start[bucket]; i < points.start[bucket + 1]; i++) {
        const x = points.x[i];
        const y = points.y[i];
        if (Math.abs(line.nx * x + line.ny * y - line.c) > band) continue;
        const w = points.weight[i];
        s += w;
        sx += w * x;
        sy += w * y;
        sxx += w * x * x;
        sxy += w * x * y;
        syy += w * y * y;
      }
    }
    if (s < 3) return line;
    const mx = sx / s;
    const my = sy / s;
    const theta = 0.5 * Math.atan2(2 * (sxy / s - mx * my), sxx / s - mx * mx - (syy / s - my * my));
    let nx = -Math.sin(theta);
    let ny = Math.cos(theta);
    if (nx * line.nx + ny * line.ny < 0) {
      nx = -nx;
      ny = -ny;
    }
    line = { nx, ny, c: nx * mx + ny * my, votes: s };
  }
  return line;
}

/** Whether two lines, whichever way their normals look, run within `px` of each other across the picture and `turn` radians. */
export function sameLine(a: Line, b: Line, turn: number, px: number, width: number, height: number, anySign = false): boolean {
  const dot = a.nx * b.nx + a.ny * b.ny;
  if ((anySign ? Math.abs(dot) : dot) < Math.cos(turn)) return false;
  const sign = dot < 0 ? -1 : 1;
  // Compared in the middle of the part of `a` that lies in the picture.
  const cx = (width - 1) / 2;
  const cy = (height - 1) / 2;
  const off = a.nx * cx + a.ny * cy - a.c;
  const x = cx - off * a.nx;
  const y = cy - off * a.ny;
  return Math.abs(sign * (b.nx * x + b.ny * y) - sign * b.c) < px;
}

/** The picture's borders as lines, for pages that go on outside it. */
export function frameLines(width: number, height: number): Line[] {
  return [
    { nx: 1, ny: 0, c: 0, votes: 0, frame: true },
    { nx: 0, ny: 1, c: 0, votes: 0, frame: true },
    { nx: 1, ny: 0, c: width - 1, votes: 0, frame: true },
    { nx: 0, ny: 1, c: height - 1, votes: 0, frame: true },
  ];
}

/** Where two lines cross, or null when they are nearly parallel. */
export function cross(a: Line, b: Line): [number, number] | null {
  const det = a.nx * b.ny - a.ny * b.nx;
  if (Math.abs(det) < 0.2) return null;
  return [(a.c * b.ny - b.c * a.ny) / det, (a.nx * b.c - b.nx * a.c) / det];
}
