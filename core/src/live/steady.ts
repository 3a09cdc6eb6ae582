import type { Quad } from '../raster/raster';

/** Outlines closer than this (share of the picture) are the same one, moving. */
const nearShare = 0.06;
/** A new outline must be seen this often before it replaces the shown one; a lost one is kept as long. */
const patience = 3;

/** Keeps the live outline calm: smooths one that moves, and does not jump between candidates or blink. */
export class SteadyOutline {
  private shown: Quad | null = null;
  private rival: { quad: Quad | null; seen: number } | null = null;

  next(seen: Quad | null): Quad | null {
    if (seen && this.shown && distance(seen, this.shown) < nearShare) {
      // Slow motion is smoothed, quick motion is followed.
      const follow = Math.min(1, 0.35 + distance(seen, this.shown) * 20);
      this.shown = this.shown.map((p, i) => [
        p[0] + (seen[i][0] - p[0]) * follow,
        p[1] + (seen[i][1] - p[1]) * follow,
      ]) as unknown as Quad;
      this.rival = null;
      return this.shown;
    }
    if (!seen && !this.shown) return null;
    const same =
      this.rival && (seen && this.rival.quad ? distance(seen, this.rival.quad) < nearShare : !seen && !this.rival.quad);
    this.rival = { quad: seen, seen: same ? this.rival!.seen + 1 : 1 };
    if (!this.shown || this.rival.seen >= patience) {
      this.shown = seen;
      this.rival = null;
    }
    return this.shown;
  }
}

function distance(a: Quad, b: Quad): number {
  return Math.max(...a.map((p, i) => Math.hypot(p[0] - b[i][0], p[1] - b[i][1])));
}
