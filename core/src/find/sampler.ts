import { labOf, linear, luminance } from '../raster/colour';
import type { Plane, Raster } from '../raster/raster';

/** Places on a line across a side, px: the first one, the way from each to the next, how many, and a step along the side. */
export interface Places {
  x: number;
  y: number;
  stepX: number;
  stepY: number;
  count: number;
  alongX: number;
  alongY: number;
}

/** Writes a channel's mean about each place, taken along the side; NaN where the place lies outside the picture. */
export type Sampler = (places: Places, out: Float32Array) => void;

/** A sampler that asks for each place by itself. */
export const sampledBy =
  (valueAt: (x: number, y: number, alongX: number, alongY: number) => number): Sampler =>
  ({ x, y, stepX, stepY, count, alongX, alongY }, out) => {
    for (let k = 0; k < count; k++) out[k] = valueAt(x + k * stepX, y + k * stepY, alongX, alongY);
  };

/** A plane's mean at a place and one step along the side before and behind it. */
export const planeSampler = ({ width, height, data }: Plane): Sampler =>
  sampledBy((x, y, alongX, alongY) => {
    const [cx, cy] = [Math.round(x), Math.round(y)];
    if (cx < 0 || cy < 0 || cx >= width || cy >= height) return NaN;
    const at = (px: number, py: number) =>
      data[Math.max(0, Math.min(height - 1, Math.round(py))) * width + Math.max(0, Math.min(width - 1, Math.round(px)))];
    return (data[cy * width + cx] + at(x - alongX, y - alongY) + at(x + alongX, y + alongY)) / 3;
  });

/** One Lab channel of a photo; see `photoSampler`. */
export function labSampler(photo: Raster, channel: number, footprint: number): Sampler {
  const stored = Float32Array.from({ length: 256 }, (_, i) => i);
  return photoSampler(photo, footprint, [stored, stored, stored], (r, g, b) => labOf(r, g, b, channel));
}

const light = [luminance(1, 0, 0), luminance(0, 1, 0), luminance(0, 0, 1)].map((weight) => linear.map((v) => 100 * weight * v));

/** Luminance in linear light, 0..100: for the last pass, which says where exactly an edge lies. */
export const lightSampler = (photo: Raster, footprint: number): Sampler =>
  photoSampler(photo, footprint, light, (r, g, b) => r + g + b);

/** Pixels that are read for a place, in a row along the side. */
const spots = 5;
/** Positions are whole numbers of 1/65536 px. */
const one = 65536;

/**
 * A photo's colour about a place: the mean of the pixels nearest to a row of points that reaches a step and a footprint along the side to both of its ends. Across the side nothing is
 * averaged: that would only blur the edge.
 *
 * @param tables what red, green and blue are taken as.
 */
function photoSampler(
  photo: Raster,
  footprint: number,
  [reds, greens, blues]: readonly Float32Array[],
  valueOf: (r: number, g: number, b: number) => number,
): Sampler {
  const { width, height, channels, data } = photo;
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const gap = Math.max(1, Math.round(footprint));
  const dx = new Int32Array(spots);
  const dy = new Int32Array(spots);
  return ({ x, y, stepX, stepY, count, alongX, alongY }, out) => {
    const along = Math.hypot(alongX, alongY);
    const apart = (1 + gap / along) / ((spots - 1) / 2);
    for (let j = 0; j < spots; j++) {
      dx[j] = Math.round((j - (spots - 1) / 2) * apart * alongX * one);
      dy[j] = Math.round((j - (spots - 1) / 2) * apart * alongY * one);
    }
    const rim = along + gap + 1;
    const within = (px: number, py: number) => px > rim && py > rim && px < width - 1 - rim && py < height - 1 - rim;
    const inside = within(x, y) && within(x + count * stepX, y + count * stepY);
    for (let k = 0; k < count; k++) {
      // A half is added, so that cutting off gives the nearest pixel.
      const cx = Math.round((x + k * stepX + 0.5) * one);
      const cy = Math.round((y + k * stepY + 0.5) * one);
      let r = 0;
      let g = 0;
      let b = 0;
      let n = spots;
      if (inside)
        for (let j = 0; j < spots; j++) {
          const p = (((cy + dy[j]) >> 16) * width + ((cx + dx[j]) >> 16)) * channels;
          r += reds[data[p]];
          g += greens[data[p + green]];
          b += blues[data[p + blue]];
        }
      else {
        const [mx, my] = [cx >> 16, cy >> 16];
        n = 0;
        for (let j = 0; j < spots && mx >= 0 && my >= 0 && mx < width && my < height; j++) {
          const px = (cx + dx[j]) >> 16;
          const py = (cy + dy[j]) >> 16;
          if (px < 0 || py < 0 || px >= width || py >= height) continue;
          const p = (py * width + px) * channels;
          r += reds[data[p]];
          g += greens[data[p + green]];
          b += blues[data[p + blue]];
          n++;
        }
      }
      out[k] = n ? valueOf(r / n, g / n, b / n) : NaN;
    }
  };
}
