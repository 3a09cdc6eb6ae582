import type { Plane, Raster } from '../raster/raster';
import type { PageTone } from './evenLight';
import { cutAt } from './localThreshold';

/** Whitens black components of fewer than `leastPx` pixels, in place. */
export function dropSpecks(bilevel: Raster, leastPx: number): void {
  specks(bilevel, leastPx, (from, to) => bilevel.data.fill(255, from, to));
}

/** What is smaller than this and stands alone on noisy paper is noise: a dim photo's full stop of 8 point print is larger, mm², and px. */
const leastMarkMm2 = 0.18;
const leastMarkPx = 4;

/**
 * Makes paper of what stands alone on a noisy page and is smaller than its print, in place: softened noise that the tone curve would show as pale specks. Pictures stay.
 *
 * @param even its evened grey.
 */
export function whitenSpecks(even: Raster, { threshold, clear }: PageTone, pictures: Plane, dpi: number): void {
  const { width, height, data } = even;
  const notWhite = cutAt(even, { ...threshold, data: threshold.data.map((v) => v + clear) });
  const inPicture = (p: number) => {
    const column = Math.floor(((p % width) * pictures.width) / width);
    return pictures.data[Math.floor((Math.floor(p / width) * pictures.height) / height) * pictures.width + column] > 0.5;
  };
  specks(notWhite, Math.max(leastMarkPx, leastMarkMm2 * (dpi / 25.4) ** 2), (from, to) => {
    if (!inPicture(from)) data.fill(255, from, to);
  });
}

/**
 * Calls `found` with every run of pixels, from its first one to before its last one, of the black components (8-connected) that have fewer than `leastPx`: each row's runs are joined to
 * those that they touch in the row above (Rosenfeld and Pfaltz, "Sequential operations in digital picture processing", J. ACM 13 (1966)).
 */
function specks({ width, data }: Raster, leastPx: number, found: (from: number, to: number) => void): void {
  const starts: number[] = [];
  const ends: number[] = [];
  const parents: number[] = [];
  const areas: number[] = [];
  const rootOf = (run: number) => {
    while (parents[run] !== run) run = parents[run] = parents[parents[run]];
    return run;
  };
  let above = 0;
  for (let row = 0; row < data.length; row += width) {
    const first = starts.length;
    let near = above;
    for (let p = row, end = row + width; p < end; p++) {
      if (data[p]) continue;
      const start = p;
      while (p < end && !data[p]) p++;
      const run = starts.length;
      starts.push(start);
      ends.push(p);
      parents.push(run);
      areas.push(p - start);
      while (near < first && ends[near] + width < start) near++;
      for (let k = near; k < first && starts[k] + width <= p; k++) {
        const [a, b] = [rootOf(k), rootOf(run)];
        if (a === b) continue;
        parents[b] = a;
        areas[a] += areas[b];
      }
    }
    above = first;
  }
  for (let run = 0; run < starts.length; run++) if (areas[rootOf(run)] < leastPx) found(starts[run], ends[run]);
}
