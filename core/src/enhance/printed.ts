import { sumsOfTrees, unpackTrees } from '../find/trees';
import { gaussian, boxMean } from '../raster/blur';
import { GridRows } from '../raster/gridRows';
import { lengthOf } from '../raster/lengthOf';
import { connectedComponents } from '../raster/marks';
import { createPlane, type Plane } from '../raster/raster';
import { percentiles } from './levels';
import { dilate } from './morphology';
import { base, cuts, depth, packed, step } from './printedWeights';
import { floorLevel, lampLine, valuesAt, type Ground } from './paperColour';

/** What is known of a place by which it is told whether it is bare paper or printed: a field of colour, a picture, a dark block. */
export const printedNames = [
  // Its brightness beside the brightest near by and further off, the page's brightest, its middle and its border (log levels).
  'below near', 'below wide', 'below most', 'below middle', 'below border',
  // Its colour beside the page's likely paper and beside grey, along the line of lamps and across it; beside the border's.
  'along paper', 'across paper', 'off paper', 'along', 'across', 'off grey', 'off border',
  // How much brightness changes round it: in the direction of least and most change; spread near and wide; spread of the colour.
  'lesser', 'greater', 'lesser wide', 'spread near', 'spread wide', 'colours near',
  // Ink on it.
  'ink near', 'ink wide',
  // The least sum of sudden changes on a way to it from what looks like paper.
  'way',
  'border',
  // Of the whole page: share that looks like paper, span of brightness, calm, texture, ink, the likely paper's colour, share in strong colours.
  'papery', 'span', 'calm', 'texture', 'inked', 'paper along', 'paper across', 'strong',
] as const; // prettier-ignore

const count = printedNames.length;

export interface Places {
  width: number;
  height: number;
  /** Row by row, as many a place as there are names. */
  numbers: Float32Array;
}

/**
 * Looks at every second place of a page's copy of 400 px, or at so many fewer.
 *
 * @param smooth its luma; `top` without the ink.
 */
export function placesOf(smooth: Plane, top: Plane, ground: Ground, every = 1): Places {
  const [logs, taken] = [0, 1].map(() => createPlane(top.width, top.height));
  for (let i = 0; i < logs.data.length; i++) {
    logs.data[i] = Math.log(top.data[i] + floorLevel);
    taken.data[i] = 1 - smooth.data[i] / Math.max(1, top.data[i]);
  }
  const [level, ink, red, blue] = [logs, taken, ground.red, ground.blue].map(halved);
  const { width, height } = level;
  const n = width * height;
  const long = Math.max(width, height);
  const [low, middle, most] = shares(level.data, [0.1, 0.5, 0.97]);
  const near = gaussian(dilate(level, Math.round(long / 10)), long / 40).data;
  const wide = gaussian(dilate(level, Math.round(long / 4)), long / 16).data;
  const [paperRed, paperBlue] = ground.paper;
  const along = red.data.map((r, i) => r * lampLine[0] + blue.data[i] * lampLine[1]);
  const across = red.data.map((r, i) => -r * lampLine[1] + blue.data[i] * lampLine[0]);
  const paperAlong = paperRed * lampLine[0] + paperBlue * lampLine[1];
  const paperAcross = -paperRed * lampLine[1] + paperBlue * lampLine[0];
  const off = red.data.map((r, i) => lengthOf(r - paperRed, blue.data[i] - paperBlue));
  const ring = borderOf(width, height);
  const middleOf = (data: Float32Array) => shares(valuesAt(data, ring), [0.5])[0];
  const [ringLevel, ringAlong, ringAcross] = [level.data, along, across].map(middleOf);
  const [lesser, greater, wideLesser] = changes(level);
  const spreadNear = spread(level, 4);
  const spreadWide = spread(level, 12);
  const colours = spread({ width, height, data: off }, 4);
  const inkNear = boxMean(ink, 2).data;
  const inkWide = boxMean(ink, 7).data;
  const way = wayFrom(level, red, blue, off, near);
  const [calm, texture] = shares(lesser, [0.1, 0.5]);
  let [papery, inked, strong] = [0, 0, 0];
  for (let i = 0; i < n; i++) {
    papery += Number(off[i] < 0.05 && level.data[i] > near[i] - 0.12) / n;
    inked += ink.data[i] / n;
    strong += Number(off[i] > 0.2) / n;
  }
  const [columns, rows] = [Math.ceil(width / every), Math.ceil(height / every)];
  const numbers = new Float32Array(columns * rows * count);
  for (let y = 0, p = 0; y < height; y += every)
    for (let x = 0; x < width; x += every) {
      const i = y * width + x;
      const l = level.data[i];
      numbers.set([
        l - near[i], l - wide[i], l - most, l - middle, l - ringLevel,
        along[i] - paperAlong, across[i] - paperAcross, off[i], along[i], across[i], lengthOf(along[i], across[i]), lengthOf(along[i] - ringAlong, across[i] - ringAcross),
        lesser[i], greater[i], wideLesser[i], spreadNear[i], spreadWide[i], colours[i],
        inkNear[i], inkWide[i],
        way[i],
        Math.min(x, y, width - 1 - x, height - 1 - y) / long,
        papery, most - low, calm, texture, inked, paperAlong, paperAcross, strong,
      ], p); // prettier-ignore
      p += count;
    }
  return { width: columns, height: rows, numbers };
}

/** The mean of each four. */
function halved({ width, height, data }: Plane): Plane {
  const half = createPlane(Math.max(1, width >> 1), Math.max(1, height >> 1));
  const [dx, dy] = [Math.min(1, width - 1), Math.min(1, height - 1) * width];
  for (let y = 0, i = 0; y < half.height; y++)
    for (let x = 0; x < half.width; x++, i++) {
      const p = Math.min(2 * y, height - 1) * width + Math.min(2 * x, width - 1);
      half.data[i] = (data[p] + data[p + dx] + data[p + dy] + data[p + dx + dy]) / 4;
    }
  return half;
}

/** A band along the sides, a little inside of them, since a desk may show there. */
function borderOf(width: number, height: number): number[] {
  const [from, to] = [0.015, 0.06].map((share) => Math.round(share * Math.max(width, height)));
  const ring: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = Math.min(x, y, width - 1 - x, height - 1 - y);
      if (at >= from && at <= to) ring.push(y * width + x);
    }
  return ring.length ? ring : [0];
}

/** Steeper changes count as this, so that one edge does not make its surroundings a picture. */
const steepest = 0.06;

/** How much log levels change round each place, in the direction in which they change less and in the other: roots of the structure tensor's eigenvalues (Förstner and Gülch 1987); the lesser one over more of the page too. */
function changes({ width, height, data }: Plane): [Float32Array, Float32Array, Float32Array] {
  const [xx, yy, xy] = [0, 1, 2].map(() => createPlane(width, height));
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const [left, right] = [x ? i - 1 : i, x < width - 1 ? i + 1 : i];
      const [up, down] = [y ? i - width : i, y < height - 1 ? i + width : i];
      let gx = (data[right] - data[left]) / 2;
      let gy = (data[down] - data[up]) / 2;
      const steep = lengthOf(gx, gy) / steepest;
      if (steep > 1) {
        gx /= steep;
        gy /= steep;
      }
      xx.data[i] = gx * gx;
      yy.data[i] = gy * gy;
      xy.data[i] = gx * gy;
    }
  const both = (sigma: number) => {
    const [a, b, c] = [xx, yy, xy].map((plane) => gaussian(plane, sigma).data);
    const root = (sign: number) => {
      const out = new Float32Array(a.length);
      for (let i = 0; i < out.length; i++)
        out[i] = Math.sqrt(Math.max(0, (a[i] + b[i]) / 2 + sign * lengthOf((a[i] - b[i]) / 2, c[i])));
      return out;
    };
    return [root(-1), root(1)] as const;
  };
  const [lesser, greater] = both(3);
  return [lesser, greater, both(9)[0]];
}

/** Standard deviation within a box. */
function spread(plane: Plane, radius: number): Float32Array {
  const mean = boxMean(plane, radius).data;
  const squared = createPlane(plane.width, plane.height);
  for (let i = 0; i < mean.length; i++) squared.data[i] = plane.data[i] * plane.data[i];
  const out = boxMean(squared, radius).data;
  for (let i = 0; i < mean.length; i++) out[i] = Math.sqrt(Math.max(0, out[i] - mean[i] * mean[i]));
  return out;
}

/** What light changes from a place to its neighbour costs nothing. */
const freely = [0.012, 0.008];

/** The least sum of sudden changes on any way from what looks like paper, begun with how little that does: a chamfer transform in four passes over the page. */
function wayFrom({ width, height, data }: Plane, red: Plane, blue: Plane, off: Float32Array, near: Float32Array): Float32Array {
  const cost = off.map((v, i) => 2 * v + near[i] - data[i]);
  const step = (i: number, j: number) =>
    Math.max(0, Math.abs(data[i] - data[j]) - freely[0]) +
    2 * Math.max(0, lengthOf(red.data[i] - red.data[j], blue.data[i] - blue.data[j]) - freely[1]);
  for (let pass = 0; pass < 2; pass++) {
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++) {
        if (x) cost[i] = Math.min(cost[i], cost[i - 1] + step(i, i - 1));
        if (y) cost[i] = Math.min(cost[i], cost[i - width] + step(i, i - width));
      }
    for (let y = height - 1, i = width * height - 1; y >= 0; y--)
      for (let x = width - 1; x >= 0; x--, i--) {
        if (x < width - 1) cost[i] = Math.min(cost[i], cost[i + 1] + step(i, i + 1));
        if (y < height - 1) cost[i] = Math.min(cost[i], cost[i + width] + step(i, i + width));
      }
  }
  return cost;
}

/** Values below which the given shares of some lie. */
function shares(data: Float32Array, at: readonly number[]): number[] {
  let [least, most] = [Infinity, -Infinity];
  for (const v of data) {
    if (v < least) least = v;
    if (v > most) most = v;
  }
  const scale = 255 / Math.max(1e-9, most - least);
  return percentiles(data.map((v) => (v - least) * scale), at).map((v) => v / scale + least); // prettier-ignore
}

const trees = unpackTrees(depth, base, cuts, packed, step);
/** Probabilities are smoothed over so many places. */
const smoothing = 1.2;
/** An area is printed, or bare, where it is that surely somewhere. */
const surely = 0.85;
/** Another colour than the paper's, log ratios. */
const otherPaper = 0.2;
/** A printed area is taken so much larger, px of the copy: its edge is neither. */
const grownBy = 3;

/**
 * 1 where a page's copy is printed over an area: fields of colour, pictures, dark blocks; told place by place by boosted trees (`bench/src/trainPrinted.ts`).
 *
 * @param smooth its luma; `top` without the ink.
 */
export function printedPlaces(smooth: Plane, top: Plane, ground: Ground): Uint8Array {
  const { width, height, numbers } = placesOf(smooth, top, ground, 2);
  const coarse = createPlane(width, height);
  const sums = sumsOfTrees(trees, numbers, count);
  for (let i = 0; i < sums.length; i++) coarse.data[i] = 1 / (1 + Math.exp(-sums[i]));
  const rows = new GridRows(gaussian(coarse, smoothing), smooth.width, smooth.height);
  const mask = createPlane(smooth.width, smooth.height);
  const chances = new Float32Array(mask.data.length);
  for (let y = 0; y < smooth.height; y++) chances.set(rows.row(y), y * smooth.width);
  for (const printed of [1, 0]) {
    const side = new Uint8Array(chances.length);
    for (let i = 0; i < side.length; i++) side[i] = chances[i] > 0.5 ? printed : 1 - printed;
    for (const part of connectedComponents(side, smooth.width, smooth.height)) {
      const sure = part.some((i) => Math.abs(chances[i] - (1 - printed)) > surely);
      for (const i of part) mask.data[i] = sure ? printed : 1 - printed;
    }
  }
  // What is bare has the paper's colour, or there is no paper.
  let [bare, other] = [0, 0];
  for (let i = 0; i < mask.data.length; i++) {
    if (mask.data[i]) continue;
    bare++;
    other += Number(offPaper(ground, i) > otherPaper);
  }
  if (other > bare / 2) mask.data.fill(1);
  return new Uint8Array(dilate(mask, grownBy).data);
}

/** How far a place's ground is off the paper's colour, log ratios. */
export const offPaper = ({ red, blue, paper }: Ground, i: number): number =>
  lengthOf(red.data[i] - paper[0], blue.data[i] - paper[1]);
