import type { Quad } from '../raster/raster';

export interface View {
  /** Width and height of the upright photo, px; the optical axis is taken to be its centre. */
  width: number;
  height: number;
  /** Focal length in px, from EXIF, if known. */
  focalPx?: number;
}

/** Usual focal lengths of phones lie about 0.78 of the longer side (26 mm equivalent is 0.72). */
export const usualFocal = 0.78;

/**
 * True width / height of a flat rectangle from one view of its corners.
 *
 * Method: Zhang and He, "Whiteboard scanning and image enhancement", Digital Signal Processing 17 (2007), section 3: the focal length comes
 * from the two vanishing points being at right angles; without a usable one (a frontal view, or one that is
 * tilted about a side only) `focalPx` or a phone's usual one is used.
 */
export function trueRatio(quad: Quad, view: View): number {
  const u0 = (view.width - 1) / 2;
  const v0 = (view.height - 1) / 2;
  // Their numbering: m1 top-left, m2 top-right, m3 bottom-left, m4 bottom-right, centred on the principal point.
  const [m1, m2, m4, m3] = quad.map(([x, y]) => [x - u0, y - v0, 1]);
  const k2 = dot(vectors(m1, m4), m3) / dot(vectors(m2, m4), m3);
  const k3 = dot(vectors(m1, m4), m2) / dot(vectors(m3, m4), m2);
  const n2 = [k2 * m2[0] - m1[0], k2 * m2[1] - m1[1], k2 - 1];
  const n3 = [k3 * m3[0] - m1[0], k3 * m3[1] - m1[1], k3 - 1];
  const longer = Math.max(view.width, view.height);
  let f2 = view.focalPx ? view.focalPx ** 2 : (usualFocal * longer) ** 2;
  if (!view.focalPx && Math.abs(n2[2]) > 0.02 && Math.abs(n3[2]) > 0.02) {
    const own = -(n2[0] * n3[0] + n2[1] * n3[1]) / (n2[2] * n3[2]);
    // Phones' focal lengths lie well within these bounds; outside them the corners' error speaks, not the lens.
    if (own > (0.5 * longer) ** 2 && own < (3 * longer) ** 2) f2 = own;
  }
  const w2 = (n2[0] ** 2 + n2[1] ** 2) / f2 + n2[2] ** 2;
  const h2 = (n3[0] ** 2 + n3[1] ** 2) / f2 + n3[2] ** 2;
  const ratio = Math.sqrt(w2 / h2);
  if (Number.isFinite(ratio) && ratio > 0) return ratio;
  const side = (a: number, b: number) => Math.hypot(quad[a][0] - quad[b][0], quad[a][1] - quad[b][1]);
  return (side(0, 1) + side(2, 3)) / Math.max(1e-6, side(1, 2) + side(3, 0));
}

function vectors(a: readonly number[], b: readonly number[]): number[] {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

function dot(a: readonly number[], b: readonly number[]): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}
