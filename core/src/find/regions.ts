import { boxMean } from '../raster/blur';
import { createPlane, type Plane, type Point } from '../raster/raster';
import type { Line } from './lines';
import { overlap } from './overlap';
import { pointOn, traceSide } from './refine';
import { planeSampler } from './sampler';

/** Long side of the picture in which regions are looked for, px. */
const workingEdgePx = 220;
/** Width of the strip along the picture's border from which the desk's colours are learned, share of its long side. */
const strip = 0.05;
/** Sizes of a colour bin, Lab units. */
const bins = [9, 6, 6];
/** A colour is not the desk's when it is so much rarer along the border than in the whole picture. */
const rarer = 0.3;
/** Least area of a region, and of it in its hull, shares. */
const leastArea = 0.008;
const leastFilled = 0.72;
const mostRegions = 8;

/** What of a picture is not its desk. */
export interface Regions {
  /** 1 where a pixel's colour is rare along the picture's border, on a smaller grid. */
  mask: Uint8Array;
  width: number;
  height: number;
  /** Pixels of the picture a cell of the grid. */
  scale: number;
  /** Quadrilaterals round the regions, corners in the picture's px, clockwise, largest first. */
  quads: Point[][];
}

/**
 * Quadrilaterals round the regions whose colours the picture's border has not: a cue that does not need long edges, and so fails elsewhere than lines do. Small cards on
 * planks or on checked cloth have less edge than the desk has.
 *
 * @param lab the small picture's planes.
 */
export function findRegions(lab: readonly Plane[]): Regions {
  const scale = Math.max(1, Math.max(lab[0].width, lab[0].height) / workingEdgePx);
  const width = Math.max(1, Math.round(lab[0].width / scale));
  const height = Math.max(1, Math.round(lab[0].height / scale));
  const small = lab.map((plane) => sampled(boxMean(plane, 1), width, height));
  const mask = notDesk(small);
  const quads: { quad: Point[]; area: number }[] = [];
  for (const component of components(mask, width, height)) {
    if (component.length < leastArea * width * height) continue;
    const hull = convexHull(component, width);
    const area = polygonArea(hull);
    if (hull.length < 4 || component.length < leastFilled * area) continue;
    const quad = toQuad(hull);
    // A shape that is no quadrilateral has corners that its hull has not.
    if (quad && polygonArea(quad) < 1.25 * area) quads.push({ quad, area });
  }
  const largest = quads.sort((a, b) => b.area - a.area).slice(0, mostRegions);
  return {
    mask,
    width,
    height,
    scale,
    quads: largest.map(({ quad }) => quad.map(([x, y]): Point => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5])),
  };
}

function sampled(plane: Plane, width: number, height: number): Plane {
  const target = createPlane(width, height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const px = Math.min(plane.width - 1, Math.floor(((x + 0.5) * plane.width) / width));
      const py = Math.min(plane.height - 1, Math.floor(((y + 0.5) * plane.height) / height));
      target.data[y * width + x] = plane.data[py * plane.width + px];
    }
  return target;
}

/** Every pixel counts for its neighbouring bins too, so that a lamp's fall-off stays the desk's. */
function notDesk(lab: readonly Plane[]): Uint8Array {
  const { width, height } = lab[0];
  const reach = Math.max(2, Math.round(strip * Math.max(width, height)));
  const [ls, as, bs] = [14, 44, 44];
  const binOf = new Int32Array(width * height);
  const all = new Float32Array(ls * as * bs);
  const border = new Float32Array(ls * as * bs);
  const steps = [1, bs, as * bs];
  const clamp = (v: number, most: number) => Math.max(1, Math.min(most - 2, v));
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      const l = clamp(Math.round(lab[0].data[p] / bins[0]) + 1, ls);
      const a = clamp(Math.round(lab[1].data[p] / bins[1]) + 22, as);
      const b = clamp(Math.round(lab[2].data[p] / bins[2]) + 22, bs);
      const bin = (binOf[p] = (l * as + a) * bs + b);
      all[bin]++;
      if (x < reach || y < reach || x >= width - reach || y >= height - reach) {
        border[bin]++;
        for (let k = 0; k < 3; k++) {
          border[bin + steps[k]] += 0.5;
          border[bin - steps[k]] += 0.5;
        }
      }
    }
  const borderShare = (2 * reach * (width + height - 2 * reach)) / (width * height);
  const mask = new Uint8Array(binOf.length);
  for (let p = 0; p < mask.length; p++) mask[p] = border[binOf[p]] < rarer * borderShare * all[binOf[p]] ? 1 : 0;
  return mask;
}

/** The 4-connected components of a mask, after one opening by a cross takes threads between them away. */
function components(mask: Uint8Array, width: number, height: number): number[][] {
  const kept = new Uint8Array(mask.length);
  for (let y = 1; y < height - 1; y++)
    for (let p = y * width + 1, end = (y + 1) * width - 1; p < end; p++)
      kept[p] = mask[p] & mask[p - 1] & mask[p + 1] & mask[p - width] & mask[p + width];
  const found: number[][] = [];
  for (let start = 0; start < kept.length; start++) {
    if (!kept[start]) continue;
    kept[start] = 0;
    const component = [start];
    for (let i = 0; i < component.length; i++) {
      const p = component[i];
      for (const q of [p - 1, p + 1, p - width, p + width])
        if (kept[q]) {
          kept[q] = 0;
          component.push(q);
        }
    }
    found.push(component);
  }
  return found;
}

/** Andrew's monotone chain, clockwise on screen, on the first and last pixel of each row: no other can be a corner of the hull. */
function convexHull(component: readonly number[], width: number): Point[] {
  const rows = new Map<number, [number, number]>();
  for (const p of component) {
    const y = Math.floor(p / width);
    const x = p - y * width;
    const row = rows.get(y);
    if (!row) rows.set(y, [x, x]);
    else if (x < row[0]) row[0] = x;
    else if (x > row[1]) row[1] = x;
  }
  const points = [...rows].flatMap(([y, row]) => [...new Set(row)].map((x): Point => [x, y]));
  points.sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: readonly Point[]) => {
    const chain: Point[] = [];
    for (const p of list) {
      while (chain.length > 1 && turn(chain[chain.length - 2], chain[chain.length - 1], p) <= 0) chain.pop();
      chain.push(p);
    }
    return chain.slice(0, -1);
  };
  return [...half(points), ...half(points.reverse())];
}

const turn = (a: Point, b: Point, c: Point) => (b[0] - a[0]) * (c[1] - b[1]) - (b[1] - a[1]) * (c[0] - b[0]);

function polygonArea(polygon: readonly Point[]): number {
  return Math.abs(
    polygon.reduce((sum, p, i) => {
      const q = polygon[(i + 1) % polygon.length];
      return sum + p[0] * q[1] - p[1] * q[0];
    }, 0) / 2,
  );
}

/** Takes the side away whose neighbours, made longer until they meet, add the least area, until four are left. */
function toQuad(hull: readonly Point[]): Point[] | null {
  const polygon = hull.slice();
  while (polygon.length > 4) {
    let least = Infinity;
    let best: { i: number; at: Point } | null = null;
    for (let i = 0; i < polygon.length; i++) {
      const n = polygon.length;
      const [a, b, c, d] = [polygon[(i + n - 1) % n], polygon[i], polygon[(i + 1) % n], polygon[(i + 2) % n]];
      const [ux, uy, vx, vy] = [b[0] - a[0], b[1] - a[1], c[0] - d[0], c[1] - d[1]];
      const det = ux * vy - uy * vx;
      if (Math.abs(det) < 1e-9) continue;
      const t = ((d[0] - a[0]) * vy - (d[1] - a[1]) * vx) / det;
      const s = ((d[0] - a[0]) * uy - (d[1] - a[1]) * ux) / det;
      // They have to meet beyond the side.
      if (t < 1 || s < 1) continue;
      const at: Point = [a[0] + ux * t, a[1] + uy * t];
      const added = polygonArea([b, at, c]);
      if (added >= least) continue;
      least = added;
      best = { i, at };
    }
    if (!best) return null;
    const next = (best.i + 1) % polygon.length;
    polygon[best.i] = best.at;
    polygon.splice(next, 1);
  }
  return polygon;
}

/** Samples inside an outline, a side of their grid; as many rows again lie round it. */
const grid = 12;

/**
 * What an outline has to do with the regions: the share of its inside and of a band round it that is not the desk, and how well it covers one region (intersection
 * over union with the best one); 0..1 each.
 */
export function againstRegions(corners: readonly Point[], regions: Regions): [inside: number, round: number, fit: number] {
  const { mask, width, height, scale } = regions;
  const [a, b, c, d] = corners;
  let [inside, insideAll, round, roundAll] = [0, 0, 0, 0];
  for (let j = -1; j <= grid; j++)
    for (let i = -1; i <= grid; i++) {
      const within = i >= 0 && j >= 0 && i < grid && j < grid;
      // The band lies a tenth of the outline off it.
      const u = i < 0 ? -0.1 : i === grid ? 1.1 : (i + 0.5) / grid;
      const v = j < 0 ? -0.1 : j === grid ? 1.1 : (j + 0.5) / grid;
      const x = Math.round(((a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + c[0] * u) * v + 0.5) / scale - 0.5);
      const y = Math.round(((a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + c[1] * u) * v + 0.5) / scale - 0.5);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      const other = mask[y * width + x];
      if (within) {
        inside += other;
        insideAll++;
      } else {
        round += other;
        roundAll++;
      }
    }
  const own = polygonArea(corners);
  let fit = 0;
  for (const quad of regions.quads) {
    const area = polygonArea(quad);
    if (Math.min(own, area) < 0.3 * Math.max(own, area)) continue;
    const shared = overlap(corners, quad) * Math.min(own, area);
    fit = Math.max(fit, shared / (own + area - shared));
  }
  return [insideAll ? inside / insideAll : 0, roundAll ? round / roundAll : 0, fit];
}

/** How far beside a region's side its edge is looked for: the region is coarse, and the opening took a rim away. */
const besidePx = 9;

/** The lines along a quad's four sides as the picture shows them, in its channel that differs most between inside and outside; null where one is not seen. */
export function linesAlong(lab: readonly Plane[], quad: readonly Point[]): Line[] | null {
  const lines: Line[] = [];
  for (let i = 0; i < 4; i++) {
    const a = quad[i];
    const b = quad[(i + 1) % 4];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    if (length < 12) return null;
    const [dx, dy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
    const steps = lab.map((plane) => acrossMean(plane, a, b, -dy, dx));
    const channel = steps.reduce((best, step, k) => (Math.abs(step) > Math.abs(steps[best]) ? k : best), 0);
    const side = traceSide(planeSampler(lab[channel]), a, b, {
      reachPx: besidePx,
      samples: Math.max(16, Math.min(60, Math.round(length / 4))),
      degree: 1,
      agreePx: 1.5,
      sign: steps[channel] > 0 ? 1 : -1,
    });
    if (!side || side.agreement < 0.35) return null;
    const [p, q] = [pointOn(side, 0), pointOn(side, 1)];
    const l = Math.hypot(q[0] - p[0], q[1] - p[1]) || 1;
    const [nx, ny] = [-(q[1] - p[1]) / l, (q[0] - p[0]) / l];
    lines.push({ nx, ny, c: nx * p[0] + ny * p[1], votes: 0 });
  }
  return lines;
}

/** How much higher a channel is inside than outside a side, a little way off it. */
function acrossMean(plane: Plane, a: Point, b: Point, nx: number, ny: number): number {
  const sample = planeSampler(plane);
  const at = [new Float32Array(2), new Float32Array(2)];
  let sum = 0;
  let n = 0;
  for (let t = 0.1; t < 0.95; t += 0.1) {
    const [x, y] = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
    // 5 and 8 px off it, on both of its sides.
    [1, -1].forEach((way, i) => {
      const [stepX, stepY] = [3 * way * nx, 3 * way * ny];
      sample({ x: x + (5 / 3) * stepX, y: y + (5 / 3) * stepY, stepX, stepY, count: 2, alongX: 0, alongY: 0 }, at[i]);
    });
    for (let k = 0; k < 2; k++) {
      const step = at[0][k] - at[1][k];
      if (step !== step) continue;
      sum += step;
      n++;
    }
  }
  return n ? sum / n : 0;
}
