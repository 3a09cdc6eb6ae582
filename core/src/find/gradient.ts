import { peaksBySimd, sobelBySimd } from '../kernels/gradient';
import { accelerated } from '../kernels/simd';
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
  const { width, height } = smooth;
  const gx = new Float32Array(width * height);
  const gy = new Float32Array(width * height);
  const magnitude = createPlane(width, height);
  const m = magnitude.data;
  accelerated(
    (kernels) => sobelBySimd(kernels, smooth, gx, gy, m),
    () => sobelPlain(smooth, gx, gy, m),
  );
  const floor = Math.fround(Math.max(leastFloor, 1.5 * percentile(m, 0.3)));
  const surround = boxMean(magnitude, surroundRadius).data;
  for (let i = 0; i < surround.length; i++) surround[i] += floor;
  return { width, height, gx, gy, magnitude: m, surround, floor };
}

function sobelPlain({ width, height, data }: Plane, gx: Float32Array, gy: Float32Array, m: Float32Array): void {
  for (let y = 1; y < height - 1; y++) {
    // Column sums slide along the row: three loads a pixel instead of eight.
    let p = y * width;
    let n = data[p - width];
    let s = data[p + width];
    let down0 = s - n;
    let sum0 = n + 2 * data[p] + s;
    n = data[p - width + 1];
    s = data[p + width + 1];
    let down1 = s - n;
    let sum1 = n + 2 * data[p + 1] + s;
    for (const end = p + width - 1; ++p < end;) {
      n = data[p - width + 1];
      s = data[p + width + 1];
      const down2 = s - n;
      const sum2 = n + 2 * data[p + 1] + s;
      const dx = (sum2 - sum0) * 0.125;
      const dy = (down0 + 2 * down1 + down2) * 0.125;
      gx[p] = dx;
      gy[p] = dy;
      m[p] = Math.sqrt(dx * dx + dy * dy);
      sum0 = sum1;
      sum1 = sum2;
      down0 = down1;
      down1 = down2;
    }
  }
}

/** Edge points by non-maximum suppression along the gradient (Canny, PAMI 1986), to a fraction of a pixel by a parabola. */
export function edgels(g: Gradient): Edgels {
  const { width, gx, gy, magnitude, surround } = g;
  const peaks = accelerated(
    (kernels) => peaksBySimd(kernels, g),
    () => peaksPlain(g),
  );
  const xs = new Float32Array(peaks.length);
  const ys = new Float32Array(peaks.length);
  const angles = new Float32Array(peaks.length);
  const weights = new Float32Array(peaks.length);
  let count = 0;
  for (let k = 0; k < peaks.length; k++) {
    const p = peaks[k];
    const m = magnitude[p];
    const dx = gx[p];
    const dy = gy[p];
    const ax = dx < 0 ? -dx : dx;
    const ay = dy < 0 ? -dy : dy;
    const sx = dx < 0 ? -1 : 1;
    const sy = dy < 0 ? -width : width;
    // The magnitude one step ahead and behind, between the two neighbours that the gradient passes.
    const near = ax > ay ? sx : sy;
    const corner = sx + sy;
    const t = ax > ay ? ay / ax : ax / ay;
    const ahead = magnitude[p + near] * (1 - t) + magnitude[p + corner] * t;
    if (m < ahead) continue;
    const behind = magnitude[p - near] * (1 - t) + magnitude[p - corner] * t;
    if (m <= behind) continue;
    const bend = ahead - 2 * m + behind;
    const offset = (bend < 0 ? (0.5 * (behind - ahead)) / bend : 0) / (ax > ay ? ax : ay);
    const y = (p / width) | 0;
    xs[count] = p - y * width + dx * offset;
    ys[count] = y + dy * offset;
    angles[count] = Math.atan2(dy, dx);
    weights[count++] = m / (m + surround[p]);
  }
  return {
    count,
    x: xs.subarray(0, count),
    y: ys.subarray(0, count),
    angle: angles.subarray(0, count),
    weight: weights.subarray(0, count),
  };
}

/** What may be an edge point: less than both neighbours on a side is less than anything between them, and most points are. */
function peaksPlain({ width, height, gx, gy, magnitude, floor }: Gradient): Int32Array {
  const found = new Int32Array(width * height);
  let count = 0;
  for (let y = 2; y < height - 2; y++) {
    for (let p = y * width + 2, end = (y + 1) * width - 2; p < end; p++) {
      const m = magnitude[p];
      if (m < floor) continue;
      const sx = gx[p] < 0 ? -1 : 1;
      const sy = gy[p] < 0 ? -width : width;
      const near = Math.abs(gx[p]) > Math.abs(gy[p]) ? sx : sy;
      if (m < magnitude[p + near] && m < magnitude[p + sx + sy]) continue;
      if (m <= magnitude[p - near] && m <= magnitude[p - sx - sy]) continue;
      found[count++] = p;
    }
  }
  return found.subarray(0, count);
}

/** Of every third value: noise needs no census. */
function percentile(values: Float32Array, share: number): number {
  let top = 0;
  for (let i = 0; i < values.length; i += 3) if (values[i] > top) top = values[i];
  if (top === 0) return 0;
  const bins = new Uint32Array(4096);
  let count = 0;
  for (let i = 0; i < values.length; i += 3, count++) bins[Math.min(4095, (Math.sqrt(values[i] / top) * 4096) | 0)]++;
  let seen = 0;
  for (let b = 0; b < bins.length; b++) {
    seen += bins[b];
    if (seen >= share * count) return ((b + 0.5) / 4096) ** 2 * top;
  }
  return top;
}
