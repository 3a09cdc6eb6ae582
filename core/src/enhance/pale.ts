import { boxMean, gaussian } from '../raster/blur';
import { GridRows } from '../raster/gridRows';
import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { percentiles } from './levels';
import { lightEdgePx, paperOf, type Light } from './light';
import { dilate } from './morphology';

/** Strokes are looked at on a copy of this size. */
const workingEdgePx = 1200;
/** Strokes within this of each other are made deeper alike, share of the longer side; the frame's shadow lies so near the border, and is left. */
const reachShare = 0.018;
/** How deep a stroke is when nothing has to be done: the share of the paper's light that it takes away. */
const deepEnough = 0.6;
const mostGain = 4.5;
/** What is paler than this, or than so many deviations of the noise, is paper. */
const leastDepth = 0.035;
const noiseWidths = 5;

/** What light is usual on a page: so much of its paper is darker, and up to the first step above it all counts as usual. */
const usualShare = 0.35;
/** Steps of light above what is usual, times it; in each the strokes are looked at together. */
const lightSteps = [1.04, 1.09, 1.14, 1.2, 1.27, 1.36];
/** Glare is at least so much brighter than what is usual, on this share of the page. */
const glaresFrom = 1.14;
const leastGlare = 0.003;
/** Shares of the strokes of a step whose depth is compared with what it is in usual light, from pale lines to full print. */
const comparedShares = [0.2, 0.5, 0.7];
/** A step with fewer strokes on this share of the page tells nothing. */
const leastStrokes = 0.002;
/** Smaller gains are not worth the time. */
const leastGain = 1.15;

/** Where a page's strokes are pale, and its paper in each channel, on small grids. */
export interface Paleness {
  /** How much deeper the strokes of a board are made, from 1. */
  board: Plane;
  /** How much deeper strokes in glare are made; null where nothing glares. */
  glare: Plane | null;
  papers: Plane[];
}

export function palenessOf(page: Raster, light: Light): Paleness {
  const strokes = deepestStrokes(page, light);
  return { board: boardGains(strokes), glare: glareGains(strokes, light), papers: paperOf(shrinkToEdge(page, lightEdgePx)) };
}

/** Whether so much of the paper is so much brighter than the rest that glare may lie on it. */
export function mayGlare(light: Light): boolean {
  const from = usualPaper(light) * glaresFrom;
  const { paper, pictures } = light;
  let bright = 0;
  for (let i = 0; i < paper.data.length; i++) if (paper.data[i] > from && pictures.data[i] < 0.5) bright++;
  return bright > leastGlare * paper.data.length;
}

function usualPaper({ paper, pictures }: Light): number {
  const bare = new Float32Array(paper.data.length);
  let n = 0;
  for (let i = 0; i < bare.length; i++) if (pictures.data[i] < 0.5) bare[n++] = paper.data[i];
  return n ? percentiles(bare.subarray(0, n), [usualShare])[0] : Infinity;
}

/**
 * A page with its pale strokes made deeper by `gains`. Glare adds light to paper and stroke alike: divided by the light they are pale then, though
 * as much below the paper as ever; a dry pen's are pale too.
 */
export function deepened(page: Raster, light: Light, gains: Plane, papersOf: readonly Plane[]): Raster {
  const { width, height, channels, data } = page;
  const target = createRaster(width, height, channels);
  const colours = channels === 1 ? 1 : 3;
  const papers = new GridRows(light.paper, width, height);
  const gainRows = new GridRows(gains, width, height);
  const ownRows = papersOf.map((plane) => new GridRows(plane, width, height));
  for (let y = 0; y < height; y++) {
    const paper = papers.row(y);
    const more = gainRows.row(y);
    for (let c = 0; c < colours; c++) {
      const own = ownRows[c].row(y);
      const balance = light.balance[c];
      for (let x = 0, p = y * width * channels + c; x < width; x++, p += channels) {
        const white = paper[x] / balance;
        // What glares has its own colour: there each channel is taken against its own paper.
        const at = Math.min(1, 2 * (more[x] - 1));
        const base = white + (own[x] - white) * at;
        const depth = 1 - data[p] / Math.max(1, base);
        target.data[p] = white * (1 - (depth > 0 ? more[x] : 1) * depth);
      }
    }
    if (channels === 4) for (let p = y * width * 4 + 3, end = p + width * 4; p < end; p += 4) target.data[p] = 255;
  }
  return target;
}

interface Strokes {
  /** How much of the paper's light the deepest stroke around takes away. */
  deepest: Plane;
  /** What paper itself seems to take away, and what more than paper takes away. */
  paper: number;
  least: number;
  /** How far around was looked, px. */
  reach: number;
}

function deepestStrokes(page: Raster, light: Light): Strokes {
  const { width, height, channels, data } = shrinkToEdge(page, workingEdgePx);
  const papers = new GridRows(light.paper, width, height);
  const pictures = new GridRows(light.pictures, width, height);
  const depth = createPlane(width, height);
  const inPicture = new Uint8Array(width * height);
  for (let y = 0, i = 0, p = 0; y < height; y++) {
    const paper = papers.row(y);
    const picture = pictures.row(y);
    for (let x = 0; x < width; x++, i++, p += channels) {
      inPicture[i] = Number(picture[x] > 0.01);
      const r = data[p] * light.balance[0];
      const g = channels === 1 ? r : data[p + 1] * light.balance[1];
      const b = channels === 1 ? r : data[p + 2] * light.balance[2];
      depth.data[i] = 1 - Math.min(r, g, b) / Math.max(1, paper[x]);
    }
  }
  const smooth = boxMean(depth, 1);
  // Most of a page is bare: half of the way from its tenth to its middle value tells its noise.
  const [low, middle] = percentiles(plainOf(smooth, inPicture), [0.1, 0.5]).map((v) => (v - 128) / 100);
  const least = middle + Math.max(leastDepth, (noiseWidths * (middle - low)) / 1.28);
  const reach = Math.max(2, Math.round(reachShare * Math.max(width, height)));
  return { deepest: dilate(smooth, reach), paper: middle, least, reach };
}

/** What lies outside pictures, where anything does, as levels. */
function plainOf({ data }: Plane, inPicture: Uint8Array): Float32Array {
  const levels = new Float32Array(data.length);
  let n = 0;
  for (let i = 0; i < data.length; i++) if (!inPicture[i]) levels[n++] = 128 + 100 * data[i];
  return n ? levels.subarray(0, n) : data.map((v) => 128 + 100 * v);
}

function boardGains({ deepest, paper, least, reach }: Strokes): Plane {
  const { width, height, data } = deepest;
  const gains = createPlane(width, height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const rim = Math.min(x, y, width - 1 - x, height - 1 - y) < reach;
      gains.data[i] = rim || data[i] < least ? 1 : Math.max(1, Math.min(mostGain, deepEnough / (data[i] - paper)));
    }
  return gaussian(gains, reach / 2);
}

/**
 * In glare paper is brighter than elsewhere on the page, and strokes are paler the brighter it is; under a lamp, where all is brighter alike, they are as deep
 * as elsewhere, pale lines and full print each by themselves.
 */
function glareGains({ deepest, paper, least, reach }: Strokes, light: Light): Plane | null {
  if (!mayGlare(light)) return null;
  const { width, height, data: levels } = light.paper;
  const { data: pictures } = light.pictures;
  const usual = usualPaper(light);
  const scale = deepest.width / width;
  const rim = Math.ceil(reach / scale);
  const steps = new Uint8Array(levels.length);
  const strokes = new Float32Array(levels.length);
  const depths = [0, ...lightSteps].map(() => new Uint32Array(depthBins + 1));
  for (let y = 0, i = 0; y < height; y++) {
    const row = Math.min(deepest.height - 1, (((y + 0.5) * deepest.height) / height) | 0) * deepest.width;
    for (let x = 0; x < width; x++, i++) {
      while (steps[i] < lightSteps.length && levels[i] > usual * lightSteps[steps[i]]) steps[i]++;
      if (Math.min(x, y, width - 1 - x, height - 1 - y) < rim) continue;
      const depth = deepest.data[row + Math.min(deepest.width - 1, ((x + 0.5) * scale) | 0)];
      if (depth < least) continue;
      strokes[i] = depth - paper;
      if (pictures[i] < 0.01) depths[steps[i]][Math.min(depthBins, strokes[i] * depthBins) | 0]++;
    }
  }
  const most = mostGains(depths, leastStrokes * levels.length);
  if (!most.some((gain) => gain > leastGain)) return null;
  const usualDepth = shareOf(depths[0], comparedShares[2]);
  const gains = createPlane(width, height);
  for (let i = 0; i < levels.length; i++) {
    const gain = strokes[i] ? Math.max(1, Math.min(most[steps[i]], usualDepth / strokes[i])) : 1;
    gains.data[i] = 1 + (gain - 1) * (1 - pictures[i]);
  }
  return gaussian(gains, reach / 2 / scale);
}

const depthBins = 512;

/** By how much strokes are paler at each step of the light, at least. */
function mostGains(depths: readonly Uint32Array[], enough: number): number[] {
  const counts = depths.map((bins) => bins.reduce((sum, n) => sum + n, 0));
  if (counts[0] < enough) return depths.map(() => 1);
  const usual = comparedShares.map((share) => shareOf(depths[0], share));
  let gain = 1;
  return depths.map((bins, step) => {
    if (counts[step] >= enough)
      gain = Math.max(1, Math.min(mostGain, ...comparedShares.map((share, k) => usual[k] / shareOf(bins, share))));
    return gain;
  });
}

/** The depth below which a share of the strokes lies. */
function shareOf(bins: Uint32Array, share: number): number {
  let left = share * bins.reduce((sum, n) => sum + n, 0);
  const bin = bins.findIndex((n) => (left -= n) <= 0);
  return (bin + 0.5) / depthBins;
}
