import * as Comlink from 'comlink';
import { LiveEye, type Sight } from '@libretto/core';
import { detail, sizeOf, small, type Picture } from './pictures';

const eye = new LiveEye();
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
};

export type LiveApi = typeof api;
Comlink.expose(api);
