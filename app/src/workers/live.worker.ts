import * as Comlink from 'comlink';
import {
  likeness,
  LiveEye,
  pageSignature,
  sharpness,
  sharpSlope,
  type Quad,
  type Raster,
  type Sight,
  type Signature,
} from '@libretto/core';

const eye = new LiveEye();
const frameEdgePx = 640;
const detailPx = 448;

/** A picture of the camera's, either as it comes from the video or decoded from a still. */
type Picture = ImageBitmap | VideoFrame;
const sizeOf = (picture: Picture) =>
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

function small(picture: Picture): Raster {
  const { width, height } = sizeOf(picture);
  const scale = Math.min(1, frameEdgePx / Math.max(width, height));
  return pixels(frameCanvas, picture, [0, 0, width, height], Math.round(width * scale), Math.round(height * scale));
}

/** What lies about a spot (shares of the picture), at full size. */
function detail(picture: Picture, [u, v]: readonly [number, number]): Raster {
  const { width, height } = sizeOf(picture);
  const size = Math.min(detailPx, width, height);
  const at = (share: number, whole: number) => Math.max(0, Math.min(whole - size, Math.round(share * whole - size / 2)));
  return pixels(detailCanvas, picture, [at(u, width), at(v, height), size, size], size, size);
}

const api = {
  /** Looks at one frame of the camera, and at a detail of the page at its full size. */
  look(picture: Picture, stillEdgePx: number | null, nowMs: number): Sight {
    try {
      const { width, height } = sizeOf(picture);
      const closer = eye.detailAt && detail(picture, eye.detailAt);
      return eye.look(small(picture), closer, stillEdgePx ?? Math.max(width, height), nowMs);
    } finally {
      picture.close();
    }
  },

  /** Whether a still shows the page that was wanted, and how sharp it is there. Outlines in shares of the picture. */
  async judge(still: Blob, quad: Quad, wanted: Signature | null): Promise<{ same: boolean; sharp: number | null }> {
    const whole = await createImageBitmap(still);
    const raster = small(whole);
    const inFrame = quad.map(([x, y]) => [x * raster.width - 0.5, y * raster.height - 0.5]) as unknown as Quad;
    const same = !wanted || likeness(pageSignature(raster, inFrame), wanted) > 0.6;
    const middle = (k: 0 | 1) => quad.reduce((s, p) => s + p[k], 0) / 4;
    const slope = sharpness(detail(whole, eye.detailAt ?? [middle(0), middle(1)]))?.slope ?? null;
    whole.close();
    return { same, sharp: slope === null ? null : slope / sharpSlope };
  },
};

export type LiveApi = typeof api;
Comlink.expose(api);
