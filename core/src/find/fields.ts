import { lumaPlane } from '../raster/colour';
import { crop } from '../raster/crop';
import { createRaster, type Point, type Raster } from '../raster/raster';
import { textOrientation } from '../upright/textOrientation';
import { banksOf } from './background';

/** The paper round a field is lighter than the field by this at least, L*, on all sides but one. */
const lighter = 4;
/** So sure has what stands in a tile to be of its way up, that it is print. */
const surelyPrint = 0.9;
/** The photo is read in so many by so many tiles, of which so many have to have print that says the same: the rest of one white card is not enough. */
const tiles = 3;
const leastTiles = 4;
/** Of each field's size: how far its border and what stands close to it are left out as well. */
const rim = 0.04;

/**
 * Whether outlines are fields or pictures on a sheet that fills the photo, and not cards on a white desk: all of them are darker than what lies round them, and between them stands print.
 *
 * @param outlines corners clockwise on screen; @param photo fine enough for small print.
 */
export function areFields(photo: Raster, outlines: readonly (readonly Point[])[]): boolean {
  if (!outlines.length || !outlines.every((corners) => isDarker(corners, photo))) return false;
  const fields = outlines.map((corners) => {
    const [mx, my] = [0, 1].map((k) => corners.reduce((sum, p) => sum + p[k], 0) / corners.length);
    return corners.map(([x, y]): Point => [x + (x - mx) * rim, y + (y - my) * rim]);
  });
  const votes = [0, 0, 0, 0];
  for (const tile of between(photo, fields)) {
    const { turn, confidence } = textOrientation([tile]);
    if (confidence > surelyPrint && ++votes[turn / 90] >= leastTiles) return true;
  }
  return false;
}

function isDarker(corners: readonly Point[], photo: Raster): boolean {
  const banks = corners.flatMap((a, i) => banksOf(photo, a, corners[(i + 1) % corners.length]) ?? []);
  return banks.length > 1 && banks.filter(({ inner, outer }) => outer[0] - inner[0] > lighter).length >= banks.length - 1;
}

/** The photo in tiles, its fields painted over with the paper's grey. */
function* between(photo: Raster, fields: readonly (readonly Point[])[]): Generator<Raster> {
  const width = Math.floor(photo.width / tiles);
  const height = Math.floor(photo.height / tiles);
  for (let tile = 0; tile < tiles * tiles; tile++) {
    const [left, top] = [(tile % tiles) * width, Math.floor(tile / tiles) * height];
    const grey = lumaPlane(crop(photo, { x: left, y: top, width, height })).data;
    const paper = Float32Array.from({ length: Math.ceil(grey.length / 29) }, (_, i) => grey[29 * i]).sort();
    const fill = paper[Math.floor(0.85 * (paper.length - 1))];
    for (const field of fields) fillPolygon(grey, width, height, field, left, top, fill);
    const page = createRaster(width, height, 1);
    page.data.set(grey);
    yield page;
  }
}

/** Fills a convex polygon, of which `left` and `top` lie at the plane's first pixel. */
function fillPolygon(
  grey: Float32Array,
  width: number,
  height: number,
  corners: readonly Point[],
  left: number,
  top: number,
  value: number,
): void {
  for (let y = 0; y < height; y++) {
    let [from, to] = [Infinity, -Infinity];
    corners.forEach((a, i) => {
      const b = corners[(i + 1) % corners.length];
      const t = (y + top - a[1]) / (b[1] - a[1]);
      if (!(t >= 0 && t <= 1)) return;
      const x = a[0] + (b[0] - a[0]) * t - left;
      from = Math.min(from, x);
      to = Math.max(to, x);
    });
    if (from < to)
      grey.fill(value, y * width + Math.max(0, Math.round(from)), y * width + Math.max(0, Math.min(width, Math.round(to) + 1)));
  }
}
