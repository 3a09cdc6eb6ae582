import { gaussian } from '../raster/blur';
import type { Box } from '../raster/crop';
import { lengthOf } from '../raster/lengthOf';
import { connectedComponents } from '../raster/marks';
import { createPlane, type Plane, type Raster } from '../raster/raster';
import { median, percentiles } from './levels';
import { dilate, erode } from './morphology';
import { floorLevel } from './paperColour';

/** Tones change by this much a pixel of half the copy in a picture, in the direction in which they change less, in log levels: by more somewhere, by no less all over. */
const surelyTextured = 0.016;
const textured = 0.008;
/** On noisy pages they change by so many times what they do in the page's calmest tenth. */
const aboveCalm = 6;
const mostCalm = 2;
/** Steeper changes count as this, so that one edge does not make its surroundings a picture. */
const steepest = 0.06;
/** Smaller ones are left to their colour and darkness, share of the page: bar codes have as many tones. */
const leastTextured = 0.05;

/**
 * Adds areas whose tones change in all directions, as a shadow's do across its edge alone: grey pictures, also where glare lies on them. The lesser eigenvalue of the
 * structure tensor tells (Förstner and Gülch, "A fast operator for detection and precise location of distinct points", ISPRS 1987), on the page without its ink.
 */
export function texturedAreas(top: Plane, mask: Uint8Array): void {
  const { width, height } = top;
  const change = lesserChange(top);
  const [w, h] = [change.width, change.height];
  const calm =
    percentiles(
      change.data.map((v) => v * changeScale),
      [0.1],
    )[0] / changeScale;
  const by = Math.max(1, Math.min(mostCalm, (aboveCalm * calm) / textured));
  if (!change.data.some((v) => v > by * surelyTextured)) return;
  const some = createPlane(w, h);
  for (let i = 0; i < some.data.length; i++) some.data[i] = Number(change.data[i] > by * textured);
  const areas = erode(dilate(some, 3), 7).data;
  for (const part of connectedComponents(new Uint8Array(areas), w, h)) {
    if (part.length < leastTextured * areas.length || !part.some((i) => change.data[i] > by * surelyTextured)) continue;
    for (const i of part) areas[i] = 2;
  }
  for (let i = 0; i < areas.length; i++) areas[i] = Number(areas[i] === 2);
  const grown = dilate({ width: w, height: h, data: areas }, 3).data;
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) if (grown[Math.min(h - 1, y >> 1) * w + Math.min(w - 1, x >> 1)]) mask[i] = 1;
}

/** What `percentiles` needs to tell changes apart. */
const changeScale = 10_000;

/** How much log levels change from pixel to pixel of half the plane, around each of them, in the direction in which they change less. */
function lesserChange({ width, height, data }: Plane): Plane {
  const w = Math.max(1, width >> 1);
  const h = Math.max(1, height >> 1);
  const level = new Float32Array(w * h);
  for (let y = 0, i = 0; y < h; y++) for (let x = 0; x < w; x++, i++) level[i] = Math.log(data[2 * y * width + 2 * x] + 8);
  const [xx, yy, xy] = [0, 1, 2].map(() => createPlane(w, h));
  for (let y = 1; y < h - 1; y++)
    for (let x = 1, i = y * w + 1; x < w - 1; x++, i++) {
      const dx = (level[i + 1] - level[i - 1]) / 2;
      const dy = (level[i + w] - level[i - w]) / 2;
      const part = Math.min(1, steepest ** 2 / (dx * dx + dy * dy + 1e-12));
      xx.data[i] = dx * dx * part;
      yy.data[i] = dy * dy * part;
      xy.data[i] = dx * dy * part;
    }
  const [a, b, c] = [xx, yy, xy].map((plane) => gaussian(plane, 3).data);
  const change = createPlane(w, h);
  for (let i = 0; i < a.length; i++)
    change.data[i] = Math.sqrt(Math.max(0, (a[i] + b[i]) / 2 - lengthOf((a[i] - b[i]) / 2, c[i])));
  return change;
}

/** Smaller pictures have no gaps worth it, share of the page; and what fills less of its rectangle is none. */
const leastPicture = 0.06;
const leastFull = 0.6;
/** Paper is looked at so far round a picture, px of the copy. */
const roundPx = 12;
/** A gap is no paper when so much of it is lighter, darker or of another colour than the paper round the picture, log levels. */
const oddShare = 0.6;
const oddLevel = 0.1;
const oddColour = 0.09;
/** Where the ink takes away more of the light, something is written in a gap. */
const written = 0.03;
/** What is enclosed by a picture and smaller than this, share of the picture, belongs to it. */
const mostEnclosed = 0.2;

/**
 * Pictures are rectangles: what is missing in one that nearly fills its own, a glare or a pale sky, is added unless something is written there, or it looks like
 * the paper around and is open to it.
 *
 * @param small the page in colour.
 * @param smooth its luma, and `top` without the ink.
 */
export function squareUp(small: Raster, smooth: Plane, top: Plane, mask: Uint8Array): void {
  const { width, height, channels, data } = small;
  if (channels === 1) return;
  const look = (i: number): [number, number, number] => {
    const green = logs[data[i * channels + 1]];
    return [logs[Math.round(top.data[i])], logs[data[i * channels]] - green, logs[data[i * channels + 2]] - green];
  };
  for (const part of connectedComponents(mask, width, height)) {
    if (part.length < leastPicture * leastFull * mask.length) continue;
    const box = boxOf(part, width);
    if (part.length < leastFull * box.width * box.height) continue;
    const round: number[] = [];
    for (let y = Math.max(0, box.y - roundPx); y < Math.min(height, box.y + box.height + roundPx); y++)
      for (let x = Math.max(0, box.x - roundPx); x < Math.min(width, box.x + box.width + roundPx); x++)
        if (!mask[y * width + x] && !isWithin(box, x, y)) round.push(y * width + x);
    const paper = [0, 1, 2].map((k) => median(Float32Array.from(round, (i) => look(i)[k])));
    const isOdd = (i: number) => {
      const [level, red, blue] = look(i);
      return Math.abs(level - paper[0]!) > oddLevel || lengthOf(red - paper[1]!, blue - paper[2]!) > oddColour;
    };
    const open = new Uint8Array(box.width * box.height);
    for (let y = 0, i = 0; y < box.height; y++)
      for (let x = 0; x < box.width; x++, i++) open[i] = 1 - mask[(box.y + y) * width + box.x + x];
    for (const gap of connectedComponents(open, box.width, box.height)) {
      const inner = boxOf(gap, box.width);
      const enclosed = inner.x > 0 && inner.y > 0 && inner.x + inner.width < box.width && inner.y + inner.height < box.height;
      const places = gap.map((i) => (box.y + Math.floor(i / box.width)) * width + box.x + (i % box.width));
      const mean = (of: (i: number) => number) => places.reduce((sum, i) => sum + of(i), 0) / places.length;
      if (mean((i) => 1 - smooth.data[i] / Math.max(1, top.data[i])) > written) continue;
      const belongs = enclosed
        ? gap.length < mostEnclosed * part.length
        : paper[0] !== null && mean((i) => Number(isOdd(i))) > oddShare;
      if (belongs) for (const i of places) mask[i] = 1;
    }
  }
}

const isWithin = ({ x, y, width, height }: Box, px: number, py: number) =>
  px >= x && px < x + width && py >= y && py < y + height;

function boxOf(places: readonly number[], width: number): Box {
  let [x0, y0, x1, y1] = [Infinity, Infinity, 0, 0];
  for (const i of places) {
    const x = i % width;
    const y = (i - x) / width;
    if (x < x0) x0 = x;
    if (x > x1) x1 = x;
    if (y < y0) y0 = y;
    if (y > y1) y1 = y;
  }
  return { x: x0, y: y0, width: x1 - x0 + 1, height: y1 - y0 + 1 };
}

const logs = Float32Array.from({ length: 256 }, (_, v) => Math.log(v + floorLevel));
