import type { Point, Quad } from '../raster/raster';

/** Share of an outline's area that lies outside the photo, 0..1, in the photo's plane. */
export function shareOutside(quad: Quad, { width, height }: { width: number; height: number }): number {
  const whole = area(quad);
  if (whole <= 0) return 0;
  let inside: Point[] = [...quad];
  // Sutherland and Hodgman, "Reentrant polygon clipping", CACM 17(1), 1974, at the photo's four borders.
  for (const [axis, limit, sign] of [[0, -0.5, 1], [0, width - 0.5, -1], [1, -0.5, 1], [1, height - 0.5, -1]] as const) {
    const next: Point[] = [];
    inside.forEach((p, i) => {
      const q = inside[(i + 1) % inside.length];
      const [a, b] = [sign * (p[axis] - limit), sign * (q[axis] - limit)];
      if (a >= 0) next.push(p);
      if (a >= 0 !== b >= 0) {
        const t = a / (a - b);
        next.push([p[0] + (q[0] - p[0]) * t, p[1] + (q[1] - p[1]) * t]);
      }
    });
    inside = next;
  } // prettier-ignore
  return Math.max(0, 1 - area(inside) / whole);
}

function area(points: readonly Point[]): number {
  let sum = 0;
  points.forEach((p, i) => {
    const q = points[(i + 1) % points.length];
    sum += p[0] * q[1] - q[0] * p[1];
  });
  return Math.abs(sum) / 2;
}
