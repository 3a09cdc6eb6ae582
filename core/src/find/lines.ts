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
  const votes = new Float32Array(360 * cells);
  for (let i = 0; i < points.count; i++) {
    const main = Math.round(points.angle[i] / degree);
    const weight = points.weight[i];
    for (let d = -spread; d <= spread; d++) {
      const a = (main + d + 720) % 360;
      const rho = (points.x[i] - cx) * cosines[a] + (points.y[i] - cy) * sines[a];
      const position = (rho + reach) / cellPx - 0.5;
      const cell = Math.floor(position);
      if (cell < 0 || cell + 1 >= cells) continue;
      const w = weight * (1 - (0.12 * (d * d)) / spread);
      votes[a * cells + cell] += w * (1 - (position - cell));
      votes[a * cells + cell + 1] += w * (position - cell);
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
  const byAngle = sortByAngle(points);
  const lines: Line[] = [];
  for (const peak of peaks) {
    const rho = (peak.cell + 0.5) * cellPx - reach + cosines[peak.a] * cx + sines[peak.a] * cy;
    const start: Line = { nx: cosines[peak.a], ny: sines[peak.a], c: rho, votes: peak.v };
    if (lines.some((l) => sameLine(l, start, 4 * degree, 4, width, height))) continue;
    const line = refit(start, points, byAngle);
    if (lines.some((l) => sameLine(l, line, 2 * degree, 3, width, height))) continue;
    lines.push(line);
    if (lines.length >= most) break;
  }
  return lines;
}

const cosines = new Float64Array(360);
const sines = new Float64Array(360);
for (let a = 0; a < 360; a++) {
  cosines[a] = Math.cos(a * degree);
  sines[a] = Math.sin(a * degree);
}

interface ByAngle {
  /** Edgel numbers, those of one degree together. */
  order: Uint32Array;
  /** `start[d]`: where degree d begins in `order`. */
  start: Uint32Array;
}

function sortByAngle(points: Edgels): ByAngle {
  const bucket = (i: number) => (Math.round(points.angle[i] / degree) + 720) % 360;
  const start = new Uint32Array(361);
  for (let i = 0; i < points.count; i++) start[bucket(i) + 1]++;
  for (let d = 0; d < 360; d++) start[d + 1] += start[d];
  const next = start.slice();
  const order = new Uint32Array(points.count);
  for (let i = 0; i < points.count; i++) order[next[bucket(i)]++] = i;
  return { order, start };
}

/** Total least squares on the edgels that lie near the line and look the same way, three times with a narrowing band. */
function refit(start: Line, points: Edgels, byAngle: ByAngle): Line {
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
      for (let k = byAngle.start[bucket]; k < byAngle.start[bucket + 1]; k++) {
        const i = byAngle.order[k];
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
