import { lumaPlane } from '../raster/colour';
import type { Point, Quad, Raster } from '../raster/raster';
import { homography, project } from '../rectify/homography';
import { trueRatio } from '../rectify/proportions';
import { warp } from '../rectify/warp';

const width = 320;
const height = 224;
/** Distances from the line to its shoulders, and how much darker than both the line must be. */
const shoulders = [8, 14];
const darker = 0.04;

/**
 * The gutter of an open book: a line about the middle of a wide outline, darker than both its shoulders nearly everywhere.
 *
 * @param photo any size; a shrunken one will do, with `quad` in its pixels.
 * @returns the two pages in the order of the quad's corners, and whether the gutter runs down or across it; null when it is one page.
 */
export function splitSpread(photo: Raster, quad: Quad): { quads: [Quad, Quad]; gutter: 'down' | 'across' } | null {
  const ratio = trueRatio(quad, photo);
  if (ratio > 1.08 && ratio < 2.1) {
    const ends = gutter(photo, quad);
    if (ends) return { gutter: 'down', quads: [[quad[0], ends[0], ends[1], quad[3]], [ends[0], quad[1], quad[2], ends[1]]] }; // prettier-ignore
  }
  if (ratio < 1 / 1.08 && ratio > 1 / 2.1) {
    // A book photographed sideways: its spine runs across the picture.
    const turned: Quad = [quad[3], quad[0], quad[1], quad[2]];
    const ends = gutter(photo, turned);
    if (ends) return { gutter: 'across', quads: [[quad[0], quad[1], ends[1], ends[0]], [ends[0], ends[1], quad[2], quad[3]]] }; // prettier-ignore
  }
  return null;
}

/** Ends of the gutter on the quad's first and third side, in photo pixels. */
function gutter(photo: Raster, quad: Quad): [Point, Point] | null {
  const corners: Point[] = [[0, 0], [width - 1, 0], [width - 1, height - 1], [0, height - 1]]; // prettier-ignore
  const toPhoto = homography(corners, quad);
  const luma = lumaPlane(warp(photo, toPhoto, width, height)).data;
  // Mean of three columns' rows in bands, so that print beside the gutter counts little.
  const bands = 28;
  const rows = height / bands;
  const profile = new Float32Array(bands * width);
  for (let b = 0; b < bands; b++) {
    for (let x = 0; x < width; x++) {
      let top = 0;
      for (let y = b * rows; y < (b + 1) * rows; y++) top = Math.max(top, luma[y * width + x]);
      profile[b * width + x] = top;
    }
  }
  let best = 0;
  let ends: [number, number] | null = null;
  for (let top = Math.round(0.4 * width); top <= 0.6 * width; top++) {
    for (let bottom = Math.max(top - 20, Math.round(0.4 * width)); bottom <= Math.min(top + 20, 0.6 * width); bottom++) {
      let share = 0;
      let depth = 0;
      for (let b = 0; b < bands; b++) {
        const x = Math.round(top + ((bottom - top) * (b + 0.5)) / bands);
        // A gutter is a valley some millimetres wide; a ruled line is not.
        const here = Math.max(profile[b * width + x - 2], profile[b * width + x], profile[b * width + x + 2]);
        const left = Math.max(profile[b * width + x - shoulders[0]], profile[b * width + x - shoulders[1]]);
        const right = Math.max(profile[b * width + x + shoulders[0]], profile[b * width + x + shoulders[1]]);
        const dip = 1 - here / Math.max(1, Math.min(left, right));
        if (dip > darker) share++;
        depth += Math.min(0.3, Math.max(0, dip));
      }
      const value = share / bands + depth / bands;
      if (share / bands > 0.85 && value > best) {
        best = value;
        ends = [top, bottom];
      }
    }
  }
  return ends && [project(toPhoto, [ends[0], 0]), project(toPhoto, [ends[1], height - 1])];
}
