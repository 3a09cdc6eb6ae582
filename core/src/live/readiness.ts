import { lumaPlane } from '../raster/colour';
import { createPlane, type Plane, type Quad, type Raster } from '../raster/raster';
import { pageSize } from '../rectify/pageSize';
import { trueRatio } from '../rectify/proportions';
import { effectiveDpi } from '../rectify/rectify';

/** How ready a live picture is for the shutter; each 0..1, full at 1. */
export interface Readiness {
  /** The outline lies in the frame with a margin. */
  whole: number;
  /** Page pixels per inch in the still against the target. */
  close: number;
  /** Paper neither dark nor glaring. */
  light: number;
  /** Neither the page nor the phone moves, and the print is sharp. */
  still: number;
  /** What to do first, in words; empty when all four are full. */
  advice: string;
}

/** What motion is measured against. */
export interface FrameBefore {
  quad: Quad;
  /** Luma in blocks of 4×4 px: finer, the noise of the sensor and a trembling of less than a pixel would count as motion. */
  coarse: Plane;
}

export interface FrameFacts {
  /** Long side of the still picture in px, when it is larger than the frame. */
  stillEdgePx: number;
  /** Outline and luma of the frame before, for motion. */
  before: FrameBefore | null;
  /** Time since then, ms; default 90. */
  sinceMs?: number;
  /** Sharpness of the print against what is enough, where it could be measured; full from 1 on. */
  sharp?: number | null;
}

/** 200 dpi is the floor for recognition (common practice). */
const targetDpi = 200;
/** A page counts as filling the frame from this share of its width or height on. */
const fullShare = 0.7;
const marginShare = 0.012;
/** Mean change a block between frames (luma levels) that still counts as still. */
const stillLevels = 3;
/** Corner motion that still counts as still, share of the long side per second: about 2 px of blur in a still of 3000 px at 1/100 s. */
const stillPerSecond = 0.07;
/** What a slow machine’s looks must not average a hand’s to and fro over, ms: chosen so that a shaky hand seen three times a second is still told from a calm one. */
const tremorMs = 250;
const block = 4;

/**
 * Measures a live frame. Exposure is judged on the page's paper (90th percentile of luma) and on clipped area (ISO 2720 calls mid grey the
 * aim; paper should lie above it and below clipping); motion by frame difference on the page and by how far the corners went.
 */
export function measureFrame(
  frame: Raster,
  quad: Quad | null,
  { stillEdgePx, before, sinceMs = 90, sharp = null }: FrameFacts,
): { readiness: Readiness; coarse: Plane } {
  const { width, height } = frame;
  const plane = lumaPlane(frame);
  const luma = plane.data;
  const coarse = blocks(plane);
  const edge = Math.max(width, height);
  if (!quad)
    return {
      readiness: { whole: 0, close: 0, light: lightOf(luma, null, width, height).level, still: 0, advice: 'Show the whole page' },
      coarse,
    };

  const room = quad.map(([x, y]) => ({ left: x, right: width - 1 - x, top: y, bottom: height - 1 - y }));
  const least = (side: 'left' | 'right' | 'top' | 'bottom') => Math.min(...room.map((r) => r[side])) / edge;
  const margins = { left: least('left'), right: least('right'), top: least('top'), bottom: least('bottom') };
  const [tightest, margin] = (Object.entries(margins) as [keyof typeof margins, number][]).sort((a, b) => a[1] - b[1])[0];
  const whole = clamp((margin + 0.02) / (marginShare + 0.02));

  const size = pageSize(trueRatio(quad, frame), true);
  const dpi = effectiveDpi(quad, size.widthMm, size.heightMm) * Math.max(1, stillEdgePx / edge);
  // A camera of few pixels never reaches the target: then a page that fills the frame is as close as it gets.
  const span = (k: 0 | 1) => Math.max(...quad.map((p) => p[k])) - Math.min(...quad.map((p) => p[k]));
  const fill = Math.max(span(0) / width, span(1) / height);
  const close = clamp(Math.max(dpi / targetDpi, fill / fullShare));

  const { level: light, advice: lightAdvice } = lightOf(luma, quad, width, height);

  let still = 0;
  if (before && before.coarse.data.length === coarse.data.length) {
    const moved = Math.max(...quad.map((p, i) => Math.hypot(p[0] - before.quad[i][0], p[1] - before.quad[i][1]))) / edge;
    let change = 0;
    let n = 0;
    const inBlocks = quad.map(([x, y]) => [(x + 0.5) / block - 0.5, (y + 0.5) / block - 0.5]) as unknown as Quad;
    forEachInside(inBlocks, coarse.width, coarse.height, 1, (p) => {
      change += Math.abs(coarse.data[p] - before.coarse.data[p]);
      n++;
    });
    // A tremor goes to and fro: over a longer time it is not slower, it has only come back.
    const perSecond = moved / (Math.min(tremorMs, Math.max(15, sinceMs)) / 1000);
    still = clamp(Math.min(stillPerSecond / Math.max(1e-6, perSecond), stillLevels / Math.max(1e-6, change / Math.max(1, n))));
  }
  const moving = still < 1;
  if (sharp !== null) still = Math.min(still, clamp(sharp));
  const words: Record<typeof tightest, string> = {
    left: 'The left side is cut off',
    right: 'The right side is cut off',
    top: 'The top is cut off',
    bottom: 'The bottom is cut off',
  };
  const advice =
    whole < 1
      ? margin < 0
        ? words[tightest]
        : 'A little room round the page'
      : light < 1
        ? lightAdvice
        : close < 1
          ? 'A little closer'
          : moving
            ? 'Hold still'
            : still < 1
              ? 'Not sharp yet'
              : '';
  return { readiness: { whole, close, light, still, advice }, coarse };
}

function lightOf(luma: Float32Array, quad: Quad | null, width: number, height: number): { level: number; advice: string } {
  const bins = new Uint32Array(256);
  let n = 0;
  const count = (p: number) => {
    bins[Math.max(0, Math.min(255, Math.round(luma[p])))]++;
    n++;
  };
  if (quad) forEachInside(quad, width, height, 2, count);
  else for (let p = 0; p < luma.length; p += 3) count(p);
  if (!n) return { level: 0, advice: 'More light' };
  const at = (share: number) => {
    let seen = 0;
    for (let v = 0; v < 256; v++) if ((seen += bins[v]) >= share * n) return v;
    return 255;
  };
  // A dark card in good light has bright print: what is brightest on it counts too, less the noise that dim light makes.
  const paper = Math.max(at(0.9), at(0.995) - 30);
  const enough = clamp((paper - 20) / 70);
  if (enough < 1) return { level: enough, advice: 'More light' };
  // Glare: a clipped patch while the rest of the paper is clearly darker.
  let clipped = 0;
  for (let v = 252; v < 256; v++) clipped += bins[v];
  const glare = clipped / n > 0.015 && at(0.6) < 215;
  return glare ? { level: 0.6, advice: 'Glare: tilt the phone or the page a little' } : { level: 1, advice: '' };
}

/** Means of blocks of 4×4 px; what is left over at the right and bottom is left out. */
function blocks({ width, height, data }: Plane): Plane {
  const small = createPlane(Math.max(1, Math.floor(width / block)), Math.max(1, Math.floor(height / block)));
  for (let y = 0; y < small.height * block && y < height; y++) {
    const to = Math.floor(y / block) * small.width;
    for (let i = 0, p = y * width; i < small.width && p + block <= (y + 1) * width; i++, p += block)
      small.data[to + i] += (data[p] + data[p + 1] + data[p + 2] + data[p + 3]) / (block * block);
  }
  return small;
}

/** Visits every `step`-th pixel inside a convex quad, by rows. */
function forEachInside(quad: Quad, width: number, height: number, step: number, visit: (p: number) => void): void {
  const ys = quad.map((p) => p[1]);
  for (let y = Math.max(0, Math.ceil(Math.min(...ys))); y <= Math.min(height - 1, Math.max(...ys)); y += step) {
    let from = Infinity;
    let to = -Infinity;
    for (let i = 0; i < 4; i++) {
      const a = quad[i];
      const b = quad[(i + 1) % 4];
      if (a[1] > y === b[1] > y) continue;
      const x = a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0]);
      from = Math.min(from, x);
      to = Math.max(to, x);
    }
    const row = y * width;
    for (let x = Math.max(0, Math.ceil(from)), end = Math.min(width - 1, to); x <= end; x += step) visit(row + x);
  }
}

const clamp = (v: number) => Math.max(0, Math.min(1, v));
