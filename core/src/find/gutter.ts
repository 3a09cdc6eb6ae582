import { lumaPlane } from '../raster/colour';
import type { Point, Quad, Raster } from '../raster/raster';
import { homography, project } from '../rectify/homography';
import { trueRatio } from '../rectify/proportions';
import { warp } from '../rectify/warp';
import { lightSampler } from './sampler';

const width = 320;
const height = 224;
/** Distances from the line to its shoulders, and how much darker than both the line must be. */
const shoulders = [8, 14];
const darker = 0.04;

/**
 * The gutter of an open book: a line about the middle of a wide outline, darker than both its shoulders nearly everywhere.
 *
 * @param small the photo or a smaller copy of it, on which the gutter is looked for; its place is found on the photo.
 * @returns the two pages in the order of the quad's corners, and whether the gutter runs down or across it; null when it is one page.
 */
export function splitSpread(photo: Raster, quad: Quad, small = photo): { quads: [Quad, Quad]; gutter: 'down' | 'across' } | null {
  const ratio = trueRatio(quad, photo);
  if (ratio > 1.08 && ratio < 2.1) {
    const ends = gutter(photo, quad, small);
    if (ends) return { gutter: 'down', quads: [[quad[0], ends[0], ends[1], quad[3]], [ends[0], quad[1], quad[2], ends[1]]] }; // prettier-ignore
  }
  if (ratio < 1 / 1.08 && ratio > 1 / 2.1) {
    // A book photographed sideways: its spine runs across the picture.
    const turned: Quad = [quad[3], quad[0], quad[1], quad[2]];
    const ends = gutter(photo, turned, small);
    if (ends) return { gutter: 'across', quads: [[quad[0], quad[1], ends[1], ends[0]], [ends[0], ends[1], quad[2], quad[3]]] }; // prettier-ignore
  }
  return null;
}

/** Ends of the gutter on the quad's first and third side, in photo pixels. */
function gutter(photo: Raster, quad: Quad, small: Raster): [Point, Point] | null {
  const corners: Point[] = [[0, 0], [width - 1, 0], [width - 1, height - 1], [0, height - 1]]; // prettier-ignore
  const toPhoto = homography(corners, quad);
  const scale = small.width / photo.width;
  const inSmall = quad.map(([x, y]): Point => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5]);
  const luma = lumaPlane(warp(small, homography(corners, inSmall), width, height)).data;
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
  const [from, to] = [Math.round(0.4 * width), Math.floor(0.6 * width)];
  const dips = new Float32Array(bands * width);
  for (let b = 0; b < bands; b++)
    for (let x = from; x <= to; x++) {
      const p = b * width + x;
      // A gutter is a valley some millimetres wide; a ruled line is not.
      const here = Math.max(profile[p - 2], profile[p], profile[p + 2]);
      const left = Math.max(profile[p - shoulders[0]], profile[p - shoulders[1]]);
      const right = Math.max(profile[p + shoulders[0]], profile[p + shoulders[1]]);
      dips[p] = 1 - here / Math.max(1, Math.min(left, right));
    }
  let best = 0;
  let ends: [number, number] | null = null;
  for (let top = from; top <= to; top++) {
    for (let bottom = Math.max(top - 20, from); bottom <= Math.min(top + 20, to); bottom++) {
      let share = 0;
      let depth = 0;
      for (let b = 0; b < bands; b++) {
        const dip = dips[b * width + Math.round(top + ((bottom - top) * (b + 0.5)) / bands)];
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
  return ends && deepest(photo, project(toPhoto, [ends[0], 0]), project(toPhoto, [ends[1], height - 1]));
}

/** How far the bottom of the valley may lie beside the line that was found, share of the photo's longer side, and how many samples are taken across and along. */
const beside = 0.014;
const across = 57;
const along = 90;

/** The line along the bottom of the valley near a line, on the photo itself: each row's light against its brightest, the darkest mean along a straight line. */
function deepest(photo: Raster, a: Point, b: Point): [Point, Point] {
  const edge = Math.max(photo.width, photo.height);
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [dx, dy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  const half = (across - 1) / 2;
  const step = (beside * edge) / half;
  const sample = lightSampler(photo, step / 2);
  const depth = new Float32Array(along * across);
  for (let j = 0; j < along; j++) {
    const t = ((j + 0.5) / along) * length;
    const row = depth.subarray(j * across, (j + 1) * across);
    const [x, y] = [a[0] + dx * t + dy * half * step, a[1] + dy * t - dx * half * step];
    sample({ x, y, stepX: -dy * step, stepY: dx * step, count: across, alongX: dx * step, alongY: dy * step }, row);
    let most = 1e-6;
    for (const v of row) if (v > most) most = v;
    // Print across the gutter is darker still: one row must not decide.
    for (let i = 0; i < across; i++) row[i] = Math.max(0.25, row[i] / most);
  }
  const mean = (top: number, bottom: number) => {
    let sum = 0;
    let n = 0;
    for (let j = 0; j < along; j++) {
      const at = top + ((bottom - top) * (j + 0.5)) / along;
      const i = Math.min(across - 2, Math.floor(at));
      const v = depth[j * across + i] * (1 - at + i) + depth[j * across + i + 1] * (at - i);
      if (v !== v) continue;
      sum += v;
      n++;
    }
    return n ? sum / n : 1;
  };
  let best: [number, number] = [half, half];
  let least = mean(half, half);
  for (const fine of [2, 0.5]) {
    const [top, bottom] = best;
    const reach = fine === 2 ? half : 2;
    for (let p = Math.max(0, top - reach); p <= Math.min(across - 1, top + reach); p += fine)
      for (let q = Math.max(0, bottom - reach); q <= Math.min(across - 1, bottom + reach); q += fine) {
        const value = mean(p, q);
        if (value >= least) continue;
        least = value;
        best = [p, q];
      }
  }
  const at = (end: Point, i: number): Point => [end[0] - dy * (i - half) * step, end[1] + dx * (i - half) * step];
  return [at(a, best[0]), at(b, best[1])];
}
