import type { Signature } from '../inspect/kinship';
import { busiestSpot, pageSignature } from '../inspect/signature';
import { sharpness } from '../inspect/sharpness';
import type { Quad, Raster } from '../raster/raster';
import { LiveFinder, type LiveOptions } from './follow';
import { measureFrame, type FrameBefore, type Readiness } from './readiness';
import { SteadyOutline } from './steady';

/** What a running camera shows just now; outlines are in shares of the picture's width and height. */
export interface Sight {
  quad: Quad | null;
  /** The outline as it is drawn: smoothed over time. */
  shown: Quad | null;
  readiness: Readiness;
  signature: Signature | null;
  /** Edge slope of the print, where there is enough of it. */
  slope: number | null;
  /** Where the page has most print, in shares of the picture: the spot to judge sharpness by. */
  detailAt: readonly [number, number] | null;
}

/** Edge slope from which print counts as sharp; chosen by measurement, see docs/capture.md. */
export const sharpSlope = 0.22;
/** A camera that gives no sharper picture for this long is taken at its best, ms. */
const softMs = 2500;

/** What stays the same for longer than any camera takes from one picture to the next does lie still, ms. */
const slowestFrameMs = 250;

/** Looks at the frames of a running camera, one after the other. */
export class LiveEye {
  private readonly finder: LiveFinder;
  private readonly steady = new SteadyOutline();
  private before: (FrameBefore & { atMs: number }) | null = null;
  /** Where to cut the detail for sharpness: where the page as seen last has most print, in shares of the picture; null before one is seen. */
  detailAt: readonly [number, number] | null = null;
  private soft: { sinceMs: number; best: number } | null = null;
  private last: { print: Uint8Array; sight: Sight; atMs: number } | null = null;

  constructor(options: LiveOptions = {}) {
    this.finder = new LiveFinder(options);
  }

  /**
   * @param frame about 480–640 px long.
   * @param detail a part of the picture from within the page at its full size, for sharpness; null when there is none yet.
   * @param stillEdgePx long side of the still picture, px.
   */
  look(frame: Raster, detail: Raster | null, stillEdgePx: number, nowMs: number): Sight {
    // A camera that gives the same picture twice, as in the dark, says nothing new; a motion between two pictures took as long as they are apart.
    const print = fingerprint(frame);
    if (this.last && nowMs - this.last.atMs < slowestFrameMs && isEqual(print, this.last.print)) return this.last.sight;
    const { width, height } = frame;
    const quad = this.finder.next(frame)?.quad ?? null;
    const slope = quad && detail ? (sharpness(detail)?.slope ?? null) : null;
    const { readiness, coarse } = measureFrame(frame, quad, {
      stillEdgePx,
      before: this.before,
      ...(this.before && { sinceMs: nowMs - this.before.atMs }),
      sharp: slope === null ? null : this.enough(slope, nowMs),
    });
    this.before = quad && { quad, coarse, atMs: nowMs };
    const shares = quad && (quad.map(([x, y]) => [(x + 0.5) / width, (y + 0.5) / height]) as unknown as Quad);
    const signature = quad && pageSignature(frame, quad);
    this.detailAt = shares && signature && within(shares, busiestSpot(signature));
    const sight: Sight = { quad: shares, shown: this.steady.next(shares), readiness, signature, slope, detailAt: this.detailAt };
    this.last = { print, sight, atMs: nowMs };
    return sight;
  }

  /** 1 when the print is sharp, or as sharp as this camera has been for a while. */
  private enough(slope: number, nowMs: number): number {
    if (slope >= sharpSlope) {
      this.soft = null;
      return 1;
    }
    if (!this.soft || slope > this.soft.best * 1.05) this.soft = { sinceMs: nowMs, best: slope };
    return nowMs - this.soft.sinceMs > softMs && slope > this.soft.best * 0.9 ? 1 : slope / sharpSlope;
  }
}

/** Some of a frame's samples: the noise of any camera tells two of its pictures apart by them. */
function fingerprint({ data }: Raster): Uint8Array {
  const print = new Uint8Array(1024);
  const step = data.length / print.length;
  for (let i = 0; i < print.length; i++) print[i] = data[Math.floor(i * step)];
  return print;
}

const isEqual = (a: Uint8Array, b: Uint8Array) => a.every((v, i) => v === b[i]);

/** The point of a quad at shares u and v of its width and height, near enough. */
function within([a, b, c, d]: Quad, [u, v]: readonly [number, number]): readonly [number, number] {
  const at = (k: 0 | 1) => (a[k] * (1 - u) + b[k] * u) * (1 - v) + (d[k] * (1 - u) + c[k] * u) * v;
  return [at(0), at(1)];
}
