import { labOf } from '../raster/colour';
import type { Plane, Point, Raster } from '../raster/raster';

const samples = 34;
/** How far round the outline its surroundings are looked at, share of its size. */
const reach = 0.3;
/** Of what lies inside so much is found outside in the same colours, and no one colour covers so much of it, where it is the desk's own pattern. */
const alikeFrom = 0.55;
const paperFrom = 0.6;
const patternFrom = 2.6;
/** Places that are compared for a pattern lie this far apart, share of the picture's longer side. */
const patternStep = 0.015;

/** What lies within an outline compared with what lies round it. */
export interface Surroundings {
  /** 0..1: overlap of the colour histograms inside and round the outline. */
  alike: number;
  /** Share of the inside that its commonest colour covers: a page has paper. */
  commonest: number;
  /** Mean difference in lightness between places a little apart round the outline: a pattern has much, a shadow little. */
  pattern: number;
}

/** Compares the colours (bins of 9 L, 8 a, 8 b) within a quad and in a band round it, in the picture that `lab` is of. */
export function surroundings(corners: readonly Point[], lab: readonly Plane[]): Surroundings {
  const { width, height } = lab[0];
  const apart = Math.max(1, Math.round(patternStep * Math.max(width, height)));
  const cx = corners.reduce((s, p) => s + p[0], 0) / 4;
  const cy = corners.reduce((s, p) => s + p[1], 0) / 4;
  const inside = new Map<number, number>();
  const outside = new Map<number, number>();
  const L = lab[0].data;
  let steps = 0;
  const add = (to: Map<number, number>, x: number, y: number) => {
    const [px, py] = [Math.round(x), Math.round(y)];
    if (px < 0 || py < 0 || px >= width || py >= height) return;
    const p = py * width + px;
    if (to === outside && px + apart < width && py + apart < height)
      steps += Math.abs(L[p] - L[p + apart]) + Math.abs(L[p] - L[p + apart * width]);
    const bin =
      Math.round(lab[0].data[p] / 9) * 4096 + Math.round(lab[1].data[p] / 8 + 32) * 64 + Math.round(lab[2].data[p] / 8 + 32);
    to.set(bin, (to.get(bin) ?? 0) + 1);
  };
  const [a, b, c, d] = corners;
  const span = 1 + 2 * reach;
  for (let j = 0; j < samples; j++)
    for (let i = 0; i < samples; i++) {
      const u = (i + 0.5) / samples;
      const v = (j + 0.5) / samples;
      const x = (a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + c[0] * u) * v;
      const y = (a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + c[1] * u) * v;
      add(inside, x, y);
      // The same grid enlarged; what is still within the outline is left out.
      const [du, dv] = [(u - 0.5) * span, (v - 0.5) * span];
      if (Math.abs(du) > 0.53 || Math.abs(dv) > 0.53) add(outside, cx + (x - cx) * span, cy + (y - cy) * span);
    }
  const total = (m: Map<number, number>) => [...m.values()].reduce((s, n) => s + n, 0);
  const [inAll, outAll] = [total(inside), total(outside)];
  if (!inAll || outAll < samples) return { alike: 0, commonest: 1, pattern: 0 };
  let alike = 0;
  for (const [bin, n] of inside) alike += Math.min(n / inAll, (outside.get(bin) ?? 0) / outAll);
  return { alike, commonest: Math.max(...inside.values()) / inAll, pattern: steps / outAll / 2 };
}

/** Whether an outline holds nothing but the pattern of the desk round it: checked cloth has sides and corners everywhere, but no paper between them. */
export function isDesk(corners: readonly Point[], lab: readonly Plane[]): boolean {
  const { alike, commonest, pattern } = surroundings(corners, lab);
  return alike > alikeFrom && commonest < paperFrom && pattern > patternFrom;
}

/** Distances from a side at which its two banks are looked at, px of a picture of 600, and places along it. */
const banks = [3.5, 5, 7];
const places = 52;
/** Of what lies on a bank the brightest third is its paper, whatever is printed there. */
const paperShare = 0.33;
/** Banks whose paper differs by less than this (Lab) are one paper. Of 376 true outlines, white sheets on white desks among them, none has three sides with less; one has 1.28, the others 2.3 and more. */
const samePaper = 1.1;

/**
 * Whether an outline is printed: a table or a box in a frame. On both banks of its sides lies the same paper, while a page's side parts paper from desk.
 *
 * @param photo fine enough for paper to show between lines of print; @param seen which sides were seen; the picture's own borders say nothing.
 */
export function isPrintedFrame(corners: readonly Point[], photo: Raster, seen: readonly boolean[]): boolean {
  let [same, looked] = [0, 0];
  for (let i = 0; i < 4; i++) {
    if (!seen[i]) continue;
    const paper = banksOf(photo, corners[i], corners[(i + 1) % 4]);
    if (!paper) continue;
    const { inner, outer } = paper;
    looked++;
    if (Math.hypot(inner[0] - outer[0], inner[1] - outer[1], inner[2] - outer[2]) < samePaper) same++;
  }
  return looked > 1 && same >= Math.min(3, looked);
}

type Lab = [L: number, a: number, b: number];

/** Mean colour of the brightest third of what lies inside and outside a side of an outline, whose corners run clockwise on screen; null where too little of it is in the picture. */
export function banksOf(photo: Raster, a: Point, b: Point): { inner: Lab; outer: Lab } | null {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  const [nx, ny] = [-(b[1] - a[1]) / length, (b[0] - a[0]) / length];
  const inner = bankPaper(photo, a, b, nx, ny);
  const outer = bankPaper(photo, a, b, -nx, -ny);
  return inner && outer && { inner, outer };
}

function bankPaper(photo: Raster, a: Point, b: Point, nx: number, ny: number): Lab | null {
  const { width, height } = photo;
  const unit = Math.max(width, height) / 600;
  const at: Lab[] = [];
  for (let k = 0; k < places; k++)
    for (const off of banks) {
      const t = 0.05 + (0.9 * (k + 0.5)) / places;
      const x = Math.round(a[0] + (b[0] - a[0]) * t + nx * off * unit);
      const y = Math.round(a[1] + (b[1] - a[1]) * t + ny * off * unit);
      if (x >= 1 && y >= 1 && x < width - 1 && y < height - 1) at.push(labAbout(photo, x, y));
    }
  if (at.length < places) return null;
  at.sort((p, q) => q[0] - p[0]);
  const bright = at.slice(0, Math.ceil(paperShare * at.length));
  return [0, 1, 2].map((k) => bright.reduce((sum, v) => sum + v[k], 0) / bright.length) as Lab;
}

/** Colour of the mean of 3×3 pixels. */
function labAbout({ width, channels, data }: Raster, x: number, y: number): Lab {
  let [r, g, b] = [0, 0, 0];
  for (let py = y - 1; py <= y + 1; py++)
    for (let px = x - 1; px <= x + 1; px++) {
      const p = (py * width + px) * channels;
      r += data[p];
      g += data[channels === 1 ? p : p + 1];
      b += data[channels === 1 ? p : p + 2];
    }
  return [0, 1, 2].map((k) => labOf(r / 9, g / 9, b / 9, k)) as Lab;
}
