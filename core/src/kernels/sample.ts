import { createRaster, type Raster } from '../raster/raster';
import type { Sampling } from '../rectify/sampling';
import type { Simd } from './simd';

/** Whether the kernels can read a photo: in colour, and with a neighbour to every pixel. */
export const canSample = ({ channels, width, height }: Raster) => channels !== 1 && width > 1 && height > 1;

/** Rows of a photo, from the first to before the last. */
type Rows = readonly [top: number, end: number];
/** As much of the photo is held in linear memory at a time, where the target's bands take their samples one below the other. */
const heldBytes = 8 * 1024 * 1024;

/** Bands of the target that take their samples from as many rows of the photo as are held at once; all of them in one where rows would be fetched again and again. */
function groupsOf(height: number, bandRows: number, rowBytes: number, needs: (y: number, rows: number) => Rows) {
  const groups: { y: number; end: number; top: number; bottom: number }[] = [];
  const all = { y: 0, end: height, top: Infinity, bottom: 0 };
  for (let y = 0; y < height; y += bandRows) {
    const rows = Math.min(bandRows, height - y);
    const [top, bottom] = needs(y, rows);
    [all.top, all.bottom] = [Math.min(all.top, top), Math.max(all.bottom, bottom)];
    const last = groups.at(-1);
    const both = last && { y: last.y, end: y + rows, top: Math.min(last.top, top), bottom: Math.max(last.bottom, bottom) };
    if (both && (both.bottom - both.top) * rowBytes <= heldBytes) groups[groups.length - 1] = both;
    else groups.push({ y, end: y + rows, top, bottom });
  }
  const fetched = groups.reduce((sum, { top, bottom }) => sum + bottom - top, 0);
  return fetched <= 2 * (all.bottom - all.top) ? groups : [all];
}

/** Part of the photo in linear memory with a band of the target behind it; each band is made and fetched. */
function inBands(
  simd: Simd,
  photo: Raster,
  width: number,
  height: number,
  bandRows: number,
  scratchBytes: number,
  needs: (y: number, rows: number) => Rows,
  make: (at: { from: number; to: number; scratch: number; y: number; rows: number; top: number; partRows: number }) => void,
): Raster {
  const target = createRaster(width, height, 3);
  const rowBytes = photo.width * photo.channels;
  const groups = groupsOf(height, bandRows, rowBytes, needs);
  const most = Math.max(...groups.map(({ top, bottom }) => bottom - top));
  const [from, to, scratch] = simd.layout(most * rowBytes, 3 * width * bandRows, scratchBytes);
  for (const { y: first, end, top, bottom } of groups) {
    simd.bytes.set(photo.data.subarray(top * rowBytes, bottom * rowBytes), from);
    for (let y = first; y < end; y += bandRows) {
      const rows = Math.min(bandRows, end - y);
      make({ from, to, scratch, y, rows, top, partRows: bottom - top });
      target.data.set(simd.bytes.subarray(to, to + 3 * width * rows), 3 * width * y);
    }
  }
  return target;
}

/** Rows of a band: as high as the kernel's tiles. */
const tile = 32;

/** A photo sampled through a homography. */
export function warpBySimd(
  simd: Simd,
  photo: Raster,
  toPhoto: readonly number[],
  width: number,
  height: number,
  sampling: Sampling,
): Raster {
  const [a, b, c, d, e, f, g, h, i] = toPhoto;
  return inBands(
    simd,
    photo,
    width,
    height,
    tile,
    0,
    (y, rows) => rowsNeeded(toPhoto, width, y, rows, photo.height),
    ({ from, to, y, rows, top, partRows }) =>
      simd.run.warpRows(
        from, photo.width, partRows, photo.channels, Number(sampling === 'cubic'), to, width, y, y + rows, a, b, c, d - top * g, e - top * h, f - top * i, g, h, i,
      ), // prettier-ignore
  );
}

/** The photo's rows between which a homography takes the samples of a band of the target, with two to spare. */
function rowsNeeded(toPhoto: readonly number[], width: number, y: number, rows: number, most: number): Rows {
  const [, , , d, e, f, g, h, i] = toPhoto;
  const corners = [[0, y], [width - 1, y], [0, y + rows - 1], [width - 1, y + rows - 1]]; // prettier-ignore
  const depths = corners.map(([x, y]) => g * x + h * y + i);
  // A horizon within the page: any row may be needed.
  if (!depths.every((w) => w > 0) && !depths.every((w) => w < 0)) return [0, most];
  const heights = corners.map(([x, y], k) => (d * x + e * y + f) / depths[k]);
  return withSpare(Math.min(...heights), Math.max(...heights), most);
}

function withSpare(least: number, largest: number, most: number): Rows {
  const top = Math.max(0, Math.min(most - 2, Math.floor(least) - 2));
  return [top, Math.min(most, Math.max(top + 2, Math.ceil(largest) + 3))];
}

/** A photo sampled at positions between the points of a grid, whose cells are `cellPx` wide and high. */
export function unrollBySimd(
  simd: Simd,
  photo: Raster,
  grid: { xs: Float32Array; ys: Float32Array; across: number; cellPx: number },
  width: number,
  height: number,
  sampling: Sampling,
): Raster {
  const { xs, ys, across, cellPx } = grid;
  const pointBytes = 8 * across;
  const band = (values: Float32Array, y: number) => values.subarray((y / cellPx) * across, (y / cellPx) * across + 2 * across);
  const needs = (y: number) => {
    const places = band(ys, y);
    return withSpare(places.reduce((a, b) => Math.min(a, b)), places.reduce((a, b) => Math.max(a, b)), photo.height); // prettier-ignore
  };
  return inBands(simd, photo, width, height, cellPx, 2 * pointBytes, needs, ({ from, to, scratch, y, rows, top, partRows }) => {
    simd.floats.set(band(xs, y), scratch / 4);
    simd.floats.set(
      band(ys, y).map((place) => place - top),
      (scratch + pointBytes) / 4,
    );
    simd.run.unrollRows(
      from, photo.width, partRows, photo.channels, Number(sampling === 'cubic'), to, width, cellPx, rows, scratch, scratch + pointBytes, across,
    ); // prettier-ignore
  });
}
