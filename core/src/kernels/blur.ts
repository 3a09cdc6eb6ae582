import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import type { Simd } from './simd';

/** What a picture is blurred in: floats, or 16-bit numbers of 1/64 level, which are twice as fast. */
const floating = { bytes: 4, tapRows: 'tapRows' } as const;
const fixed = { bytes: 2, tapRows: 'tapShortRows' } as const;
type Numbers = typeof floating | typeof fixed;

/** A kernel's weights as 16-bit shares of 32768. */
export const shortTaps = (kernel: Float32Array): Int16Array =>
  Int16Array.from(kernel, (v) => Math.min(32767, Math.round(v * 32768)));

interface Row {
  y: number;
  /** The row's numbers as they went in, and blurred. */
  sharp: number;
  soft: number;
}

/**
 * Blurs a picture row by row by a symmetric kernel (given from its middle outwards), edges repeated.
 *
 * @param channels of its pixels, each blurred by itself; default 1.
 * @param scratchBytes room for the two functions.
 * @param feed writes row y as numbers to a pointer.
 * @param take uses a blurred row.
 */
function blurred(
  simd: Simd,
  numbers: Numbers,
  { width: pixels, height, channels = 1 }: { width: number; height: number; channels?: number },
  kernel: Float32Array,
  scratchBytes: number,
  feed: (y: number, to: number, scratch: number) => void,
  take: (row: Row, scratch: number) => void,
): void {
  const radius = kernel.length - 1;
  const ring = 2 * radius + 1;
  const width = pixels * channels;
  const pad = Math.ceil((radius * channels) / 16) * 16;
  const { bytes } = numbers;
  const rowBytes = bytes * Math.ceil((width + 2 * pad + 16) / 16) * 16;
  const [taps, across, sharp, pointers, soft, scratch] = simd.layout(
    4 * kernel.length, rowBytes * ring, rowBytes * ring, 4 * ring, bytes * width, scratchBytes,
  ); // prettier-ignore
  const { ints, run } = simd;
  const view = bytes === 4 ? simd.floats : simd.shorts;
  view.set(bytes === 4 ? kernel : shortTaps(kernel), taps / bytes);
  const slot = (y: number) => rowBytes * (Math.max(0, Math.min(height - 1, y)) % ring);
  const sharpRow = (y: number) => sharp + slot(y) + bytes * pad;
  /** The weighted sum of what lies at −radius … radius. */
  const tapped = (at: (k: number) => number, to: number) => {
    for (let k = -radius; k <= radius; k++) ints[pointers / 4 + radius + k] = at(k);
    run[numbers.tapRows](pointers, taps, radius, to, width);
  };
  const enter = (y: number) => {
    if (y >= height) return;
    const to = sharpRow(y);
    feed(y, to, scratch);
    const first = to / bytes;
    const last = first + width - channels;
    for (let i = 0; i < radius * channels; i++) {
      view[first - 1 - i] = view[first + channels - 1 - (i % channels)];
      view[first + width + i] = view[last + (i % channels)];
    }
    tapped((k) => to + bytes * channels * k, across + slot(y));
  };
  for (let y = 0; y < radius; y++) enter(y);
  for (let y = 0; y < height; y++) {
    enter(y + radius);
    tapped((k) => across + slot(y + k), soft);
    take({ y, sharp: sharpRow(y), soft }, scratch);
  }
}

export function blurPlaneBySimd(simd: Simd, source: Plane, kernel: Float32Array): Plane {
  const { width, height, data } = source;
  const target = createPlane(width, height);
  blurred(
    simd,
    floating,
    source,
    kernel,
    0,
    (y, to) => simd.floats.set(data.subarray(y * width, (y + 1) * width), to / 4),
    ({ y, soft }) => target.data.set(simd.floats.subarray(soft / 4, soft / 4 + width), y * width),
  );
  return target;
}

/** A picture's channels, blurred. */
export function blurBySimd(simd: Simd, picture: Raster, kernel: Float32Array): Raster {
  const { width, height, channels, data } = picture;
  const rowBytes = width * channels;
  const target = createRaster(width, height, channels);
  blurred(
    simd,
    fixed,
    picture,
    kernel,
    rowBytes,
    (y, to, scratch) => {
      simd.bytes.set(data.subarray(y * rowBytes, (y + 1) * rowBytes), scratch);
      simd.run.lumaShortRow(scratch, 1, to, rowBytes);
    },
    ({ y, soft }, scratch) => {
      simd.run.shortsToBytes(soft, scratch, rowBytes);
      target.data.set(simd.bytes.subarray(scratch, scratch + rowBytes), y * rowBytes);
    },
  );
  return target;
}

/** Amounts of sharpening that fit the kernel's fixed point. */
export const mostAmount = 1.99;

/** Unsharp masking of grey or RGB by the luma; amount below 2. */
export function unsharpBySimd(simd: Simd, page: Raster, kernel: Float32Array, amount: number): Raster {
  const { width, height, channels, data } = page;
  const half = Math.round(amount * 16384);
  const rowBytes = width * channels;
  const room = Math.ceil((rowBytes + 64) / 64) * 64;
  const target = createRaster(width, height, channels);
  const bring = (y: number, to: number) => simd.bytes.set(data.subarray(y * rowBytes, (y + 1) * rowBytes), to);
  blurred(
    simd,
    fixed,
    { width, height },
    kernel,
    2 * room,
    (y, to, scratch) => {
      bring(y, scratch);
      simd.run.lumaShortRow(scratch, channels, to, width);
    },
    ({ y, sharp, soft }, scratch) => {
      bring(y, scratch);
      simd.run.sharpenRow(scratch, channels, sharp, soft, half, scratch + room, width);
      target.data.set(simd.bytes.subarray(scratch + room, scratch + room + rowBytes), y * rowBytes);
    },
  );
  return target;
}
