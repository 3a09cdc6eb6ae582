import { gaussian } from '../raster/blur';
import { linear, lumaPlane } from '../raster/colour';
import { GridRows } from '../raster/gridRows';
import { partFrom } from '../raster/marks';
import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import { fill } from './fill';
import { percentiles } from './levels';
import { closing, opening, wideAsInk } from './morphology';

/** How a page that is mostly dark (a slide, a printed card) was lit: its background is no paper, and is not divided by. */
export interface Darkness {
  /** Luma between which it is stretched, once the veil is off. */
  low: number;
  high: number;
  /** Luma of its background then. */
  ground: number;
  /** Linear light 0..1 that glare adds to all that is printed, on a small grid. */
  veil: Plane;
  /** Its share in red, green and blue; about 1 each. */
  colour: readonly number[];
  /** 1 where fields and pictures lie on the dark background, on a small grid. */
  fields: Plane;
}

/** Dark grounds are seldom black: their darkest hundredth is taken to this luma where it is brighter. */
const darkestGround = 20;
/** Glare has no edges: where the background changes faster, levels a pixel of the copy, something else begins. */
const steepest = 4;
/** What differs from the opened copy by so many levels is writing. */
const leastWriting = 6;
/** Glare has a lamp's colour: no channel of what it adds differs from their mean by more than this share of it, once it adds so much linear light. */
const mostLampOff = 0.5;
const leastGlare = 0.02;
/** What hangs together without an edge is the background when it has this share of the page. */
const leastBackground = 0.25;
/** The background without glare is about as dark as the darkest tenth of it. */
const unveiledShare = 0.1;
/** What differs from the background by so many levels is a field or a picture. */
const leastField = 20;

/**
 * How a dark page was lit, from a copy of 400 px: an opening takes its bright writing away; of what is left, the largest area without an edge is the background, and what it has more than in its darkest places
 * is glare, which adds to print and ground alike.
 *
 * @param smooth its luma, slightly smoothed.
 */
export function darknessOf(small: Raster, smooth: Plane): Darkness {
  const { width, height } = smooth;
  const ground = opening(smooth, wideAsInk(smooth));
  const bare = new Uint8Array(ground.data.length);
  for (let i = 0; i < bare.length; i++) if (smooth.data[i] - ground.data[i] < leastWriting) bare[i] = 1;
  const background = largestWithoutEdges(ground, perhapsGlare(small, ground, bare));
  const fields = createPlane(width, height);
  const veil = createPlane(width, height);
  let colour: number[] | null = null;
  if (background) {
    const base = fill(ground, background.map((v) => 1 - v)); // prettier-ignore
    const [dark] = percentiles(
      base.data.filter((_, i) => background[i]),
      [unveiledShare],
    );
    for (let i = 0; i < veil.data.length; i++) {
      veil.data[i] = Math.max(0, linearOf(base.data[i]) - linearOf(dark));
      fields.data[i] = Math.abs(ground.data[i] - base.data[i]) > leastField ? 1 : 0;
    }
    colour = colourOf(
      veil,
      small,
      background.map((v, i) => v & bare[i]),
    );
  }
  if (!colour) veil.data.fill(0);
  const whole = { veil, colour: colour ?? [1, 1, 1], low: 0, high: 255, ground: 0, fields: closing(fields, 2) };
  const clear = lumaPlane(unveiled(small, whole, 3)).data;
  const [low, high] = percentiles(clear, [0.01, 0.995]);
  const [middle] = percentiles(background ? clear.filter((_, i) => background[i] && bare[i]) : clear, [0.5]);
  return { ...whole, ground: middle, low: Math.max(0, low - darkestGround), high };
}

const linearOf = (level: number) => linear[Math.max(0, Math.min(255, Math.round(level)))];

/** 1 where a page is as its darker third, or lighter by what a lamp may add; and under writing. */
function perhapsGlare({ channels, data }: Raster, ground: Plane, bare: Uint8Array): Uint8Array {
  const [dark] = percentiles(ground.data, [0.3]);
  const at = (i: number, c: number) => linear[data[i * channels + (channels === 1 ? 0 : c)]];
  const own = [0, 0, 0];
  let n = 0;
  for (let i = 0; i < bare.length; i++)
    if (bare[i] && ground.data[i] <= dark) {
      n++;
      for (let c = 0; c < 3; c++) own[c] += at(i, c);
    }
  return bare.map((is, i) => {
    if (!is || !n) return 1;
    const added = own.map((sum, c) => at(i, c) - sum / n);
    const mean = (added[0] + added[1] + added[2]) / 3;
    return mean < leastGlare || Math.max(...added.map((v) => Math.abs(v - mean))) < mostLampOff * mean ? 1 : 0;
  });
}

/** 1 where the largest area of what may be it lies that no edge divides; null where none is large. */
function largestWithoutEdges(ground: Plane, allowed: Uint8Array): Uint8Array | null {
  const { width, height } = ground;
  const { data } = gaussian(ground, 1.2);
  const calm = new Uint8Array(data.length);
  for (let y = 1; y < height - 1; y++)
    for (let x = 1, i = y * width + 1; x < width - 1; x++, i++)
      if (allowed[i] && Math.hypot(data[i + 1] - data[i - 1], data[i + width] - data[i - width]) < 2 * steepest) calm[i] = 1;
  const seen = new Uint8Array(data.length);
  let largest: number[] = [];
  for (let start = 0; start < calm.length; start++) {
    if (!calm[start] || seen[start]) continue;
    const part = partFrom(calm, seen, width, height, start);
    if (part.length > largest.length) largest = part;
  }
  if (largest.length < leastBackground * data.length) return null;
  const background = new Uint8Array(data.length);
  for (const i of largest) background[i] = 1;
  return background;
}

/** How much of the veil each channel has: the slope of its linear light over the veil, on the background; null where that is no lamp's colour. */
function colourOf(veil: Plane, { channels, data }: Raster, background: Uint8Array): number[] | null {
  let [n, sum, square] = [0, 0, 0];
  const sums = [0, 0, 0];
  const products = [0, 0, 0];
  for (let i = 0; i < background.length; i++) {
    if (!background[i]) continue;
    const v = veil.data[i];
    n++;
    sum += v;
    square += v * v;
    for (let c = 0; c < 3; c++) {
      const light = linear[data[i * channels + (channels === 1 ? 0 : c)]];
      sums[c] += light;
      products[c] += light * v;
    }
  }
  const spread = square - (sum * sum) / n;
  if (spread < 1e-6 * n) return [1, 1, 1];
  const slopes = sums.map((s, c) => (products[c] - (s * sum) / n) / spread);
  return slopes.every((slope) => Math.abs(slope - 1) < mostLampOff) ? slopes : null;
}

/** sRGB values of linear light, 0..1 in steps (IEC 61966-2-1). */
const steps = 4096;
const encoded = Float32Array.from({ length: steps + 1 }, (_, i) => {
  const v = i / steps;
  return 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);
});

/** Levels that a page is stretched by. */
const gainOf = ({ low, high }: Darkness) => 255 / Math.max(32, high - low);

/** The background's level on the page once it is stretched. */
export const groundOf = (darkness: Darkness): number => Math.max(0, darkness.ground - darkness.low) * gainOf(darkness);

/** A dark page without its glare, stretched between its darkest and its brightest places. */
export function unveiled(page: Raster, darkness: Darkness, channels: 1 | 3): Raster {
  const { veil, colour, low } = darkness;
  const { width, height, channels: stride, data } = page;
  const target = createRaster(width, height, channels);
  const gain = gainOf(darkness);
  const rows = new GridRows(veil, width, height);
  const [cr, cg, cb] = colour.map((c) => c * steps);
  const scaled = linear.map((v) => v * steps);
  const without = (v: number, light: number) => {
    const left = scaled[v] - light;
    return encoded[left > 0 ? left | 0 : 0];
  };
  for (let y = 0, p = 0, q = 0; y < height; y++) {
    const row = rows.row(y);
    for (let x = 0; x < width; x++, p += stride) {
      const light = row[x];
      const r = without(data[p], light * cr);
      const g = stride === 1 ? r : without(data[p + 1], light * cg);
      const b = stride === 1 ? r : without(data[p + 2], light * cb);
      if (channels === 1) target.data[q++] = (0.299 * r + 0.587 * g + 0.114 * b - low) * gain;
      else {
        target.data[q++] = (r - low) * gain;
        target.data[q++] = (g - low) * gain;
        target.data[q++] = (b - low) * gain;
      }
    }
  }
  return target;
}
