import type { Point } from '../raster/raster';

/** Overlap of two convex quads (clockwise on screen) as a share of the smaller, by sampling a 12×12 grid of each. */
export function overlap(a: readonly Point[], b: readonly Point[]): number {
  return Math.max(shareInside(a, b), shareInside(b, a));
}

function shareInside(a: readonly Point[], b: readonly Point[]): number {
  let inside = 0;
  const n = 12;
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      const u = (i + 0.5) / n;
      const v = (j + 0.5) / n;
      const x = (a[0][0] * (1 - u) + a[1][0] * u) * (1 - v) + (a[3][0] * (1 - u) + a[2][0] * u) * v;
      const y = (a[0][1] * (1 - u) + a[1][1] * u) * (1 - v) + (a[3][1] * (1 - u) + a[2][1] * u) * v;
      let within = true;
      for (let k = 0; k < 4 && within; k++) {
        const p = b[k];
        const q = b[(k + 1) % 4];
        within = (q[0] - p[0]) * (y - p[1]) - (q[1] - p[1]) * (x - p[0]) >= 0;
      }
      if (within) inside++;
    }
  }
  return inside / (n * n);
}
