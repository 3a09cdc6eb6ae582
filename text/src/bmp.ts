import type { Raster } from '@libretto/core';

/**
 * A grey picture as an 8-bit BMP (Microsoft, BITMAPINFOHEADER): the least work to hand pixels to a recogniser that takes files.
 */
export function greyBmp({ width, height, data }: Raster): Uint8Array {
  const stride = (width + 3) & ~3;
  const head = 14 + 40 + 1024;
  const bytes = new Uint8Array(head + stride * height);
  const view = new DataView(bytes.buffer);
  bytes.set([0x42, 0x4d]);
  view.setUint32(2, bytes.length, true);
  view.setUint32(10, head, true);
  view.setUint32(14, 40, true);
  view.setInt32(18, width, true);
  view.setInt32(22, height, true);
  view.setUint16(26, 1, true);
  view.setUint16(28, 8, true);
  view.setUint32(34, stride * height, true);
  view.setUint32(46, 256, true);
  for (let i = 0; i < 256; i++) bytes.set([i, i, i, 0], 54 + i * 4);
  // Rows from the bottom.
  for (let y = 0; y < height; y++) bytes.set(data.subarray(y * width, (y + 1) * width), head + (height - 1 - y) * stride);
  return bytes;
}
