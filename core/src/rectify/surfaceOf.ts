import type { Point } from '../raster/raster';
import type { View } from './proportions';
import { ruledSurface, type RuledSurface } from './ruled';
import { fitSurface, type Bend, type Surface } from './surface';

/**
 * A bend has to bring the model's distance from the outline down to this share of the flat one's: with sheets that are bent it does so to less than 0.35, with
 * sides that were followed wrongly to 0.5 and more.
 */
const explained = 0.42;

/** From this bow (largest distance from the chord, share of it) on a side counts as curved; a lens bends straight ones by less. */
export const curvedFrom = 0.0025;

/** What told how an outline's sides bend: they were traced on the photo, set by hand, or read off the lines of print. The last two are followed as they are where no sheet bends so. */
export type SidesFrom = 'photo' | 'hand' | 'lines';

/**
 * The surface that a page lies on, from its outline: flat but for the lens, or bent where two opposite sides are curved.
 *
 * @param polygon clockwise from the top-left corner, the same number of points (at least 4) a side.
 */
export function surfaceOf(polygon: readonly Point[], view: View, from: SidesFrom = 'photo'): Surface | RuledSurface {
  const sides = sidesOf(polygon);
  if (from === 'lines') return ruledSurface(sides, view);
  const bows = sides.map(bowOf);
  // Seen at a slant one of the two may look straight.
  const across = Math.max(bows[0], bows[2]) > curvedFrom;
  const along = Math.max(bows[1], bows[3]) > curvedFrom;
  const flat = fitSurface(sides, view, 'flat');
  const bends: Bend[] = [...(across ? (['width'] as const) : []), ...(along ? (['height'] as const) : [])];
  const [bent] = bends.map((bend) => fitSurface(sides, view, bend)).sort((a, b) => a.rmsPx - b.rmsPx);
  if (!bent) return flat;
  if (bent.rmsPx < explained * flat.rmsPx) return bent;
  if (from === 'hand') return ruledSurface(sides, view);
  // What bends more than a lens bends it, and in no way that a sheet does, was followed wrongly: it would be taken for the lens.
  return fitSurface(
    sides.map((side, i) => (bows[i] > curvedFrom ? chord(side) : side)),
    view,
    'flat',
  );
}

/** As many points on the straight way between a side's ends. */
function chord(side: readonly Point[]): Point[] {
  const [a, b] = [side[0], side[side.length - 1]];
  return side.map((_, k): Point => {
    const t = k / (side.length - 1);
    return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
  });
}

/** The four sides of a polygon, each from corner to corner. */
export function sidesOf(polygon: readonly Point[]): Point[][] {
  if (polygon.length < 16 || polygon.length % 4)
    throw new RangeError(`An outline has the same number of points on each of four sides, received ${polygon.length} points`);
  const n = polygon.length / 4;
  return [0, 1, 2, 3].map((i) => [...polygon.slice(i * n, (i + 1) * n), polygon[((i + 1) * n) % polygon.length]]);
}

function bowOf(side: readonly Point[]): number {
  const a = side[0];
  const b = side[side.length - 1];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]) || 1;
  return Math.max(...side.map((p) => Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / length)) / length;
}
