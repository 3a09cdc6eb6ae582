export * from './raster/raster';
export { gaussian } from './raster/blur';
export { shrinkToEdge } from './raster/resize';
export { findPages, looks, sight, type FindOptions, type Sighting } from './find/findPages';
export type { Outline } from './find/outline';
export { sidesNear, traceOutline } from './find/trace';
export { bentAsItsLines, skewToTakeOut, wholeAsRead } from './find/wholePhoto';
export { textSkew, type Skew } from './upright/skew';
export { featureNames } from './find/features';
export { overlap } from './find/overlap';
export { homography, multiply, project, type Homography } from './rectify/homography';
export { trueRatio, type View } from './rectify/proportions';
export { pageDpi } from './rectify/pageDpi';
export { namedSizes, nameOfSize, pageSize, type NamedSize, type PageSize, type SizeId } from './rectify/pageSize';
export { pageMap, type PageMap } from './rectify/pageMap';
export { rotatedQuad } from './rectify/rotated';
export { effectiveDpi, rectify, type RectifySize } from './rectify/rectify';
export type { Turn } from './rectify/turn';
export { type Touch } from './enhance/touches';
export { fitSurface, type Surface } from './rectify/surface';
export { sidesOf, surfaceOf } from './rectify/surfaceOf';
export { dewarp } from './rectify/dewarp';
export { warp } from './rectify/warp';
export { enhance, type EnhanceOptions } from './enhance/enhance';
export { filters, type Filter, type Look } from './enhance/filters';
export type { Adjust } from './enhance/adjust';
export { chooseFilter, type Choice } from './enhance/auto';
export { sauvola, type SauvolaOptions } from './enhance/sauvola';
export { estimateLight, type Light } from './enhance/light';
export { pictureAreas, type Area } from './enhance/pictureAreas';
export {
  analysePage,
  finish,
  finishWindow,
  flatten,
  placePage,
  printDpi,
  render,
  type FlatPage,
  type PageAnalysis,
  type RenderedPage,
  type RenderOptions,
  type RenderRecipe,
} from './recipe/render';
export { layersOf, type Layers } from './recipe/layers';
export { kinship, likeness, type Signature } from './inspect/kinship';
export { pageSignature } from './inspect/signature';
export {
  inspectPage,
  limits as checkLimits,
  type Fault,
  type Finding,
  type Inspection,
  type Severity,
} from './inspect/inspectPage';
export { pageSharpness } from './inspect/pageSharpness';
export { sharpness, type Sharpness } from './inspect/sharpness';
export { CalmReadiness } from './live/calm';
export { LiveEye, sharpSlope, type Sight } from './live/eye';
export { followPage, LiveFinder } from './live/follow';
export { measureFrame, type Readiness } from './live/readiness';
export { SteadyOutline } from './live/steady';
export { Trigger, type Moment } from './live/trigger';
export { finestPrint } from './inspect/finestPrint';
