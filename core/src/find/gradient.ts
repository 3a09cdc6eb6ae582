import { boxMean } from '../raster/blur';
import { createPlane, type Plane } from '../raster/raster';

/** Derivatives of one channel, with what is needed to call an edge strong *for its surroundings*. */
export interface Gradient {
  width: number;
  height: number;
  gx: Float32Array;
  gy: Float32Array;
  magnitude: Float32Array;
  /** `local mean of the magnitude + noise floor`: the denominator of `relative`. */
  surround: Float32Array;
  /** Noise floor: 1.5 × the 30th percentile of the magnitude. White paper on a white desk is found by this, a fixed threshold misses it. */
  floor: number;
}

/** A point of an edge with sub-pixel position and the direction in which the channel grows. */
export interface Edgels {
  count: number;
  x: Float32Array;
  y: Float32Array;
  /** Radians, −π..π. */
  angle: Float32Array;
  /** 0..1: magnitude against its surroundings. */
  weight: Float32Array;
}

/** Sobel derivatives (per pixel) of a channel, which should be smoothed before (σ 1). */
export function gradient(smooth: Plane, surroundRadius: number, leastFloor: number): Gradient {
  const { width, height, data } = smooth;
  const gx = new Float32Array(width * height);
  const gy = new Float32Array(width * height);
  const magnitude = createPlane(width, height);
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1, p = y * width + 1; x < width - 1; x++, p++) {
      const nw = data[p - width - 1];
      const n = data[p - width];
      const ne = data[p - width + 1];
      const w = data[p - 1];
      const e = data[p + 1];
      const sw = data[p + width - 1];
      const s = data[p + width];
      const se = data[p + width + 1];
      const dx = (ne - nw + 2 * (e - w) + se - sw) / 8;
      const dy = (sw - nw + 2 * (s - n) + se - ne) / 8;
      gx[p] = dx;
      gy[p] = dy;
      magnitude.data[p] = Math.sqrt(dx * dx + dy * dy);
    }
  }
  const floor = Math.max(leastFloor, 1.5 * percentile(magnitude.data, 0.3));
  const surround = boxMean(magnitude, surroundRadius).data;
  for (let i = 0; i < surround.length; i++) surround[i] = surround[i] + floor;
  return { width, height, gx, gy, magnitude: magnitude.data, surround, floor };
}

/** Edge points by non-maximum suppression along the gradient (Canny, PAMI 1986), to a fraction of a pixel by a parabola. */
export function edgels(g: Gradient): Edgels {
  const { width, height, gx, gy, magnitude, surround, floor } = g;
  const xs: number[] = [];
  const ys: number[] = [];
  const angles: number[] = [];
  const weights: number[] = [];
  for (let y = 2; y < height - 2; y++) {
    for (let x = 2, p = y * width + 2; x < width - 2; x++, p++) {
      const m = magnitude[p];
      if (m < floor) continue;
      const ux = gx[p] / m;
      const uy = gy[p] / m;
      const ax = Math.abs(ux);
      const ay = Math.abs(uy);
      const sx = ux < 0 ? -1 : 1;
      const sy = uy < 0 ? -width : width;
      // The magnitude one step ahead and behind, between the two neighbours that the gradient passes.
      const [near, t] = ax > ay ? [sx, ay / ax] : [sy, ax / ay];
      const ahead = magnitude[p + near] * (1 - t) + magnitude[p + sx + sy] * t;
      const behind = magnitude[p - near] * (1 - t) + magnitude[p - sx - sy] * t;
      if (m < ahead || m <= behind) continue;
      const bend = ahead - 2 * m + behind;
      const offset = (bend < 0 ? (0.5 * (behind - ahead)) / bend : 0) / Math.max(ax, ay);
      xs.push(x + ux * offset);
      ys.push(y + uy * offset);
      angles.push(Math.atan2(uy, ux));
      weights.push(m / (m + surround[p]));
    }
  }
  return {
    count: xs.length,
    x: Float32Array.from(xs),
    y: Float32Array.from(ys),
    angle: Float32Array.from(angles),
    weight: Float32Array.from(weights),
  };
}

function percentile(values: Float32Array, share: number): number {
  let top = 0;
  for (let i = 0; i < values.length; i++) if (values[i] > top) top = values[i];
  if (top === 0) return 0;
  const bins = new Uint32Array(4096);
  for (let i = 0; i < values.length; i++) bins[Math.min(4095, (Math.sqrt(values[i] / top) * 4096) | 0)]++;
  let seen = 0;
  for (let b = 0; b < bins.length; b++) {
    seen += bins[b];
    if (seen >= share * values.length) return ((b + 0.5) / 4096) ** 2 * top;
  }
  return top;
}
