import { labOf, linear } from '../raster/colour';
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

/**
 * One Lab channel of a photo: that of the mean colour of some pixels along the side.
 *
 * @param rows of them, a footprint apart: more than one blurs the edge, and the noise with it.
 */
export function labSampler(photo: Raster, channel: number, footprint: number, rows = 1): Sampler {
  const { data, channels } = photo;
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const pixels = pixelsAlong(photo, footprint, rows);
  const spots = perRow * rows;
  return (places, out) => {
    const at = pixels(places);
    for (let k = 0, i = 0; k < places.count; k++) {
      let r = 0;
      let g = 0;
      let b = 0;
      let n = 0;
      for (let j = 0; j < spots; j++, i++) {
        const p = at[i];
        if (p < 0) continue;
        r += data[p];
        g += data[p + green];
        b += data[p + blue];
        n++;
      }
      out[k] = n ? labOf(r / n, g / n, b / n, channel) : NaN;
    }
  };
}

/**
 * Green light, linear, 0..100: for the last pass, which says where exactly an edge lies. Linear values are proportional to the light, as the blur of a lens and of a camera's pixels is: an edge
 * is steepest where it lies on the paper, while in L* bright paper looks up to 0.8 px too large at 12 MP. Green is seven tenths of the luminance and half of a sensor's pixels: with all three channels edges are placed
 * no more exactly.
 */
export function lightSampler(photo: Raster, footprint: number): Sampler {
  const { data, channels } = photo;
  const green = channels === 1 ? 0 : 1;
  const pixels = pixelsAlong(photo, footprint, 1);
  return (places, out) => {
    const at = pixels(places);
    for (let k = 0, i = 0; k < places.count; k++) {
      let sum = 0;
      let n = 0;
      for (let j = 0; j < perRow; j++, i++) {
        const p = at[i];
        if (p < 0) continue;
        sum += linear[data[p + green]];
        n++;
      }
      out[k] = n ? (100 * sum) / n : NaN;
    }
  };
}

/** Pixels of a row along the side. */
const perRow = 5;
/** Positions are whole numbers of 1/4096 px, which leaves room for half a million px in 32 bits. */
const bits = 12;
const one = 1 << bits;

/**
 * Where in a photo's data the pixels lie that are nearest to rows of points about each place, which reach a step and a footprint along the side to both of its ends; −1 for those
 * outside the photo, and for all of a place outside.
 *
 * @returns a function whose array is used again for the next row of places.
 */
function pixelsAlong({ width, height, channels }: Raster, footprint: number, rows: number): (places: Places) => Int32Array {
  const gap = Math.max(1, Math.round(footprint));
  const spots = perRow * rows;
  const dx = new Int32Array(spots);
  const dy = new Int32Array(spots);
  let at = new Int32Array(64 * spots);
  return ({ x, y, stepX, stepY, count, alongX, alongY }) => {
    if (at.length < count * spots) at = new Int32Array(count * spots);
    const along = Math.hypot(alongX, alongY);
    const apart = (1 + gap / along) / ((perRow - 1) / 2);
    for (let j = 0; j < spots; j++) {
      const alongSide = ((j % perRow) - (perRow - 1) / 2) * apart;
      const across = (Math.floor(j / perRow) - (rows - 1) / 2) * (gap / along);
      dx[j] = Math.round((alongSide * alongX - across * alongY) * one);
      dy[j] = Math.round((alongSide * alongY + across * alongX) * one);
    }
    const rim = along + rows * gap + 1;
    const within = (px: number, py: number) => px > rim && py > rim && px < width - 1 - rim && py < height - 1 - rim;
    const inside = within(x, y) && within(x + count * stepX, y + count * stepY);
    for (let k = 0, i = 0; k < count; k++) {
      // A half is added, so that cutting off gives the nearest pixel.
      const cx = Math.round((x + k * stepX + 0.5) * one);
      const cy = Math.round((y + k * stepY + 0.5) * one);
      const seen = inside || isInside(cx >> bits, cy >> bits, width, height);
      for (let j = 0; j < spots; j++, i++) {
        const px = (cx + dx[j]) >> bits;
        const py = (cy + dy[j]) >> bits;
        at[i] = inside || (seen && isInside(px, py, width, height)) ? (py * width + px) * channels : -1;
      }
    }
    return at;
  };
}

const isInside = (x: number, y: number, width: number, height: number) => x >= 0 && y >= 0 && x < width && y < height;
