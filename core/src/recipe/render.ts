import type { Adjust } from '../enhance/adjust';
import { chooseFilter } from '../enhance/auto';
import { enhance, type Filter } from '../enhance/enhance';
import { estimateLight } from '../enhance/light';
import { filled, findLitter, trimSlivers } from '../enhance/tidy';
import { touchedUp, type Touch } from '../enhance/touches';
import { createRaster, wholeQuad, type Point, type Quad, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { pageSize, type PageSize } from '../rectify/pageSize';
import { focalPx } from '../rectify/focal';
import { trueRatio, type View } from '../rectify/proportions';
import { effectiveDpi, rectify } from '../rectify/rectify';
import type { Turn } from '../rectify/turn';
import { surfaceOf } from '../rectify/surfaceOf';
import { unroll } from '../rectify/unroll';

/** How to make a page from its photo. */
export interface RenderRecipe {
  /** The page's corners in photo pixels; null: the whole photo. */
  quad: Quad | null;
  /** The true outline, clockwise from the top-left corner with as many points a side, where the page or the lens bends it. */
  polygon?: readonly Point[];
  turn: Turn;
  /** Left and right exchanged: a page photographed through glass or from a mirror. */
  mirror?: boolean;
  /** *auto* picks by what the page holds. */
  filter: Filter | 'auto';
  /** What the user has turned on the filter. */
  adjust?: Adjust;
  /** Whether fingertips and strips of desk on the margin are filled with paper; default true. *Original* and *Picture* never are. */
  tidy?: boolean;
  /** What was painted over it by hand: filled with paper, or kept as photographed. */
  touches?: readonly Touch[];
  /** Width and height as photographed (before the turn); without it the size comes from the true proportions. */
  size?: PageSize;
}

export interface RenderOptions {
  /** Wanted resolution; the photo's own is the limit. Default 300. */
  dpi?: number;
  /** Long side of the result in px at most. */
  maxEdgePx?: number;
  /** Whether this is the photo's only page; default true. */
  alone?: boolean;
  /** The photo's focal length in mm of a 35 mm camera, where its file tells. */
  focal35mm?: number;
}

export interface RenderedPage {
  image: Raster;
  /** Size on paper after the turn. */
  widthMm: number;
  heightMm: number;
  sizeName: PageSize['name'];
  /** Resolution of `image` on paper. */
  dpi: number;
  /** What the photo holds. */
  photoDpi: number;
  /** The filter that was used. */
  filter: Filter;
  /** Places on the margin that were filled with paper. */
  tidied: number;
}

/** A flattened page that filters can be tried on without flattening it again. */
export type FlatPage = Omit<RenderedPage, 'filter' | 'tidied'>;

/** How many pixels of a page are made of one of the photo, along a line: strokes are told from paper, and read, more surely on a finer grid than the photo's own. */
const finest = 2;

/** Resolution of a page that is wanted at `wanted` dpi and of which the photo holds `photoDpi`. */
export const pageDpi = (photoDpi: number, wanted = 300): number => Math.min(wanted, photoDpi * finest);

/** The photo's own share of `render`: outline, proportions, resolution, turn. */
export function flatten(
  photo: Raster,
  recipe: Pick<RenderRecipe, 'quad' | 'polygon' | 'turn' | 'mirror' | 'size'>,
  options: RenderOptions = {},
): FlatPage {
  const { dpi: wantedDpi = 300, maxEdgePx = Infinity, alone = true, focal35mm } = options;
  const quad: Quad = recipe.quad ?? wholeQuad(photo);
  const { width: photoWidth, height: photoHeight } = photo;
  const view: View = {
    width: photoWidth,
    height: photoHeight,
    ...(focal35mm && { focalPx: focalPx(focal35mm, photoWidth, photoHeight) }),
  };
  const surface = recipe.quad && recipe.polygon ? surfaceOf(recipe.polygon, view) : null;
  const ratio = surface ? surface.ratio : recipe.quad ? trueRatio(quad, view) : photoWidth / photoHeight;
  const size = recipe.size ?? pageSize(ratio, alone);
  const photoDpi = effectiveDpi(quad, size.widthMm, size.heightMm);
  const cap = (maxEdgePx / Math.max(size.widthMm, size.heightMm)) * 25.4;
  const dpi = Math.max(1, Math.min(pageDpi(photoDpi, wantedDpi), cap));
  const sideways = recipe.turn % 180 !== 0;
  const widthMm = sideways ? size.heightMm : size.widthMm;
  const heightMm = sideways ? size.widthMm : size.heightMm;
  const width = Math.max(1, Math.round((widthMm / 25.4) * dpi));
  const height = Math.max(1, Math.round((heightMm / 25.4) * dpi));
  const image = surface
    ? unroll(photo, surface, { width, height }, recipe.turn)
    : rectify(photo, quad, { width, height }, recipe.turn);
  return { image: recipe.mirror ? mirrored(image) : image, widthMm, heightMm, sizeName: size.name, dpi, photoDpi };
}

function mirrored({ width, height, channels, data }: Raster): Raster {
  const target = createRaster(width, height, channels);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = (y * width + width - 1 - x) * channels;
      for (let c = 0, to = (y * width + x) * channels; c < channels; c++) target.data[to + c] = data[from + c];
    }
  return target;
}

/**
 * Makes a page from its photo: the one function that the app, the command line, the exports and the tests all call.
 *
 * @throws RangeError when the photo is empty or three corners lie on a line.
 */
export function render(photo: Raster, recipe: RenderRecipe, options: RenderOptions = {}): RenderedPage {
  return finish(flatten(photo, recipe, options), recipe);
}

const judgedEdgePx = 1200;

/** A size on which strokes are painted: half of the copy's. */
const maskSize = ({ width, height }: Raster) => ({ width: Math.ceil(width / 2), height: Math.ceil(height / 2) });

/** What of a recipe is done to a flattened page. */
export type Finish = Pick<RenderRecipe, 'filter' | 'adjust' | 'tidy' | 'touches' | 'mirror'> & { turn?: Turn };

/** Finishes a flattened page with a filter, and with what the user has turned and painted on it. */
export function finish(
  flat: FlatPage,
  { filter: wanted, adjust = {}, tidy = true, touches = [], turn, mirror }: Finish,
): RenderedPage {
  const untouched = wanted === 'original' || wanted === 'picture';
  let page = flat.image;
  // Light, litter and colours are judged on a copy: each looks at it on a smaller one still.
  let copy = shrinkToEdge(page, judgedEdgePx);
  let light = untouched ? undefined : estimateLight(copy);
  const found = light && tidy ? findLitter(copy, light, flat) : null;
  const litter = light && touchedUp(found, touches, maskSize(copy), turn, mirror);
  if (light && litter) {
    page = filled(page, light, litter);
    copy = filled(copy, light, litter);
    light = estimateLight(copy);
  }
  const filter = wanted === 'auto' ? chooseFilter(copy, light).filter : wanted;
  const image = enhance(page, filter, { dpi: flat.dpi, photoDpi: flat.photoDpi, adjust, ...(light && { light }) });
  if (light && !light.dark && tidy && !touches.some((t) => t.kind === 'keep')) trimSlivers(image);
  return { ...flat, image, dpi: (flat.dpi * image.width) / page.width, filter, tidied: litter?.places ?? 0 };
}
