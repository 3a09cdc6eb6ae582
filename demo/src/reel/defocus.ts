import type { Raster } from '@libretto/core';

/** Blurs a picture in place as a lens out of focus does, near enough: two passes of a box each way. */
export function defocus(picture: Raster, radiusPx: number): void {
  const r = Math.round(radiusPx);
  if (r < 1) return;
  const { width, height, channels, data } = picture;
  const row = width * channels;
  for (let pass = 0; pass < 2; pass++) {
    for (let y = 0; y < height; y++) for (let c = 0; c < channels; c++) boxLine(data, y * row + c, channels, width, r);
    for (let q = 0; q < row; q++) boxLine(data, q, row, height, r);
  }
}

function boxLine(data: Raster['data'], start: number, step: number, count: number, r: number): void {
  const line = new Uint8Array(count);
  for (let i = 0, p = start; i < count; i++, p += step) line[i] = data[p]!;
  let sum = 0;
  for (let i = -r; i <= r; i++) sum += line[Math.max(0, Math.min(count - 1, i))]!;
  for (let i = 0, p = start; i < count; i++, p += step) {
    data[p] = sum / (2 * r + 1);
    sum += line[Math.min(count - 1, i + r + 1)]! - line[Math.max(0, i - r)]!;
  }
}
