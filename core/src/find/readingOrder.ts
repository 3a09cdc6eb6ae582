import type { Point } from '../raster/raster';
import type { Outline } from './outline';

/** Pages whose middles lie no further apart than this share of the lower one's height stand in one row. */
const rowShare = 0.5;

/**
 * The pages of a photo as one would read them: by rows from the top, in each row across. Which way is down is what most of the pages say (their corners begin at the
 * top left of what is printed on them), so that four cards photographed sideways come in their own order.
 */
export function inReadingOrder(outlines: readonly Outline[]): Outline[] {
  const quarters = [0, 0, 0, 0];
  for (const { quad } of outlines) quarters[quarterOf(quad[0], quad[1])]++;
  const quarter = quarters.indexOf(Math.max(...quarters));
  const placed = outlines.map((outline) => {
    const corners = outline.quad.map((corner) => turnedBack(corner, quarter));
    const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
    const middle = (values: number[]) => values.reduce((sum, v) => sum + v, 0) / values.length;
    return { outline, x: middle(xs), y: middle(ys), height: Math.max(...ys) - Math.min(...ys) };
  });
  placed.sort((a, b) => a.y - b.y);
  const rows: (typeof placed)[] = [];
  for (const page of placed) {
    const row = rows.at(-1);
    if (row && page.y - row[0].y < rowShare * Math.min(page.height, row[0].height)) row.push(page);
    else rows.push([page]);
  }
  return rows.flatMap((row) => row.sort((a, b) => a.x - b.x).map(({ outline }) => outline));
}

/** To which side of the photo a page's top side runs: 0 right, 1 down, 2 left, 3 up. */
function quarterOf(from: Point, to: Point): number {
  return (Math.round(Math.atan2(to[1] - from[1], to[0] - from[0]) / (Math.PI / 2)) + 4) % 4;
}

function turnedBack([x, y]: Point, quarter: number): Point {
  return ([[x, y], [y, -x], [-x, -y], [-y, x]] as const)[quarter]; // prettier-ignore
}
