import { levelsBySimd } from '../kernels/finishing';
import { accelerated } from '../kernels/simd';
import { createRaster, type Raster } from '../raster/raster';
import { percentiles } from './levels';

/** How much of a bright area's colour cast counts as the light's. */
const balanceShare = 0.7;

/** How a picture's levels are moved: a factor a channel, and what is added to all. */
export interface Levels {
  factors: readonly number[];
  offset: number;
}

/** White balance by what is brightest on a picture (as far as that is nearly neutral) and levels between its darkest and brightest half percent. */
export function naturalLevels({ width, height, channels, data }: Raster): Levels {
  const n = width * height;
  const luma = new Float32Array(Math.ceil(n / 3));
  for (let i = 0, k = 0; i < n; i += 3, k++) {
    const p = i * channels;
    luma[k] = channels === 1 ? data[p] : 0.299 * data[p] + 0.587 * data[p + 1] + 0.114 * data[p + 2];
  }
  const [low, bright, high] = percentiles(luma, [0.005, 0.95, 0.995]);
  const gains = [1, 1, 1];
  if (channels !== 1) {
    const sums = [0, 0, 0];
    for (let i = 0, k = 0; i < n; i += 3, k++) if (luma[k] >= bright && luma[k] < 253) for (let c = 0; c < 3; c++) sums[c] += data[i * channels + c]; // prettier-ignore
    const mean = (sums[0] + sums[1] + sums[2]) / 3;
    const cast = mean ? (Math.max(...sums) - Math.min(...sums)) / mean : 1;
    // A bright area of clear colour is a thing of that colour.
    if (cast < 0.35) for (let c = 0; c < 3; c++) gains[c] = (mean / Math.max(1, sums[c])) ** balanceShare;
  }
  const scale = 250 / Math.max(40, high - low);
  return { factors: gains.map((gain) => gain * scale), offset: 2 - low * scale };
}

/** A photograph or painting as it is: balanced and levelled, no tone is evened. */
export function naturalPicture(page: Raster, { factors, offset } = naturalLevels(page)): Raster {
  return accelerated(
    (kernels) => levelsBySimd(kernels, page, factors, offset),
    () => levelsPlain(page, { factors, offset }),
    page.channels === 3,
  );
}

function levelsPlain({ width, height, channels, data }: Raster, { factors, offset }: Levels): Raster {
  const out = channels === 1 ? 1 : 3;
  const target = createRaster(width, height, out);
  for (let p = 0, q = 0; p < data.length; p += channels)
    for (let c = 0; c < out; c++) target.data[q++] = data[p + c] * factors[c] + offset;
  return target;
}
