import { createRaster, type Raster } from '../raster/raster';
import type { Light } from './light';

/** Relative paper brightness at which a pixel becomes plain white, and black. */
const whitePoint = 0.93;
const blackPoint = 0.1;

/**
 * Divides a page by its light: paper becomes even and white, colours stay. Dark pages are only stretched.
 *
 * @param channels 1 for grey (ITU-R BT.601 luma), 3 for colour.
 */
export function evenLight(page: Raster, light: Light, channels: 1 | 3): Raster {
  const { width, height, channels: stride, data } = page;
  const target = createRaster(width, height, channels);
  const out = target.data;
  const [br, bg, bb] = light.balance;
  const stretch = 255 / Math.max(32, light.high - light.low);
  const { paper } = light;
  const fx = paper.width / width;
  const fy = paper.height / height;
  const span = 255 / (whitePoint - blackPoint) / light.tint;
  const offset = blackPoint * span * light.tint;
  for (let y = 0; y < height; y++) {
    const gy = Math.max(0, Math.min(paper.height - 1, (y + 0.5) * fy - 0.5));
    const y0 = Math.min(paper.height - 1, gy | 0);
    const y1 = Math.min(paper.height - 1, y0 + 1);
    const wy = gy - y0;
    let p = y * width * stride;
    let q = y * width * channels;
    for (let x = 0; x < width; x++, p += stride) {
      let r = data[p];
      let g = stride === 1 ? r : data[p + 1];
      let b = stride === 1 ? r : data[p + 2];
      if (light.dark) {
        r = (r - light.low) * stretch;
        g = (g - light.low) * stretch;
        b = (b - light.low) * stretch;
      } else {
        const gx = Math.max(0, Math.min(paper.width - 1, (x + 0.5) * fx - 0.5));
        const x0 = gx | 0;
        const x1 = x0 < paper.width - 1 ? x0 + 1 : x0;
        const wx = gx - x0;
        const a = paper.data[y0 * paper.width + x0] * (1 - wx) + paper.data[y0 * paper.width + x1] * wx;
        const c = paper.data[y1 * paper.width + x0] * (1 - wx) + paper.data[y1 * paper.width + x1] * wx;
        const gain = span / Math.max(24, a + (c - a) * wy);
        r = r * br * gain - offset;
        g = g * bg * gain - offset;
        b = b * bb * gain - offset;
      }
      if (channels === 1) out[q++] = 0.299 * r + 0.587 * g + 0.114 * b;
      else {
        out[q++] = r;
        out[q++] = g;
        out[q++] = b;
      }
    }
  }
  return target;
}
