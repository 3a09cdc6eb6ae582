import { gaussian } from '../raster/blur';
import { createPlane, type Plane } from '../raster/raster';
import { percentiles } from './levels';

/** Above this share of masked cells there is nothing to fill from. */
const mostMasked = 0.92;

/** Fills masked cells from around them by normalised convolution (Knutsson and Westin, "Normalized and differential convolution", CVPR 1993), σ 4 … 128, and smooths. */
export function fill(plane: Plane, mask: Uint8Array): Plane {
  const { width, height } = plane;
  const value = createPlane(width, height);
  const weight = createPlane(width, height);
  let holes = 0;
  for (let i = 0; i < mask.length; i++) {
    weight.data[i] = mask[i] ? 0 : 1;
    value.data[i] = mask[i] ? 0 : plane.data[i];
    holes += mask[i];
  }
  // Nearly nothing is plain paper: then the page is a picture, and its light is taken as even.
  if (holes > mostMasked * mask.length) {
    const [white] = percentiles(plane.data, [0.95]);
    return { width, height, data: new Float32Array(mask.length).fill(white) };
  }
  if (!holes) return gaussian(plane, 3);
  const out: Plane = { width, height, data: value.data.slice() };
  const open = mask.slice();
  for (let sigma = 4; sigma <= 128 && holes > 0; sigma *= 2) {
    const v = gaussian(value, sigma);
    const w = gaussian(weight, sigma);
    for (let i = 0; i < open.length; i++) {
      if (!open[i] || w.data[i] < 0.05) continue;
      out.data[i] = v.data[i] / w.data[i];
      open[i] = 0;
      holes--;
    }
  }
  return gaussian(out, 3);
}
