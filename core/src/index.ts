export * from './raster/raster';
export { shrinkToEdge } from './raster/resize';
export { findPages, sight, type FindOptions, type Sighting } from './find/findPages';
export type { Outline } from './find/outline';
export { featureNames } from './find/features';
export { overlap } from './find/overlap';
export { homography, multiply, project, type Homography } from './rectify/homography';
export { trueRatio, type View } from './rectify/proportions';
export { namedSizes, pageSize, type NamedSize, type PageSize, type SizeId } from './rectify/pageSize';
export { effectiveDpi, rectify, type RectifySize, type Turn } from './rectify/rectify';
export { warp } from './rectify/warp';
export { chooseFilter, enhance, type EnhanceOptions, type Filter } from './enhance/enhance';
export { estimateLight, type Light } from './enhance/light';
export {
  finish,
  flatten,
  render,
  type FlatPage,
  type RenderedPage,
  type RenderOptions,
  type RenderRecipe,
} from './recipe/render';
export { likeness, pageSignature, type Signature } from './inspect/signature';
export { measureFrame, type Readiness } from './inspect/readiness';
export { finestPrint } from './inspect/finestPrint';
