/**
 * Pages in photographs: found, flattened, looked at, finished, inspected, and followed in a live picture. Plain values in and out, without any interface; runs in
 * Node, browsers and their workers. `npm pack` makes a package of this file (see README.md); within this repository the steps are imported as they are.
 */
import { findPages as find, type FindOptions } from '../find/findPages';
import type { Outline } from '../find/outline';
import { filters, type Filter } from '../enhance/filters';
import { inspectPage as inspect, type Inspection } from '../inspect/inspectPage';
import { assertRaster, type Box, type Quad, type Raster } from '../raster/raster';
import * as steps from '../recipe/render';
import type { FlatPage, PageAnalysis, RenderedPage, RenderOptions, RenderRecipe } from '../recipe/render';
import { anything, between, checkOptions, corners, fields, flag, list, oneOf, point, points, type Rules } from './options';

export type { Box, Point, Quad, Raster } from '../raster/raster';
export type { Outline } from '../find/outline';
export type { FindOptions } from '../find/findPages';
export type { Fault, Finding, Inspection, Severity } from '../inspect/inspectPage';
export type { Filter } from '../enhance/filters';
export type { Adjust } from '../enhance/adjust';
export type { Touch } from '../enhance/touches';
export type { Turn } from '../rectify/turn';
export type { PageSize } from '../rectify/pageSize';
export type { PageMap } from '../rectify/pageMap';
export type { FlatPage, PageAnalysis, RenderedPage, RenderOptions, RenderRecipe } from '../recipe/render';
export { followPage, LiveFinder } from '../live/follow';
export { measureFrame, type Readiness } from '../live/readiness';
export { SteadyOutline } from '../live/steady';
export { Trigger, type Moment } from '../live/trigger';

const filterNames = Object.keys(filters) as Filter[];
const turned = between(-1, 1);
const share = between(0, 1);
const adjust = fields({
  brightness: turned,
  contrast: turned,
  strokes: turned,
  warmth: turned,
  sharpness: share,
  evening: share,
});

const ofFinding: Rules = {
  workingEdgePx: between(24),
  linesPerChannel: between(1),
  leastConfidence: share,
  most: between(1),
  spreads: flag,
  traced: flag,
  upright: flag,
  thorough: flag,
  at: point,
};
const ofShape: Rules = {
  quad: corners,
  whole: flag,
  polygon: points(8),
  sidesFrom: anything,
  turn: oneOf(0, 90, 180, 270),
  mirror: flag,
  size: fields({ widthMm: between(1), heightMm: between(1), name: anything }),
};
const ofFinish: Rules = { filter: oneOf('auto', ...filterNames), adjust, tidy: flag, touches: list };
const ofRendering: Rules = { dpi: between(1), maxEdgePx: between(1), alone: flag, focal35mm: between(1) };

/** A page's shape in a photo; see `RenderRecipe`. */
export type Shape = Parameters<typeof steps.flatten>[1];
/** How a page is finished; see `RenderRecipe`. */
export type Finish = Pick<RenderRecipe, 'filter' | 'adjust' | 'tidy' | 'touches'>;

/**
 * The pages in a photo, in reading order; none where none is sure.
 *
 * @param photo upright, at least 24 px a side.
 * @throws RangeError when the samples do not fit the size; TypeError for an option.
 */
export function findPages(photo: Raster, options: FindOptions = {}): Outline[] {
  assertRaster(photo);
  checkOptions('findPages', options, ofFinding);
  return find(photo, options);
}

/** Cuts a page out of its photo and flattens it, at its own size on paper and at most `dpi`. */
export function flatten(photo: Raster, shape: Shape, options: RenderOptions = {}): FlatPage {
  assertRaster(photo);
  checkOptions('flatten', shape, ofShape, ['quad', 'turn']);
  checkOptions('flatten', options, ofRendering);
  return steps.flatten(photo, shape, options);
}

/** Looks at a flat page once: its paper, light, noise, regions and threshold. What is finished by it, whole or in part, is one page. */
export function analysePage(flat: FlatPage, options: Pick<Finish, 'tidy' | 'touches'> = {}): PageAnalysis {
  checkOptions('analysePage', options, ofFinish);
  return steps.analysePage(flat, options);
}

/** Makes a flat page readable. */
export function finish(flat: FlatPage, how: Finish, analysis?: PageAnalysis): RenderedPage {
  checkOptions('finish', how, ofFinish, ['filter']);
  return steps.finish(flat, how, analysis);
}

/** A part of the finished page, as it is in the whole of it. */
export function finishWindow(flat: FlatPage, how: Finish, analysis: PageAnalysis, box: Box): Raster {
  checkOptions('finishWindow', how, ofFinish, ['filter']);
  return steps.finishWindow(flat, how, analysis, box);
}

/** All steps in one: a finished page from its photo. */
export function render(photo: Raster, recipe: RenderRecipe, options: RenderOptions = {}): RenderedPage {
  assertRaster(photo);
  checkOptions('render', recipe, { ...ofShape, ...ofFinish }, ['quad', 'turn', 'filter']);
  checkOptions('render', options, ofRendering);
  return steps.render(photo, recipe, options);
}

/** What is wrong with a page: blurred, cut off, too dark, glaring and so on, graded by what it costs. */
export function inspectPage(photo: Raster, quad: Quad | null, flat: FlatPage): Inspection {
  assertRaster(photo);
  return inspect(photo, quad, flat);
}
