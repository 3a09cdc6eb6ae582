import type { Raster } from '@libretto/core';

const frameEdgePx = 640;
const detailPx = 448;

/** A picture of the camera's, either as it comes from the video or decoded from a still. */
export type Picture = ImageBitmap | VideoFrame;
export const sizeOf = (picture: Picture) =>
  'displayWidth' in picture
    ? { width: picture.displayWidth, height: picture.displayHeight }
    : { width: picture.width, height: picture.height };

const frameCanvas = new OffscreenCanvas(1, 1);
const detailCanvas = new OffscreenCanvas(1, 1);

/** A part of a picture at a size. */
function pixels(
  canvas: OffscreenCanvas,
  picture: Picture,
  from: readonly [x: number, y: number, width: number, height: number],
  width: number,
  height: number,
): Raster {
  if (canvas.width !== width || canvas.height !== height) Object.assign(canvas, { width, height });
  const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
  context.imageSmoothingQuality = 'medium';
  context.drawImage(picture, ...from, 0, 0, width, height);
  return { width, height, channels: 4, data: context.getImageData(0, 0, width, height).data };
}

export function small(picture: Picture): Raster {
  const { width, height } = sizeOf(picture);
  const scale = Math.min(1, frameEdgePx / Math.max(width, height));
  return pixels(frameCanvas, picture, [0, 0, width, height], Math.round(width * scale), Math.round(height * scale));
}

/** What lies about a spot (shares of the picture), at full size. */
export function detail(picture: Picture, [u, v]: readonly [number, number]): Raster {
  const { width, height } = sizeOf(picture);
  const size = Math.min(detailPx, width, height);
  const at = (share: number, whole: number) => Math.max(0, Math.min(whole - size, Math.round(share * whole - size / 2)));
  return pixels(detailCanvas, picture, [at(u, width), at(v, height), size, size], size, size);
}
