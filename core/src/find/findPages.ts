import { gaussian } from '../raster/blur';
import { labPlanes } from '../raster/colour';
import { assertRaster, type Plane, type Point, type Raster } from '../raster/raster';
import { resizeArea, shrinkToEdge } from '../raster/resize';
import { isDesk, isPrintedFrame } from './background';
import { proposeOutlines, type Candidate } from './candidates';
import { evidenceOf, judgeEvidence } from './evidence';
import { faintSides } from './faint';
import { describe } from './features';
import { areFields } from './fields';
import { fitSides } from './fit';
import { edgels, gradient } from './gradient';
import { splitSpread } from './gutter';
import { frameLines, houghLines, sameLine, type Line } from './lines';
import type { Outline } from './outline';
import { overlap } from './overlap';
import { acceptance, rank } from './rank';
import { supportAlong, type LineSupport } from './support';
import { traceOutline } from './trace';
import { findRegions, linesAlong } from './regions';
import { rivalEdgePx, rivalsOf, topSheet } from './rivals';
import { inReadingOrder } from './readingOrder';
import { uprightPages } from './uprightPages';

export interface FindOptions {
  /** Long side in px of the picture in which pages are looked for; default 480. */
  workingEdgePx?: number;
  /** Lines kept a channel; default 40. Fewer is quicker, for live pictures. */
  linesPerChannel?: number;
  /** Outlines below this confidence are left out; default 0.65. */
  leastConfidence?: number;
  /** At most this many pages; default 8. */
  most?: number;
  /** Whether an open book is told as its two pages; default true. */
  spreads?: boolean;
  /** Whether sides are traced closely, curved ones too; default true. */
  traced?: boolean;
  /** Whether corners begin at the top left of the page as it is read; default true. Otherwise as it lies in the photo. */
  upright?: boolean;
  /** Whether regions are a cue too and sides are moved out to other lines; default true. A live picture goes without: the next one is not far. */
  thorough?: boolean;
  /** A point of the photo that somebody says lies on a page: then the likeliest outline round it is given, however unsure, and no other. */
  at?: Point;
}

/** A large photo is looked at on a copy shrunk by a whole number, of which the long side is at least this. */
const middlingEdgePx = 1900;

/** Most photos show one page that a look at a smaller picture finds as surely, in a third of the time. */
const quickLook: FindOptions = { workingEdgePx: 300, linesPerChannel: 30, thorough: false };
/** The looks that the ranker is trained for: what is seen depends on the picture's size. */
export const looks: readonly FindOptions[] = [{}, quickLook];
const beyondDoubt = 0.99;
/** And with this probability by all evidence. */
const evident = 0.95;
const doubt = 0.02;
const large = 0.12;
/** Refused with this confidence is hardly refused. */
const passable = 0.35;
/** Probability by all evidence under which an outline is no page: in cross-validation one page in fifty goes with it, mostly cards and bare sheets, and five in six of what is none (docs/finding.md). */
export const leastEvidence = 0.35;
/** Of what goes on beyond the picture less is seen: as little is no reason yet. */
const leastOfPart = 0.15;
/** With this probability an outline is a page though it hardly looks like one. */
const tellingEvidence = 0.5;

/** All candidates of a picture with their features: what the ranker is trained on. */
export interface Sighting {
  scale: number;
  lab: Plane[];
  supports: LineSupport[];
  candidates: Candidate[];
  features: Float32Array[];
}

/**
 * Finds the pages in a photo: lines by a signed Hough transform in lightness and both colour channels, quadrilaterals from pairs of
 * opposite lines, ranked by what is seen along, beside and beyond their sides; then each side is fitted on a finer picture.
 *
 * @param photo upright pixels, any size from 1×1.
 * @returns non-overlapping outlines in photo pixels, in reading order; empty where there is no page.
 * @throws RangeError when the raster's data does not fit its size.
 */
export function findPages(photo: Raster, options: FindOptions = {}): Outline[] {
  const { at, leastConfidence = at ? 0 : 0.65, most = at ? 1 : 8, spreads = !at, traced = true, upright = true } = options;
  assertRaster(photo);
  if (photo.width < 24 || photo.height < 24) return [];
  // A large photo is shrunk once for all that does not need its last pixel.
  const factor = Math.floor(Math.max(photo.width, photo.height) / middlingEdgePx);
  const middling = factor > 1 ? resizeArea(photo, Math.round(photo.width / factor), Math.round(photo.height / factor)) : photo;
  const shrunk = middling.width / photo.width;
  const quick =
    at || options.workingEdgePx ? null : choose(middling, sight(middling, quickLook), { ...options, leastConfidence: doubt });
  const fitted = ({ seen, chosen }: Choice): Outline[] => {
    const shown = chosen.map(({ candidate }) => cornersIn(middling, candidate, seen));
    if (!chosen.length || (!at && areFields(middling, shown))) return [];
    const onPhoto = { ...seen, scale: seen.scale * shrunk };
    const tops = traced ? topSheets(middling, chosen, seen) : chosen.map(({ candidate }) => candidate);
    return chosen.map(({ confidence }, i): Outline => ({ ...fitSides(photo, middling, tops[i], onPhoto, !traced), confidence }));
  };
  const closely = () => {
    const how = { ...options, leastConfidence, most, ...(at && { at: [at[0] * shrunk, at[1] * shrunk] as Point }) };
    const seen = sight(middling, options);
    const choice = choose(middling, seen, how);
    if (choice.chosen.length || at || options.thorough === false) return fitted(choice);
    // Where nothing is found a side may be too faint for any single point of it.
    const more = withFaintSides(seen);
    return more.candidates.length > seen.candidates.length ? fitted(choose(middling, more, how)) : [];
  };
  const quickly = quick && isClear(quick) ? fitted(quick) : null;
  // On a small picture a narrow page's short side may lie askew, further off than the fit reaches.
  const outlines = quickly?.every(({ evidence }) => evidence?.every((side) => side?.level !== 0)) ? quickly : closely();
  if (!outlines.length) return [];
  const pages = spreads ? outlines.flatMap((outline) => halves(photo, middling, outline) ?? [outline]) : outlines;
  const close = traced ? pages.map((page): Outline => ({ ...page, ...traceOutline(photo, page.quad, page.evidence) })) : pages;
  return inReadingOrder(upright ? uprightPages(middling, close, shrunk) : close);
}

export interface Choice {
  seen: Sighting;
  chosen: { candidate: Candidate; confidence: number; evidence?: Float32Array | undefined }[];
  /** How many outlines were no page by what lies in them. */
  refused: number;
}

/** A candidate's corners in the picture that it was seen on a smaller copy of. */
function cornersIn(photo: Raster, { corners }: Candidate, { lab }: Sighting): Point[] {
  const up = photo.width / lab[0].width;
  return corners.map(([x, y]): Point => [(x + 0.5) * up - 0.5, (y + 0.5) * up - 0.5]);
}

/** The best candidates that do not overlap, as far as they are accepted: @param byOutline by their outline alone, for training what judges the rest. */
export function choose(
  photo: Raster,
  seen: Sighting,
  { at, leastConfidence = 0, most = 8 }: FindOptions,
  byOutline = false,
): Choice {
  const scores = seen.features.map(rank);
  const order = scores.map((_, i) => i).sort((i, j) => scores[j] - scores[i]);
  const chosen: Choice['chosen'] = [];
  /** What is no page by all evidence; no part of it is one either. */
  const refused: Candidate[] = [];
  const passed: Choice['chosen'] = [];
  const printed: Candidate[] = [];
  for (const i of order) {
    const candidate = seen.candidates[i];
    if (at && !contains(candidate.corners, [(at[0] + 0.5) * seen.scale - 0.5, (at[1] + 0.5) * seen.scale - 0.5])) continue;
    if ([...chosen.map((c) => c.candidate), ...refused].some((c) => overlap(c.corners, candidate.corners) > 0.1)) continue;
    const confidence = acceptance(seen.features[i], scores[i], scores[order[0]], chosen.length);
    if (confidence < Math.min(leastConfidence, passable)) continue;
    if (!at) {
      if (isDesk(candidate.corners, seen.lab)) continue;
      // What lies within a printed frame is printed too: a table's rows.
      if (printed.some((p) => p.areaShare > candidate.areaShare && overlap(p.corners, candidate.corners) > 0.9)) continue;
      if (isPrintedFrame(cornersIn(photo, candidate, seen), photo, sidesSeen(candidate, seen))) {
        printed.push(candidate);
        continue;
      }
    }
    // Whoever points at a page, or asks for every outline, is not contradicted.
    const asked = !at && leastConfidence > 0 && confidence >= passable;
    const evidence = asked ? evidenceOf(candidate, seen, confidence, !chosen.length && !refused.length) : undefined;
    const whole = sidesSeen(candidate, seen).every(Boolean);
    const likely = evidence && !byOutline ? judgeEvidence(evidence) : undefined;
    if (likely !== undefined && likely < (whole ? leastEvidence : leastOfPart)) {
      refused.push(candidate);
      continue;
    }
    if (confidence < leastConfidence && !(likely! >= tellingEvidence)) {
      passed.push({ candidate, confidence, evidence });
      continue;
    }
    // A better one that was hardly refused is rather it than a part of it that is accepted.
    const better = passed.find((p) => overlap(p.candidate.corners, candidate.corners) > 0.5);
    chosen.push(better ?? { candidate, confidence, evidence });
    if (chosen.length >= most) break;
  }
  return { seen, chosen, refused: refused.length };
}

/** In place of each chosen candidate the one that looks most like the top sheet among those that nearly coincide with it. */
function topSheets(photo: Raster, chosen: Choice['chosen'], seen: Sighting): Candidate[] {
  const scores = seen.features.map(rank);
  const groups = chosen.map(({ candidate }) => rivalsOf(candidate, seen, scores));
  if (groups.every((rivals) => rivals.length < 2)) return groups.map(([first]) => first.candidate);
  const fine = shrinkToEdge(photo, rivalEdgePx);
  const lab = labPlanes(fine).map((plane) => gaussian(plane, 0.8));
  return groups.map((rivals) =>
    rivals.length < 2 ? rivals[0].candidate : topSheet(rivals, lab, fine.width / seen.lab[0].width),
  );
}

/** Which of a candidate's sides are edges that were seen, and not the picture's border. */
const sidesSeen = ({ sides }: Candidate, { supports }: Sighting) => sides.map(({ line }) => !supports[line].line.frame);

/** Whether a quick look leaves no question open: nothing that might be a page, or pages beyond doubt, of some size and wholly in the picture, and nothing else that might be one. */
function isClear({ seen, chosen, refused }: Choice): boolean {
  if (refused) return false;
  const beyond = chosen.every(
    ({ candidate, confidence, evidence }) =>
      confidence > beyondDoubt && sidesSeen(candidate, seen).every(Boolean) && !!evidence && judgeEvidence(evidence) > evident,
  );
  return !chosen.length || (beyond && chosen.reduce((sum, { candidate }) => sum + candidate.areaShare, 0) > large);
}

function contains(corners: readonly Point[], [x, y]: Point): boolean {
  return corners.every((a, i) => {
    const b = corners[(i + 1) % corners.length];
    return (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]) > 0;
  });
}

/** The two pages of an open book; what was seen of its sides is theirs, but for the gutter. */
function halves(photo: Raster, small: Raster, outline: Outline): Outline[] | null {
  const [top, right, bottom, left] = outline.evidence ?? [null, null, null, null];
  const quads = splitSpread(photo, outline.quad, small);
  return (
    quads?.quads.map((quad, i): Outline => {
      const own =
        quads.gutter === 'down'
          ? i
            ? [top, right, bottom, null]
            : [top, null, bottom, left]
          : i
            ? [null, right, bottom, left]
            : [top, right, null, left];
      return { quad, confidence: outline.confidence, spread: i ? 'second' : 'first', evidence: own };
    }) ?? null
  );
}

/** What was seen, and candidates with a fourth side that no single point of the edge tells from noise. */
function withFaintSides(seen: Sighting): Sighting {
  const { lab } = seen;
  const { width, height } = lab[0];
  const faint = faintSides(lab, seen.candidates, seen.supports);
  if (!faint.length) return seen;
  const gradients = lab.map((plane) => gradient(plane, 9, 0.12));
  const supports = [...seen.supports];
  const found: Candidate[] = [];
  for (const { line, beside } of faint) {
    const numbers = [...beside, supports.push(supportAlong(line, gradients)) - 1];
    const own = numbers.map((k) => supports[k]);
    for (const candidate of proposeOutlines(own, width, height, { most: 1, mostCutOff: 1, mostGrown: 0 })) {
      const sides = candidate.sides.map((side) => ({ ...side, line: numbers[side.line] }));
      found.push({ ...candidate, sides: sides as unknown as Candidate['sides'] });
    }
  }
  const regions = findRegions(lab);
  const features = found.map((candidate) => describe(candidate, supports, lab, regions));
  return {
    ...seen,
    supports,
    candidates: [...seen.candidates, ...found],
    features: [...seen.features, ...features],
  };
}

/** Everything up to the ranking, on a small picture. */
export function sight(photo: Raster, options: FindOptions = {}): Sighting {
  const small = shrinkToEdge(photo, options.workingEdgePx ?? 480);
  const { width, height } = small;
  const lab = labPlanes(small).map((plane) => gaussian(plane, 1));
  const gradients = lab.map((plane) => gradient(plane, 9, 0.12));
  const lines: Line[] = [];
  for (const g of gradients) {
    for (const line of houghLines(edgels(g), width, height, options.linesPerChannel ?? 40)) {
      if (!lines.some((l) => sameLine(l, line, 0.03, 2.5, width, height, true))) lines.push(line);
    }
  }
  lines.push(...frameLines(width, height));
  const supports = lines.map((line) => supportAlong(line, gradients));
  const { thorough = true } = options;
  const found = proposeOutlines(supports, width, height, thorough ? {} : { mostGrown: 0 });
  const regions = thorough ? findRegions(lab) : null;
  for (const quad of regions?.quads ?? []) {
    const around = linesAlong(lab, quad);
    if (!around) continue;
    const first = supports.length;
    const own = around.map((line) => supportAlong(line, gradients));
    supports.push(...own);
    for (const candidate of proposeOutlines(own, width, height, { most: 1, mostCutOff: 0 })) {
      const sides = candidate.sides.map((side) => ({ ...side, line: side.line + first }));
      found.push({ ...candidate, sides: sides as unknown as Candidate['sides'] });
    }
  }
  return {
    scale: small.width / photo.width,
    lab,
    supports,
    candidates: found,
    features: found.map((c) => describe(c, supports, lab, regions)),
  };
}
