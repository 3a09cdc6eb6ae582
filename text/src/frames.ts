import { connectedComponents } from '@libretto/core/raster/marks';
import type { Layout } from './layout';
import type { Rect } from './words';

/** A box that somebody draws round a line, mm. */
const frameMm = { width: [18, 170], height: [5, 28] } as const;
/** A side's strokes lie within this share of the box from its edge: nobody draws straight. */
const band = { across: 0.3, down: 0.12 };
/** So much of each side is drawn. */
const drawn = 0.8;
/** Within, strokes of the box cover no more than this. */
const hollow = 0.08;
/** A form has boxes everywhere: then none of them says what is the title. */
const mostFrames = 2;

/**
 * Boxes drawn round a line of writing, by hand or rule: outlines of connected ink, closed on all sides and empty but for what stands in them apart. None where there are many: fields of a form.
 *
 * @returns in px of the page.
 */
export function framesIn({ ink, rules, width, height, scale }: Layout, widthMm: number): Rect[] {
  const perMm = width / widthMm;
  const within = (px: number, [least, most]: readonly [number, number]) => px >= least * perMm && px <= most * perMm;
  // Strokes that nearly meet at a corner, or were drawn thinly, hang together.
  const mask = new Uint8Array(ink.length);
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const p = y * width + x;
      if (ink[p] || rules[p]) mask[p] = mask[p + 1] = mask[p + width] = mask[p + width + 1] = 1;
    }
  const found: Rect[] = [];
  for (const pixels of connectedComponents(mask, width, height)) {
    if (pixels.length < 40 * perMm) continue;
    let [left, right, top, bottom] = [width, 0, height, 0];
    for (const p of pixels) {
      const [x, y] = [p % width, Math.floor(p / width)];
      [left, right, top, bottom] = [Math.min(left, x), Math.max(right, x), Math.min(top, y), Math.max(bottom, y)];
    }
    const [w, h] = [right - left + 1, bottom - top + 1];
    if (!within(w, frameMm.width) || !within(h, frameMm.height)) continue;
    const [above, below] = [new Uint8Array(w), new Uint8Array(w)];
    const [before, behind] = [new Uint8Array(h), new Uint8Array(h)];
    let inside = 0;
    for (const p of pixels) {
      const [x, y] = [(p % width) - left, Math.floor(p / width) - top];
      const [nearTop, nearBottom] = [y < band.across * h, y >= (1 - band.across) * h];
      const [nearLeft, nearRight] = [x < band.down * w, x >= (1 - band.down) * w];
      if (nearTop) above[x] = 1;
      if (nearBottom) below[x] = 1;
      if (nearLeft) before[y] = 1;
      if (nearRight) behind[y] = 1;
      if (!nearTop && !nearBottom && !nearLeft && !nearRight) inside++;
    }
    const share = (side: Uint8Array) => side.reduce((sum, v) => sum + v, 0) / side.length;
    if (Math.min(share(above), share(below), share(before), share(behind)) < drawn) continue;
    if (inside > hollow * w * h * (1 - 2 * band.across) * (1 - 2 * band.down)) continue;
    found.push({ x: left / scale, y: top / scale, width: w / scale, height: h / scale });
  }
  return found.length > mostFrames ? [] : found;
}
