import * as Comlink from 'comlink';
import { findPages, measureFrame, pageSignature, type Quad, type Readiness, type Signature } from '@libretto/core';

/** What the live picture shows just now; coordinates are shares of its width and height. */
export interface LiveSight {
  quad: Quad | null;
  readiness: Readiness;
  signature: Signature | null;
  width: number;
  height: number;
}

let before: { quad: Quad; luma: Float32Array } | null = null;

const api = {
  /** Looks at one frame, about 480 px long. */
  look(frame: ImageBitmap, stillEdgePx: number): LiveSight {
    const { width, height } = frame;
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
    context.drawImage(frame, 0, 0);
    frame.close();
    const raster = { width, height, channels: 4 as const, data: context.getImageData(0, 0, width, height).data };
    const [best] = findPages(raster, { workingEdgePx: 360, linesPerChannel: 24, most: 1 });
    const quad = best?.quad ?? null;
    const { readiness, luma } = measureFrame(raster, quad, { stillEdgePx, before });
    before = quad && { quad, luma };
    return {
      quad: quad && (quad.map(([x, y]) => [(x + 0.5) / width, (y + 0.5) / height]) as unknown as Quad),
      readiness,
      signature: quad && pageSignature(raster, quad),
      width,
      height,
    };
  },
};

export type LiveApi = typeof api;
Comlink.expose(api);
