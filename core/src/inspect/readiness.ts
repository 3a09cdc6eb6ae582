import { lumaPlane } from '../raster/colour';
import type { Quad, Raster } from '../raster/raster';
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
  /** Neither the page nor the phone moves. */
  still: number;
  /** What to do first, in words; empty when all four are full. */
  advice: string;
}

export interface FrameFacts {
  /** Long side of the still picture in px, when it is larger than the frame. */
  stillEdgePx: number;
  /** Outline and luma of the frame before, for motion. */
  before: { quad: Quad; luma: Float32Array } | null;
}

/** 200 dpi is the floor for recognition (common practice). */
const targetDpi = 200;
/** A page counts as filling the frame from this share of its width or height on. */
const fullShare = 0.7;
const marginShare = 0.012;
/** Mean change a pixel between frames (luma levels) that still counts as still, and corner motion as a share of the long side. */
const stillLevels = 3;
const stillShare = 0.004;

/**
 * Measures a live frame. Exposure is judged on the page's paper (90th percentile of luma) and on clipped area (ISO 2720 calls mid grey the
 * aim; paper should lie above it and below clipping); motion by frame difference on the page and by how far the corners went.
 */
export function measureFrame(
  frame: Raster,
  quad: Quad | null,
  { stillEdgePx, before }: FrameFacts,
): { readiness: Readiness; luma: Float32Array } {
  const { width, height } = frame;
  const luma = lumaPlane(frame).data;
  const edge = Math.max(width, height);
  if (!quad)
    return {
      readiness: { whole: 0, close: 0, light: lightOf(luma, null, width, height).level, still: 0, advice: 'Show the whole page' },
      luma,
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
  if (before && before.luma.length === luma.length) {
    const moved = Math.max(...quad.map((p, i) => Math.hypot(p[0] - before.quad[i][0], p[1] - before.quad[i][1]))) / edge;
    let change = 0;
    let n = 0;
    forEachInside(quad, width, height, 3, (p) => {
      change += Math.abs(luma[p] - before.luma[p]);
      n++;
    });
    still = clamp(Math.min(stillShare / Math.max(1e-6, moved), stillLevels / Math.max(1e-6, change / Math.max(1, n))));
  }
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
          : still < 1
            ? 'Hold still'
            : '';
  return { readiness: { whole, close, light, still, advice }, luma };
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
  const paper = at(0.9);
  const enough = clamp((paper - 20) / 70);
  if (enough < 1) return { level: enough, advice: 'More light' };
  // Glare: a clipped patch while the rest of the paper is clearly darker.
  let clipped = 0;
  for (let v = 252; v < 256; v++) clipped += bins[v];
  const glare = clipped / n > 0.015 && at(0.6) < 215;
  return glare ? { level: 0.6, advice: 'Glare: tilt the phone or the page a little' } : { level: 1, advice: '' };
}

function forEachInside(quad: Quad, width: number, height: number, step: number, visit: (p: number) => void): void {
  const xs = quad.map((p) => p[0]);
  const ys = quad.map((p) => p[1]);
  for (let y = Math.max(0, Math.ceil(Math.min(...ys))); y <= Math.min(height - 1, Math.max(...ys)); y += step) {
    for (let x = Math.max(0, Math.ceil(Math.min(...xs))); x <= Math.min(width - 1, Math.max(...xs)); x += step) {
      let inside = true;
      for (let i = 0; i < 4 && inside; i++) {
        const a = quad[i];
        const b = quad[(i + 1) % 4];
        inside = (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]) >= 0;
      }
      if (inside) visit(y * width + x);
    }
  }
}

const clamp = (v: number) => Math.max(0, Math.min(1, v));
