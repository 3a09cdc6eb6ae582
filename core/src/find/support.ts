import type { Gradient } from './gradient';
import type { Line } from './lines';

/** How far apart the samples along a line lie, in pixels. */
export const stepPx = 2;
/** Strength against surroundings that counts as a full edge. */
const fullStrength = 0.42;
/** An edge may lie this far beside the line. */
const besidePx = 2;
const across = 2 * besidePx + 1;

/**
 * What is seen along a whole line, as running sums, so that the support of any stretch costs O(1).
 * There are two classes a channel: the channel grows along the normal, or it falls.
 */
export interface LineSupport {
  line: Line;
  /** Point of the line where sample 0 lies. */
  x0: number;
  y0: number;
  /** Number of samples. */
  count: number;
  /** `sums[class][i]`: support of the samples before i; each sample 0..1. */
  sums: Float32Array[];
}

/** Signed support along a line in every channel, over its part inside the picture. */
export function supportAlong(line: Line, gradients: readonly Gradient[]): LineSupport {
  const { width, height } = gradients[0];
  const dx = -line.ny;
  const dy = line.nx;
  const [from, to] = insideRange(line, width, height);
  const count = Math.max(0, Math.floor((to - from) / stepPx) + 1);
  const x0 = line.nx * line.c + dx * from;
  const y0 = line.ny * line.c + dy * from;
  // Where the samples lie is the same in every channel; −1 outside.
  const places = new Int32Array(count * across);
  for (let i = 0, k = 0; i < count; i++)
    for (let o = -besidePx; o <= besidePx; o++, k++) {
      const px = Math.round(x0 + dx * i * stepPx + line.nx * o);
      const py = Math.round(y0 + dy * i * stepPx + line.ny * o);
      places[k] = px < 1 || py < 1 || px >= width - 1 || py >= height - 1 ? -1 : py * width + px;
    }
  const sums = Array.from({ length: gradients.length * 2 }, () => new Float32Array(count + 1));
  for (let channel = 0; channel < gradients.length; channel++) {
    const { gx, gy, magnitude, surround } = gradients[channel];
    const grows = sums[channel * 2];
    const falls = sums[channel * 2 + 1];
    for (let i = 0; i < count; i++) {
      let up = 0;
      let down = 0;
      for (let o = 0; o < across; o++) {
        const p = places[i * across + o];
        if (p < 0) continue;
        const along = gx[p] * dx + gy[p] * dy;
        const cross = gx[p] * line.nx + gy[p] * line.ny;
        // More than 30° off the line's own direction is another edge.
        if (Math.abs(along) > 0.58 * Math.abs(cross)) continue;
        const strength = (cross / (magnitude[p] + surround[p])) * (1 - 0.1 * Math.abs(o - besidePx));
        if (strength > up) up = strength;
        if (-strength > down) down = -strength;
      }
      grows[i + 1] = grows[i] + Math.min(1, up / fullStrength);
      falls[i + 1] = falls[i] + Math.min(1, down / fullStrength);
    }
  }
  return { line, x0, y0, count, sums };
}

/** Sample position (fractional index) of a point on the line. */
export function positionOn(s: LineSupport, x: number, y: number): number {
  return ((x - s.x0) * -s.line.ny + (y - s.y0) * s.line.nx) / stepPx;
}

/** Mean support of one class between two sample positions, over what lies in the picture; `seen` is that part's share. */
export function stretch(s: LineSupport, group: number, from: number, to: number): { mean: number; seen: number } {
  const a = Math.max(0, Math.min(s.count, Math.round(Math.min(from, to))));
  const b = Math.max(0, Math.min(s.count, Math.round(Math.max(from, to))));
  const length = Math.abs(to - from);
  const seen = length > 0 ? Math.min(1, (b - a) / length) : 0;
  return { mean: b > a ? (s.sums[group][b] - s.sums[group][a]) / (b - a) : 0, seen };
}

/** Distances along the line, measured from its foot point, between which it runs inside the picture. */
function insideRange(line: Line, width: number, height: number): [number, number] {
  const dx = -line.ny;
  const dy = line.nx;
  const px = line.nx * line.c;
  const py = line.ny * line.c;
  let from = -Infinity;
  let to = Infinity;
  for (const [p, d, size] of [
    [px, dx, width - 1],
    [py, dy, height - 1],
  ] as const) {
    if (Math.abs(d) < 1e-9) {
      if (p < -0.5 || p > size + 0.5) return [0, -1];
      continue;
    }
    const a = -p / d;
    const b = (size - p) / d;
    from = Math.max(from, Math.min(a, b));
    to = Math.min(to, Math.max(a, b));
  }
  return from < to ? [from, to] : [0, -1];
}
