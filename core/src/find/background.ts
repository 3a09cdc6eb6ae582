import type { Plane, Point } from '../raster/raster';

const samples = 34;
/** How far round the outline its surroundings are looked at, share of its size. */
const reach = 0.3;
/** Of what lies inside so much is found outside in the same colours, and no one colour covers so much of it, where it is the desk's own pattern. */
const alikeFrom = 0.55;
const paperFrom = 0.6;
const patternFrom = 2.6;
/** Places that are compared for a pattern lie this far apart, px of the small picture. */
const apart = 9;

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
