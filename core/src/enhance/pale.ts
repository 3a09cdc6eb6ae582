import { boxMean, gaussian } from '../raster/blur';
import { GridRows } from '../raster/gridRows';
import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { percentiles } from './levels';
import { lightEdgePx, withoutInk, type Light } from './light';
import { extreme } from './morphology';

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

/** Where a page's strokes are pale, and its paper in each channel, on small grids. */
export interface Paleness {
  /** How much deeper the strokes are made, from 1. */
  gains: Plane;
  papers: Plane[];
}

export const palenessOf = (page: Raster, light: Light): Paleness => ({
  gains: gains(page, light),
  papers: channelPapers(page),
});

/**
 * A page with its pale strokes made deeper where no deeper ones lie near. Glare adds light to paper and stroke alike: divided by the light they are pale then, though
 * as much below the paper as ever; a dry pen's are pale too.
 */
export function deepened(page: Raster, light: Light, paleness = palenessOf(page, light)): Raster {
  const { width, height, channels, data } = page;
  const target = createRaster(width, height, channels);
  const colours = channels === 1 ? 1 : 3;
  const papers = new GridRows(light.paper, width, height);
  const gainRows = new GridRows(paleness.gains, width, height);
  const ownRows = paleness.papers.map((plane) => new GridRows(plane, width, height));
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

/** How bright the paper is in each channel, on a small grid. */
function channelPapers(page: Raster): Plane[] {
  const { width, height, channels, data } = shrinkToEdge(page, lightEdgePx);
  return Array.from({ length: channels === 1 ? 1 : 3 }, (_, c) => {
    const plane = createPlane(width, height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = data[i * channels + c];
    return gaussian(withoutInk(gaussian(plane, 1.2)), 3);
  });
}

function gains(page: Raster, light: Light): Plane {
  const { width, height, channels, data } = shrinkToEdge(page, workingEdgePx);
  const papers = new GridRows(light.paper, width, height);
  const depth = createPlane(width, height);
  for (let y = 0, i = 0, p = 0; y < height; y++) {
    const paper = papers.row(y);
    for (let x = 0; x < width; x++, i++, p += channels) {
      const r = data[p] * light.balance[0];
      const g = channels === 1 ? r : data[p + 1] * light.balance[1];
      const b = channels === 1 ? r : data[p + 2] * light.balance[2];
      depth.data[i] = 1 - Math.min(r, g, b) / Math.max(1, paper[x]);
    }
  }
  const smooth = boxMean(depth, 1);
  // Most of a board is bare: half of the way from its tenth to its middle value tells its noise.
  const [low, middle] = percentiles(smooth.data.map((v) => 128 + 100 * v), [0.1, 0.5]).map((v) => (v - 128) / 100); // prettier-ignore
  const least = middle + Math.max(leastDepth, (noiseWidths * (middle - low)) / 1.28);
  const reach = Math.max(2, Math.round(reachShare * Math.max(width, height)));
  const deepest = extreme(smooth, reach, 1);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const rim = Math.min(x, y, width - 1 - x, height - 1 - y) < reach;
      const d = deepest.data[i] - middle;
      deepest.data[i] = rim || deepest.data[i] < least ? 1 : Math.max(1, Math.min(mostGain, deepEnough / d));
    }
  return gaussian(deepest, reach / 2);
}
