/** An 8-bit picture in memory, rows from the top, channels interleaved: 1 grey, 3 RGB, 4 RGBA (alpha is ignored). */
export interface Raster {
  width: number;
  height: number;
  channels: 1 | 3 | 4;
  /** `width * height * channels` samples, 0..255, sRGB-encoded. */
  data: Uint8Array | Uint8ClampedArray;
}

/** A part of a picture, px; wholly inside it. */
export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** One floating-point channel, rows from the top. */
export interface Plane {
  width: number;
  height: number;
  data: Float32Array;
  /** The part of the picture over which this coarse grid lies that is read through it (see `GridRows`), in px of that picture; without it all of it. */
  part?: Box & { of: { width: number; height: number } };
}

/** A point in pixels; pixel centres lie at whole numbers. */
export type Point = readonly [x: number, y: number];

/** Corners top-left, top-right, bottom-right, bottom-left of the page. */
export type Quad = readonly [Point, Point, Point, Point];

export function createRaster(width: number, height: number, channels: Raster['channels']): Raster {
  return { width, height, channels, data: new Uint8ClampedArray(width * height * channels) };
}

export function createPlane(width: number, height: number): Plane {
  return { width, height, data: new Float32Array(width * height) };
}

/** Throws a RangeError that says what was received when the raster is empty or its data does not fit its size. */
export function assertRaster(raster: Raster): void {
  const { width, height, channels, data } = raster;
  if (!Number.isInteger(width) || !Number.isInteger(height) || width < 1 || height < 1)
    throw new RangeError(`A raster needs at least 1×1 pixels, received ${width}×${height}`);
  if (channels !== 1 && channels !== 3 && channels !== 4)
    throw new RangeError(`A raster has 1, 3 or 4 channels, received ${String(channels)}`);
  if (data.length !== width * height * channels)
    throw new RangeError(
      `A ${width}×${height} raster of ${channels} channels needs ${width * height * channels} samples, received ${data.length}`,
    );
}

/** The border of a picture as an outline: the outer edge of its first and last pixels. */
export const wholeQuad = ({ width, height }: Pick<Raster, 'width' | 'height'>): Quad => [
  [-0.5, -0.5],
  [width - 0.5, -0.5],
  [width - 0.5, height - 0.5],
  [-0.5, height - 0.5],
];
