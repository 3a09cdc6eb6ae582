import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import type { Simd } from './simd';

/** What a picture is blurred in: floats, or 16-bit numbers of 1/64 level, which are twice as fast. */
const floating = { bytes: 4, tapRows: 'tapRows' } as const;
const fixed = { bytes: 2, tapRows: 'tapShortRows' } as const;
type Numbers = typeof floating | typeof fixed;

interface Row {
  y: number;
  /** The row's numbers as they went in, and blurred. */
  sharp: number;
  soft: number;
}

/**
 * Blurs a picture row by row by a symmetric kernel (given from its middle outwards), edges repeated.
 *
 * @param scratchBytes room for the two functions.
 * @param feed writes row y as numbers to a pointer.
 * @param take uses a blurred row.
 */
function blurred(
  simd: Simd,
  numbers: Numbers,
  { width, height }: { width: number; height: number },
  kernel: Float32Array,
  scratchBytes: number,
  feed: (y: number, to: number, scratch: number) => void,
  take: (row: Row, scratch: number) => void,
): void {
  const radius = kernel.length - 1;
  const ring = 2 * radius + 1;
  const pad = Math.ceil(radius / 16) * 16;
  const { bytes } = numbers;
  const rowBytes = bytes * Math.ceil((width + 2 * pad + 16) / 16) * 16;
  const [taps, across, sharp, pointers, soft, scratch] = simd.layout(
    4 * kernel.length, rowBytes * ring, rowBytes * ring, 4 * ring, bytes * width, scratchBytes,
  ); // prettier-ignore
  const { ints, run } = simd;
  const view = bytes === 4 ? simd.floats : simd.shorts;
  view.set(bytes === 4 ? kernel : kernel.map((v) => Math.min(32767, Math.round(v * 32768))), taps / bytes);
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
    view.fill(view[first], first - radius, first);
    view.fill(view[first + width - 1], first + width, first + width + radius);
    tapped((k) => to + bytes * k, across + slot(y));
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

/** One channel, blurred. */
export function blurGreyBySimd(simd: Simd, grey: Raster, kernel: Float32Array): Raster {
  const { width, height, data } = grey;
  const target = createRaster(width, height, 1);
  blurred(
    simd,
    fixed,
    grey,
    kernel,
    width,
    (y, to, scratch) => {
      simd.bytes.set(data.subarray(y * width, (y + 1) * width), scratch);
      simd.run.lumaShortRow(scratch, 1, to, width);
    },
    ({ y, soft }, scratch) => {
      simd.run.shortsToBytes(soft, scratch, width);
      target.data.set(simd.bytes.subarray(scratch, scratch + width), y * width);
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
    page,
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
