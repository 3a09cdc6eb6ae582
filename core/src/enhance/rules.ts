import { GridRows } from '../raster/gridRows';
import type { Plane, Raster } from '../raster/raster';
import { shrinkGreyBy } from '../raster/resize';
import { paperLevel, type PageTone } from './evenLight';

/** Rules are looked for on a copy of about this resolution, where even fine ones are a pixel wide. */
const copyDpi = 150;
/** Below this, print is nearly as thin as rules are; and a preview on a phone's screen, which lies below it, keeps the workers free for the camera. */
const leastDpi = 150;
/** A rule is told over so much of its length, mm. */
const windowMm = 10;
/** Its darkness is told piece by piece, mm: noise evens out within one, and a letter's strokes do not. */
const pieceMm = 0.8;
/** So far beside a rule's middle lies paper, mm: rules are thinner than print is high. */
const besideMm = 0.55;
/** What is crossed by print is bridged up to here, mm. */
const gapMm = 1.5;

/** A piece of a rule is darker than what lies beside it by this, levels, and by this many deviations of the noise. */
const leastDepth = 0.03 * paperLevel;
const depthDeviations = 1.5;
/** Shares of a window's pieces that are dark, and that have paper on both sides: print has gaps, and more print above or below it. */
const leastDark = 0.85;
const leastBeside = 0.75;
const besideLevel = 0.87 * paperLevel;
/** Pieces of a rule are alike but for the noise, share of its depth; dashes are not. */
const mostSpread = 0.4;

/** A rule at or below the threshold is drawn this deep, share of the threshold, so that none of it is lost. */
const drawnAt = 0.75;
/** One that lies this far above it, of what parts ink from white, is white. */
const unseenFrom = 1.6;
/** Where nothing is drawn. */
const none = 255;
/** Of a line that stands out from the noise by so many deviations, less than this share is pale: else it is a line of dashes. */
const surelySeen = 4;
const mostPale = 0.14;
/** Bar codes and hatching are no rules: within this on both sides of a rule, mm, not more lines run along it. */
const hatchMm = 6;
const mostLines = 5;

/**
 * Where a page has thin straight rules along its sides, which its tone would break into dots: the level that they have at most; null: nowhere. A faint line is seen in the sum along its
 * length, where noise falls with the root of it, as edges are (Desolneux, Moisan and Morel, "Meaningful alignments", IJCV 40 (2000)).
 *
 * @param even evened grey; pictures are left out.
 */
export function findRules(even: Raster, tone: PageTone, pictures: Plane, dpi: number): Plane | null {
  if (dpi < leastDpi) return null;
  const copy = shrinkGreyBy(even, Math.max(1, Math.round(dpi / copyDpi)));
  const perMm = (dpi * copy.width) / even.width / 25.4;
  const { threshold, clear } = tone;
  const flat = rulesAcross(copy, threshold, clear, perMm);
  const steep = rulesAcross(turnedOver(copy, new Uint8Array(copy.data.length)), transposed(threshold), clear, perMm);
  const rules = both(flat, steep && transposed(steep));
  if (rules) clearWithin(rules, pictures);
  return rules;
}

interface Grid<Data> {
  width: number;
  height: number;
  data: Data;
}

/** Rows become columns, so that what runs down runs across. */
function turnedOver<Data extends Uint8Array | Float32Array>(
  { width, height, data }: Grid<ArrayLike<number>>,
  to: Data,
): Grid<Data> {
  for (let y = 0, p = 0; y < height; y++) for (let x = 0, q = y; x < width; x++, q += height) to[q] = data[p++];
  return { width: height, height: width, data: to };
}

const transposed = (plane: Plane): Plane => turnedOver(plane, new Float32Array(plane.data.length));

function both(one: Plane | null, other: Plane | null): Plane | null {
  if (!one || !other) return one ?? other;
  for (let i = 0; i < one.data.length; i++) if (other.data[i] < one.data[i]) one.data[i] = other.data[i];
  return one;
}

function clearWithin({ width, height, data }: Plane, pictures: Plane): void {
  if (!pictures.data.some((v) => v > 0.5)) return;
  const inPicture = new GridRows(pictures, width, height);
  for (let y = 0, p = 0; y < height; y++) {
    const row = inPicture.row(y);
    for (let x = 0; x < width; x++, p++) if (row[x] > 0.5) data[p] = none;
  }
}

/** The levels of what runs from left to right. */
function rulesAcross(grey: Grid<Raster['data']>, threshold: Plane, clear: number, perMm: number): Plane | null {
  const { width, height } = grey;
  const beside = Math.max(3, Math.round(besideMm * perMm));
  const half = Math.round((windowMm * perMm) / 2);
  const gap = Math.round(gapMm * perMm);
  if (height <= 2 * beside || width <= 2 * half) return null;
  const pieces = meanAlong(grey, Math.round((pieceMm * perMm) / 2));
  const ridge = ridgeOf(pieces, beside);
  const least = Math.max(leastDepth, depthDeviations * deviationOf(ridge.data));
  const strength = ruleStrength(pieces, ridge, beside, half, least);
  const thresholds = new GridRows(threshold, width, height);
  let rules: Plane | null = null;
  for (let y = beside; y < height - beside; y++)
    for (const run of runsIn(strength, ridge, y, half, least, gap)) {
      if (isDashed(grey, y, run, beside) || linesAlong(pieces, y, run, Math.round(hatchMm * perMm)) > mostLines) continue;
      rules ??= { width, height, data: new Float32Array(width * height).fill(none) };
      drawAlong(pieces, y, run, beside, thresholds.row(y), clear, rules);
    }
  return rules;
}

/** Running mean of 2 · reach + 1 pixels along each row, repeated at the edges; rows are longer than that. */
function meanAlong({ width, height, data }: Grid<Raster['data']>, reach: number): Grid<Uint8Array> {
  const mean = new Uint8Array(data.length);
  const window = 2 * reach + 1;
  const share = 1 / window;
  for (let row = 0; row < data.length; row += width) {
    const end = row + width - reach;
    let sum = 0;
    for (let p = row; p < row + window; p++) sum += data[p];
    for (let p = row + reach; p < end - 1; p++) {
      mean[p] = sum * share + 0.5;
      sum += data[p + reach + 1] - data[p - reach];
    }
    mean[end - 1] = sum * share + 0.5;
    mean.fill(mean[row + reach], row, row + reach);
    mean.fill(mean[end - 1], end, row + width);
  }
  return { width, height, data: mean };
}

/** How much darker a place is than the darker of what lies above and below it, levels up to 127. */
function ridgeOf({ width, height, data }: Grid<Uint8Array>, beside: number): Grid<Int8Array> {
  const ridge = new Int8Array(data.length);
  const step = beside * width;
  for (let p = step; p < data.length - step; p++) {
    const depth = Math.min(data[p - step], data[p + step]) - data[p];
    ridge[p] = depth > 127 ? 127 : depth < -128 ? -128 : depth;
  }
  return { width, height, data: ridge };
}

/** Standard deviation of what is mostly noise about 0: of a normal distribution 30 % lie within 0.385 of it. */
function deviationOf(values: Int8Array): number {
  const counts = new Uint32Array(129);
  for (let i = 0; i < values.length; i += 3) counts[Math.abs(values[i])]++;
  const wanted = 0.1 * values.length;
  let seen = 0;
  let level = 0;
  while (seen + counts[level] < wanted) seen += counts[level++];
  const part = (wanted - seen) / counts[level];
  return (level ? level - 0.5 + part : 0.5 * part) / 0.385;
}

/**
 * The mean depth of the window about each place, where it may be a rule's; elsewhere 0.
 *
 * @param half half of a window's columns; @param least by how much a rule's piece is darker than its sides.
 * @returns row by row; null: nowhere in the row.
 */
function ruleStrength(pieces: Grid<Uint8Array>, ridge: Grid<Int8Array>, beside: number, half: number, least: number): Strength {
  const { width, height, data: depths } = ridge;
  const window = 2 * half + 1;
  const dark = new Int32Array(width + 1);
  const between = new Int32Array(width + 1);
  const strength: Strength = new Array<Float32Array | null>(height).fill(null);
  for (let y = beside; y < height - beside; y++) {
    const row = y * width;
    let count = 0;
    for (let p = row; p < row + width; p++) if (depths[p] > least) count++;
    if (count < leastDark * window) continue;
    for (let x = 0, p = row; x < width; x++, p++) {
      const v = depths[p];
      dark[x + 1] = dark[x] + (v > least ? 1 : 0);
      between[x + 1] = between[x] + (v + pieces.data[p] > besideLevel ? 1 : 0);
    }
    const strengths = new Float32Array(width);
    for (let x = 0; x + window <= width; x++)
      if (dark[x + window] - dark[x] >= leastDark * window && between[x + window] - between[x] >= leastBeside * window)
        strengths[x + half] = evenDepth(depths, row + x, window, least);
    strength[y] = strengths;
  }
  return strength;
}

type Strength = (Float32Array | null)[];

/** Mean depth of a window whose pieces are alike, else 0. */
function evenDepth(ridge: Int8Array, from: number, window: number, least: number): number {
  let sum = 0;
  let squares = 0;
  for (let p = from; p < from + window; p++) {
    sum += ridge[p];
    squares += ridge[p] * ridge[p];
  }
  const mean = sum / window;
  // The least depth is a few deviations of the noise, so it stands for that.
  return squares / window - mean * mean <= (mostSpread * mean) ** 2 + least * least ? mean : 0;
}

/** Columns, the last one included. */
type Run = readonly [number, number];

/** Where rules have their middle in a row. */
function runsIn(
  strength: Strength,
  { width, data }: Grid<Int8Array>,
  y: number,
  half: number,
  least: number,
  gap: number,
): Run[] {
  const [above, here, below] = [strength[y - 1], strength[y], strength[y + 1]];
  const runs: Run[] = [];
  if (!here) return runs;
  let end = 0;
  for (let x = half; x < width - half; x++) {
    if (!here[x] || here[x] < (above?.[x] ?? 0) || here[x] < (below?.[x] ?? 0)) continue;
    // What is not dark at the ends of windows is not the rule; what is crossed in between is.
    for (let c = Math.max(end, x - half); c <= x + half; c++) {
      const at = y * width + c;
      if (Math.max(data[at - width], data[at], data[at + width]) <= least) continue;
      const last = runs.at(-1);
      if (last && c - last[1] <= gap + 1) runs[runs.length - 1] = [last[0], c];
      else runs.push([c, c]);
    }
    end = x + half + 1;
  }
  return runs.filter(([from, to]) => to - from >= half);
}

function isDashed({ width, data }: Grid<Raster['data']>, y: number, [from, to]: Run, beside: number): boolean {
  const row = (k: number) => data.slice((y + k) * width + from, (y + k) * width + to + 1);
  // Slightly aslant it leaves its row.
  const [above, below] = [row(-1), row(1)];
  const middle = row(0).map((v, i) => Math.min(v, above[i], below[i]));
  const sides = [row(-beside), row(beside)].map((side) => {
    const level = median(side);
    return { level, noise: 1.48 * median(side.map((v) => Math.abs(v - level))) };
  });
  const paper = Math.min(...sides.map((side) => side.level));
  const pale = (paper + median(middle.slice())) / 2;
  if (2 * (paper - pale) < surelySeen * Math.min(...sides.map((side) => side.noise))) return false;
  return middle.filter((v) => v > pale).length > mostPale * middle.length;
}

/** How many dark lines run along a rule, itself included, within `reach` rows. */
function linesAlong({ width, height, data }: Grid<Uint8Array>, y: number, [from, to]: Run, reach: number): number {
  const first = Math.max(0, y - reach);
  const means = Array.from({ length: Math.min(height, y + reach + 1) - first }, (_, i) => {
    let sum = 0;
    for (let p = (first + i) * width + from, end = p + to - from; p <= end; p++) sum += data[p];
    return sum / (to - from + 1);
  });
  const dark = (paperLevel + means[y - first]) / 2;
  return means.filter((v, i) => v < dark && !(means[i - 1] < dark)).length;
}

/** Draws a rule whose middle lies in row y, with the level and the width that most of it has: print that stands on it would make it darker and wider. */
function drawAlong(
  { width, data }: Grid<Uint8Array>,
  y: number,
  [from, to]: Run,
  beside: number,
  threshold: Float32Array,
  clear: number,
  rules: Plane,
): void {
  const level = (k: number) => median(data.slice((y + k) * width + from, (y + k) * width + to + 1));
  const middle = level(0);
  const paper = Math.min(level(-beside), level(beside));
  if (paper <= middle) return;
  for (let k = 1 - beside; k < beside; k++) {
    const share = Math.min(1, (paper - level(k)) / (paper - middle));
    if (share <= 0) continue;
    for (let x = from, p = (y + k) * width + from; x <= to; x++, p++)
      rules.data[p] = Math.min(
        rules.data[p],
        paperLevel - share * share * (paperLevel - drawnLevel(middle, threshold[x], clear)),
      );
  }
}

const median = (values: Raster['data']): number => values.sort()[values.length >> 1];

/** Level that a rule is drawn with: the paler it is, the nearer to white. */
function drawnLevel(level: number, threshold: number, clear: number): number {
  const above = Math.max(0, Math.min(1, (level - threshold) / (unseenFrom * clear)));
  const deepest = drawnAt * threshold;
  return deepest + Math.sqrt(above) * (threshold + clear - deepest);
}

/** Draws rules into an evened grey, in place; what is darker stays. */
export function drawRules({ width, height, data }: Raster, rules: Plane): void {
  const levels = new GridRows(rules, width, height);
  const ruled = Array.from({ length: rules.height }, (_, y) =>
    rules.data.subarray(y * rules.width, (y + 1) * rules.width).some((v) => v < none),
  );
  for (let y = 0; y < height; y++) {
    const { row, next } = levels.between(y);
    if (!ruled[row] && !ruled[next]) continue;
    const level = levels.row(y);
    for (let x = 0, p = y * width; x < width; x++, p++) if (level[x] < data[p]) data[p] = level[x];
  }
}
