import type { Plane } from '../raster/raster';
import type { Candidate } from './candidates';
import { againstRegions, type Regions } from './regions';
import { positionOn, stretch, type LineSupport } from './support';

/** What the ranker looks at, in the order of `describe`'s numbers. */
export const featureNames = [
  'support', 'weakestSide', 'secondWeakest', 'weakestThird', 'logArea', 'rootArea', 'goesOnWorst', 'goesOnMean', 'endsMean', 'brighterInside',
  'oneSign', 'contrastMean', 'contrastLeast', 'contrastEven', 'skew', 'taper', 'frames', 'outside', 'paperLight', 'paperChroma', 'insideSpread',
  'outsideSpread', 'logRatio', 'seen', 'chromaSides', 'centre', 'supportSquared', 'weakestSquared', 'deskInside', 'deskAcross', 'otherInside', 'otherRound', 'regionFit',
] as const; // prettier-ignore

/** Of a page that is cut off the border shows its own colours: the regions, where there are any, say nothing. */
const unknown = [NaN, NaN, NaN];

/** Numbers that tell a page's outline from other quadrilaterals, each about −2..2; NaN where one cannot be told. */
export function describe(
  candidate: Candidate,
  supports: readonly LineSupport[],
  lab: readonly Plane[],
  regions: Regions | null,
): Float32Array {
  const { width, height } = lab[0];
  const { corners, sides } = candidate;
  const total = sides.reduce((s, side) => s + side.lengthPx, 0);
  const mean = sides.reduce((s, side) => s + side.support * side.lengthPx, 0) / total;
  const sorted = sides.map((s) => s.support).sort((a, b) => a - b);
  const thirds = Math.min(...sides.map((s) => s.weakest));

  // Do the neighbours go on beyond a side? Then the page does too, and the side is a band or a line on it.
  let goesOnWorst = 0;
  let goesOnMean = 0;
  let ends = 0;
  for (let i = 0; i < 4; i++) {
    const previous = beyond(candidate, (i + 3) % 4, corners[i], supports);
    const next = beyond(candidate, (i + 1) % 4, corners[(i + 1) % 4], supports);
    goesOnWorst = Math.max(goesOnWorst, Math.min(previous, next));
    goesOnMean += Math.min(previous, next) / 4;
    ends += (previous + next) / 8;
  }

  // Colour in bands just inside and just outside each side.
  const inside: number[][] = [];
  const outside: number[][] = [];
  const steps: number[] = [];
  let brighter = 0;
  const cx = (corners[0][0] + corners[1][0] + corners[2][0] + corners[3][0]) / 4;
  const cy = (corners[0][1] + corners[1][1] + corners[2][1] + corners[3][1]) / 4;
  let chromaSides = 0;
  let signs = 0;
  for (let i = 0; i < 4; i++) {
    const a = corners[i];
    const b = corners[(i + 1) % 4];
    const length = sides[i].lengthPx;
    let nx = -(b[1] - a[1]) / length;
    let ny = (b[0] - a[0]) / length;
    if (nx * (cx - a[0]) + ny * (cy - a[1]) < 0) {
      nx = -nx;
      ny = -ny;
    }
    if (supports[sides[i].line].line.frame) continue;
    const sums = [0, 0, 0, 0, 0, 0];
    let samples = 0;
    for (let t = 0.06; t < 0.95; t += 0.04) {
      const x = a[0] + (b[0] - a[0]) * t;
      const y = a[1] + (b[1] - a[1]) * t;
      for (const o of [3.5, 6]) {
        const pin = pixel(x + nx * o, y + ny * o, width, height);
        const pout = pixel(x - nx * o, y - ny * o, width, height);
        if (pin < 0 || pout < 0) continue;
        for (let k = 0; k < 3; k++) {
          sums[k] += lab[k].data[pin];
          sums[k + 3] += lab[k].data[pout];
        }
        samples++;
      }
    }
    if (samples < 4) continue;
    const m = sums.map((s) => s / samples);
    inside.push(m.slice(0, 3));
    outside.push(m.slice(3));
    steps.push(Math.hypot(m[0] - m[3], m[1] - m[4], m[2] - m[5]));
    if (m[0] > m[3]) brighter += length / total;
    const line = supports[sides[i].line].line;
    const growsInward = line.nx * nx + line.ny * ny > 0 === (sides[i].group % 2 === 0);
    if (sides[i].group < 2) signs += growsInward ? 1 : -1;
    else chromaSides++;
  }
  const contrast = steps.map((s) => Math.log(1 + s / 4));
  const least = steps.length ? Math.min(...contrast) : 0;
  const contrastMean = average(contrast);
  const spreadOf = (list: number[][]) =>
    Math.log(1 + [0, 1, 2].reduce((s, k) => s + deviation(list.map((m) => m[k])) ** 2, 0) ** 0.5 / 4);
  const paper = [0, 1, 2].map((k) => average(inside.map((m) => m[k])));

  const desk = [0, 1, 2].map((k) => average(outside.map((m) => m[k])));
  const [deskInside, deskAcross] = outside.length ? deskWithin(corners, lab, paper, desk) : [0, 0];

  let skew = 0;
  for (let i = 0; i < 4; i++) {
    const a = corners[(i + 3) % 4];
    const b = corners[i];
    const c = corners[(i + 1) % 4];
    const dot = (a[0] - b[0]) * (c[0] - b[0]) + (a[1] - b[1]) * (c[1] - b[1]);
    skew = Math.max(skew, Math.abs(dot) / (Math.hypot(a[0] - b[0], a[1] - b[1]) * Math.hypot(c[0] - b[0], c[1] - b[1])));
  }
  const l = sides.map((s) => s.lengthPx);
  const taper = Math.abs(Math.log(l[0] / l[2])) + Math.abs(Math.log(l[1] / l[3]));
  const ratio = (l[0] + l[2]) / (l[1] + l[3]);
  const beyondFrame =
    corners.reduce((s, [x, y]) => s + Math.max(0, -x, x - width + 1, -y, y - height + 1), 0) / Math.max(width, height);

  return Float32Array.from([
    mean, sorted[0], sorted[1], thirds, Math.log(candidate.areaShare) / 2, Math.sqrt(candidate.areaShare), goesOnWorst, goesOnMean, ends, brighter,
    Math.abs(signs) / 4, contrastMean / 2, least, least / (contrastMean + 0.1), skew, taper, sides.filter((s) => supports[s.line].line.frame).length / 2,
    beyondFrame * 4, paper[0] / 100, Math.hypot(paper[1], paper[2]) / 40, spreadOf(inside), spreadOf(outside), Math.abs(Math.log(ratio)),
    Math.min(...sides.map((s) => s.seen)), chromaSides / 4, Math.hypot(cx / width - 0.5, cy / height - 0.5), mean * mean, sorted[0] * sorted[0], deskInside, deskAcross,
    ...(!regions || sides.some((s) => supports[s.line].line.frame) ? unknown : againstRegions(corners, regions)),
  ]); // prettier-ignore
}

/**
 * How much of the inside looks like the desk rather than the paper, and the most that any row or column across it does: two cards that were
 * taken for one have a strip of desk between them.
 */
function deskWithin(
  corners: Candidate['corners'],
  lab: readonly Plane[],
  paper: readonly number[],
  desk: readonly number[],
): [share: number, across: number] {
  const { width, height } = lab[0];
  const [a, b, c, d] = corners;
  const n = 14;
  const rows = new Float32Array(n);
  const columns = new Float32Array(n);
  // Paper and desk that look alike tell nothing.
  const apart = Math.hypot(paper[0] - desk[0], paper[1] - desk[1], paper[2] - desk[2]);
  if (apart < 4) return [0, 0];
  let all = 0;
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++) {
      const u = 0.06 + (0.88 * i) / (n - 1);
      const v = 0.06 + (0.88 * j) / (n - 1);
      const x = (a[0] * (1 - u) + b[0] * u) * (1 - v) + (d[0] * (1 - u) + c[0] * u) * v;
      const y = (a[1] * (1 - u) + b[1] * u) * (1 - v) + (d[1] * (1 - u) + c[1] * u) * v;
      const p = pixel(x, y, width, height);
      if (p < 0) continue;
      let toPaper = 0;
      let toDesk = 0;
      for (let k = 0; k < 3; k++) {
        toPaper += (lab[k].data[p] - paper[k]) ** 2;
        toDesk += (lab[k].data[p] - desk[k]) ** 2;
      }
      if (toDesk >= 0.25 * toPaper) continue;
      rows[j] += 1 / n;
      columns[i] += 1 / n;
      all++;
    }
  return [all / (n * n), Math.max(...rows, ...columns)];
}

/** Support of a side's own class on the stretch that follows it beyond `corner` (a fifth of its length, at least 12 px). */
function beyond(
  candidate: Candidate,
  index: number,
  corner: readonly [number, number],
  supports: readonly LineSupport[],
): number {
  const side = candidate.sides[index];
  const s = supports[side.line];
  if (s.line.frame) return 0;
  const here = positionOn(s, corner[0], corner[1]);
  const away =
    Math.abs(here - side.to) < Math.abs(here - side.from) ? Math.sign(side.to - side.from) : Math.sign(side.from - side.to);
  const reach = Math.max(6, Math.abs(side.to - side.from) * 0.2);
  const { mean, seen } = stretch(s, side.group, here + away * 2.5, here + away * (2.5 + reach));
  return mean * Math.min(1, seen * 1.5);
}

function pixel(x: number, y: number, width: number, height: number): number {
  const px = Math.round(x);
  const py = Math.round(y);
  return px < 0 || py < 0 || px >= width || py >= height ? -1 : py * width + px;
}

const average = (list: number[]) => (list.length ? list.reduce((s, v) => s + v, 0) / list.length : 0);

function deviation(list: number[]): number {
  const m = average(list);
  return Math.sqrt(average(list.map((v) => (v - m) ** 2)));
}
