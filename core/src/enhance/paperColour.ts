import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { createPlane, type Plane, type Raster } from '../raster/raster';
import { median, percentiles } from './levels';
import { closing, wideAsInk } from './morphology';

/** A colour in log ratios: red to green, blue to green. */
export type LogColour = readonly [red: number, blue: number];

/** Direction of black bodies from 2700 K to 6500 K in gamma-encoded log ratios (computed from the CIE daylight and Planckian loci, approximate). */
export const lampLine: LogColour = [0.48, -0.88];

/** What a page looks like once the ink is gone: its colours, and the one of its bare paper. */
export interface Ground {
  red: Plane;
  blue: Plane;
  /** The brightest channel's level. */
  level: Plane;
  paper: LogColour;
}

/** Levels that are added before the logarithm, so that the noise of dark places is no colour. */
export const floorLevel = 8;
/** A desk that shows along the sides tells nothing, share of the longer side. */
const margin = 0.012;
/** Colours are counted in cells of so many log units, out to this on both sides; one has so much of the page at least. */
const cell = 0.03;
const cells = 81;
const leastShare = 0.015;
/** White is so far from a tint at least, and no darker than it by more than this; a light's edge changes brightness by more than so many times what it changes of the colour. */
const leastApart = 0.05;
const mostDarker = 0.03;
const mostSteep = 3;

/** What is darker than this share of the luma that a closing leaves is ink, and the ground under it is that around it: near by, or from further off under large letters. */
const bare = 0.88;
const [near, far] = [2.5, 8];
const leastBare = 0.05;
/** What ink counts for in the mean around, so that there is one everywhere. */
const inkWeight = 0.001;

/** Looks at a page's ground on its copy of 400 px, without its ink. */
export function groundOf(small: Raster): Ground {
  const { width, height, channels, data } = small;
  const n = width * height;
  const luma = gaussian(lumaPlane(small), 0.8);
  const top = closing(luma, wideAsInk(luma)).data;
  const weights = { width, height, data: luma.data.map((v, i) => (v >= bare * top[i] ? 1 : inkWeight)) };
  const nearWeights = gaussian(weights, near).data;
  const farWeights = nearWeights.some((v) => v <= leastBare) ? gaussian(weights, far).data : null;
  const [r, g, b] = [0, 1, 2].map((c) => {
    const plane = createPlane(width, height);
    for (let i = 0, p = channels === 1 ? 0 : c; i < n; i++, p += channels) plane.data[i] = data[p] * weights.data[i];
    const close = gaussian(plane, near).data;
    const wide = farWeights && gaussian(plane, far).data;
    for (let i = 0; i < n; i++)
      close[i] = wide && nearWeights[i] <= leastBare ? wide[i] / farWeights[i] : close[i] / nearWeights[i];
    return close;
  });
  const [red, blue, level] = [0, 1, 2].map(() => createPlane(width, height));
  for (let i = 0; i < n; i++) {
    const green = Math.log(g[i] + floorLevel);
    red.data[i] = Math.log(r[i] + floorLevel) - green;
    blue.data[i] = Math.log(b[i] + floorLevel) - green;
    level.data[i] = Math.max(r[i], g[i], b[i]);
  }
  return { red, blue, level, paper: paperIn(red, blue, level) };
}

/**
 * The colour of bare paper: what most of the brighter part of a page has, unless something on it is less colourful and no darker, as a label on a brown envelope is: then that is what is white, and
 * the rest a tint. Sunlight beside shadow is brighter by far more than it is whiter.
 */
function paperIn(red: Plane, blue: Plane, level: Plane): LogColour {
  const { width, height } = level;
  const off = Math.round(margin * Math.max(width, height));
  // The ground is smooth: every other place is enough.
  const inner: number[] = [];
  for (let y = off; y < height - off; y += 2) for (let x = off; x < width - off; x += 2) inner.push(y * width + x);
  if (inner.length < 8) return [0, 0];
  const [usual] = percentiles(valuesAt(level.data, inner), [0.6]);
  const bright = inner.filter((i) => level.data[i] >= usual);
  const middleOf = (plane: Plane) => median(valuesAt(plane.data, bright)) ?? 0;
  let paper: LogColour = [middleOf(red), middleOf(blue)];
  let paperLevel = Math.log(middleOf(level) + floorLevel);
  const sums = new Float64Array(4 * cells * cells);
  const cellOf = (v: number) => Math.max(1, Math.min(cells - 2, Math.round(v / cell) + (cells >> 1)));
  for (const i of inner) {
    const at = 4 * (cellOf(red.data[i]) * cells + cellOf(blue.data[i]));
    sums[at]++;
    sums[at + 1] += red.data[i];
    sums[at + 2] += blue.data[i];
    sums[at + 3] += Math.log(level.data[i] + floorLevel);
  }
  for (let r = 1; r < cells - 1; r++)
    for (let b = 1; b < cells - 1; b++) {
      if (!sums[4 * (r * cells + b)]) continue;
      const [count, reds, blues, levels] = [0, 1, 2, 3].map((k) => {
        let sum = 0;
        for (let dr = -1; dr <= 1; dr++) for (let db = -1; db <= 1; db++) sum += sums[4 * ((r + dr) * cells + b + db) + k];
        return sum;
      });
      if (count < leastShare * inner.length) continue;
      const colour: LogColour = [reds / count, blues / count];
      const apart = Math.hypot(colour[0] - paper[0], colour[1] - paper[1]);
      const brighter = levels / count - paperLevel;
      if (apart < leastApart || brighter < -mostDarker || brighter > mostSteep * apart) continue;
      if (Math.hypot(...colour) > Math.hypot(...paper) - leastApart / 2) continue;
      paper = colour;
      paperLevel += brighter;
    }
  return paper;
}

/** What a plane has at some places. */
export function valuesAt(data: Float32Array, places: readonly number[]): Float32Array {
  const values = new Float32Array(places.length);
  for (let k = 0; k < values.length; k++) values[k] = data[places[k]];
  return values;
}
