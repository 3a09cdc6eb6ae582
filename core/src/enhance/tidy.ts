import { gaussian } from '../raster/blur';
import { createPlane, type Plane, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { GridRows } from '../raster/gridRows';
import { partFrom } from '../raster/marks';
import { isAllPicture, type Light } from './light';
import { dilate, erode } from './morphology';

/** Long side of the copy on which the margin is looked at, px. */
const workingEdgePx = 500;
/** What is darker than this share of its paper, or whose colour is this far off (log ratio), is not paper. */
const darkShare = 0.8;
const colourOff = 0.16;
/** A strip of desk along a side is no deeper than this share of the page's longer side; print stands further in (common practice: margins). */
const stripDepth = 0.013;
/** A fingertip reaches no further in, is no longer along the side, and covers no more of the page: shares of the longer side and of the page, or millimetres where these are more, as on a card. */
const fingerDepth = { share: 0.16, mm: 22 };
const fingerLength = { share: 0.22, mm: 30 };
const fingerArea = { share: 0.035, mm2: 360 };
/** Of its box a fingertip fills so much: less is a stroke, more a printed block. */
const fingerSolid = [0.55, 0.94];

/** What lies over a page's margin and is not of it: 1 on a small grid, and how many places there are. */
export interface Litter {
  mask: Plane;
  places: number;
}

/** A page's size on paper, mm. */
type PaperSize = { widthMm: number; heightMm: number };
const a4: PaperSize = { widthMm: 210, heightMm: 297 };

/**
 * Finds fingertips on a page's margin, strips of desk along its sides and corners that are folded over or torn off: what is not paper, touches the border, and is either
 * skin-coloured, solid and rounded, or too thin to be print, or a triangle in a corner. Bands and pictures that are printed up to the edge are left alone, and so is a page that is a picture all over.
 */
export function findLitter(page: Raster, light: Light, size: PaperSize = a4): Litter | null {
  if (light.dark || page.channels === 1 || isAllPicture(light)) return null;
  const small = shrinkToEdge(page, workingEdgePx);
  const { width, height, channels, data } = small;
  const edge = Math.max(width, height);
  const paper = new GridRows(light.paper, width, height);
  const foreign = createPlane(width, height);
  const skin = new Uint8Array(width * height);
  // Tinted paper is paper: what is foreign is told against its own colour.
  const [br, bg, bb] = light.balance.map((v, c) => v / light.own[c]);
  for (let y = 0, i = 0, p = 0; y < height; y++) {
    const row = paper.row(y);
    for (let x = 0; x < width; x++, i++, p += channels) {
      const [r, g, b] = [data[p] * br, data[p + 1] * bg, data[p + 2] * bb];
      const luma = 0.299 * r + 0.587 * g + 0.114 * b;
      const rg = Math.log((r + 6) / (g + 6));
      const gb = Math.log((g + 6) / (b + 6));
      if (luma < darkShare * row[x] || Math.hypot(rg, gb) > colourOff) foreign.data[i] = 1;
      // Skin of every shade is redder than green and greener than blue (Kovač, Peer and Solina, EUROCON 2003, in ratios, from memory).
      if (rg > 0.1 && rg < 0.75 && gb > -0.05 && gb < 0.75) skin[i] = 1;
    }
  }
  const mask = createPlane(width, height);
  let places = 0;
  // All that is foreign, then what of it is skin: a finger may lie on print, which hangs together with it.
  const fingers: Plane = { width, height, data: foreign.data.map((v, i) => v * skin[i]) };
  for (const what of [foreign, fingers]) {
    const solid = erode(dilate(what, 2), 2).data;
    const seen = new Uint8Array(width * height);
    for (const start of borderOf(width, height)) {
      if (seen[start] || mask.data[start] || !solid[start]) continue;
      const members = partFrom(solid, seen, width, height, start);
      if (!isLitter(members, skin, width, height, edge, size)) continue;
      if (what === fingers && foreignRound(members, foreign) > mostRound) continue;
      places++;
      for (const m of members) mask.data[m] = 1;
    }
  }
  return places ? { mask: dilate(mask, 3), places } : null;
}

/** A finger on print has mostly paper round it; skin in a photograph has the photograph. */
const mostRound = 0.22;

/** Share of what lies close round a place that is not paper either. */
function foreignRound(members: readonly number[], foreign: Plane): number {
  const own = createPlane(foreign.width, foreign.height);
  for (const m of members) own.data[m] = 1;
  const grown = dilate(own, 4).data;
  let [round, all] = [0, 0];
  for (let i = 0; i < grown.length; i++) {
    if (!grown[i] || own.data[i]) continue;
    all++;
    round += foreign.data[i];
  }
  return all ? round / all : 1;
}

function* borderOf(width: number, height: number): Generator<number> {
  for (let x = 0; x < width; x++) {
    yield x;
    yield (height - 1) * width + x;
  }
  for (let y = 0; y < height; y++) {
    yield y * width;
    yield y * width + width - 1;
  }
}

function isLitter(
  members: readonly number[],
  skin: Uint8Array,
  width: number,
  height: number,
  edge: number,
  { widthMm, heightMm }: PaperSize,
): boolean {
  let [left, right, top, bottom, depth, skinned] = [width, 0, height, 0, 0, 0];
  for (const p of members) {
    const x = p % width;
    const y = (p - x) / width;
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
    depth = Math.max(depth, Math.min(x, y, width - 1 - x, height - 1 - y) + 1);
    skinned += skin[p];
  }
  if (depth <= stripDepth * edge) return true;
  if (isCornerGone(members, { left, right, top, bottom }, width, height, edge)) return true;
  const box = (right - left + 1) * (bottom - top + 1);
  const solid = members.length / box;
  const longMm = Math.max(widthMm, heightMm);
  const most = ({ share, mm }: { share: number; mm: number }) => Math.max(share, mm / longMm) * edge;
  const mostArea = Math.max(fingerArea.share, fingerArea.mm2 / (widthMm * heightMm));
  // A fingertip comes in from one side and is about as wide as it is deep.
  const across = Math.min(right - left + 1, bottom - top + 1);
  return (
    skinned > 0.8 * members.length &&
    members.length > 0.0006 * width * height &&
    members.length < mostArea * width * height &&
    depth < most(fingerDepth) &&
    across > 0.012 * edge &&
    Math.max(right - left, bottom - top) < most(fingerLength) &&
    solid > fingerSolid[0] &&
    solid < fingerSolid[1]
  );
}

/** A corner that is folded over or torn off reaches no further along its sides than this share of the page's longer side. */
const cornerReach = 0.28;
const cornerLeast = 0.015;

/** Whether a place is a page's missing corner, where the desk shows: a triangle between two sides and the fold. */
function isCornerGone(
  members: readonly number[],
  { left, right, top, bottom }: { left: number; right: number; top: number; bottom: number },
  width: number,
  height: number,
  edge: number,
): boolean {
  if ((left > 0 && right < width - 1) || (top > 0 && bottom < height - 1)) return false;
  const [w, h] = [right - left + 1, bottom - top + 1];
  if (Math.max(w, h) > cornerReach * edge || Math.min(w, h) < cornerLeast * edge) return false;
  const triangle = (w * h) / 2;
  let within = 0;
  for (const p of members) {
    const x = p % width;
    const y = (p - x) / width;
    if ((left === 0 ? x : width - 1 - x) / w + (top === 0 ? y : height - 1 - y) / h < 1.08) within++;
  }
  return within > 0.94 * members.length && within > 0.8 * triangle;
}

/** The page with its litter filled by paper: the light that fell there, in the paper's own colour. */
export function filled(page: Raster, light: Light, { mask }: Litter): Raster {
  const { width, height, channels, data } = page;
  const target: Raster = { width, height, channels, data: data.slice() };
  const out = target.data;
  const soft = new GridRows({ ...gaussian(mask, 1), ...(mask.part && { part: mask.part }) }, width, height);
  const paper = new GridRows(light.paper, width, height);
  const own = light.own.map((v, c) => v / light.balance[c]);
  const colours = Math.min(3, channels);
  for (let y = 0; y < height; y++) {
    for (const [from, to] of toFill(soft.line(y), mask.width, soft)) {
      const share = soft.row(y, from, to);
      const level = paper.row(y, from, to);
      for (let x = from; x < to; x++) {
        const s = share[x];
        for (let c = 0, p = (y * width + x) * channels; c < colours; c++, p++)
          out[p] = data[p] * (1 - s) + level[x] * (colours === 1 ? 1 : own[c]) * s;
      }
    }
  }
  return target;
}

const leastShare = 0.02;

/** Runs of the page's columns within reach of grid columns on which something is to be filled. */
function toFill(
  line: Float32Array,
  cells: number,
  { from: [left], whole, share }: GridRows,
): (readonly [from: number, to: number])[] {
  const runs: (readonly [number, number])[] = [];
  for (let i = 0; i < cells; i++) {
    if (line[i] < leastShare) continue;
    const start = i;
    while (i + 1 < cells && line[i + 1] >= leastShare) i++;
    const from = Math.max(0, Math.floor(((start - 0.5) * whole.width) / cells - left));
    const to = Math.min(share.length, Math.ceil(((i + 1.5) * whole.width) / cells - left));
    if (from < to) runs.push([from, to]);
  }
  return runs;
}

/** What is left of the desk beside a side that is not quite straight: no deeper than this share of the page's longer side, about a millimetre. */
const sliverDepth = 0.004;
/** Levels below the paper within the margin from which a pixel at the border is a sliver's. */
const sliverStep = 14;
const brightPaper = 225;

/**
 * A finished page without slivers of desk and of the sides' own shadow: what is darker than the paper, begins at the border and ends before print could stand.
 * Bands, rules and pictures that go on further are left alone, and so is what is kept by hand. In place.
 *
 * @param kept 1 where it is to stay as it is, on a grid over the whole page.
 * @param part where a part of a page begins on it, and the page's size: only its outer sides are trimmed.
 */
export function trimSlivers(
  { width, height, channels, data }: Raster,
  kept: Plane | null = null,
  { page, at: [left, top] }: { page: { width: number; height: number }; at: readonly [number, number] } = {
    page: { width, height },
    at: [0, 0],
  },
): void {
  const depth = Math.max(2, Math.round(sliverDepth * Math.max(page.width, page.height)));
  if (Math.min(page.width, page.height) < 4 * depth || Math.min(width, height) <= depth) return;
  const luma = (p: number) => (channels === 1 ? data[p] : 0.299 * data[p] + 0.587 * data[p + 1] + 0.114 * data[p + 2]);
  const isKept = (x: number, y: number) =>
    kept !== null &&
    kept.data[
      Math.floor(((top + y + 0.5) * kept.height) / page.height) * kept.width +
        Math.floor(((left + x + 0.5) * kept.width) / page.width)
    ] > 0.5;
  const trim = (x: number, y: number, step: number) => {
    if (isKept(x, y)) return;
    const start = (y * width + x) * channels;
    const inner = start + depth * step;
    const paper = luma(inner);
    if (paper < brightPaper) return;
    let end = start;
    while (end !== inner && luma(end) < paper - sliverStep) end += step;
    if (end === start || end === inner) return;
    for (let p = start; p !== end; p += step) for (let c = 0; c < channels; c++) data[p + c] = data[inner + c];
  };
  const row = width * channels;
  const [right, bottom] = [left + width >= page.width, top + height >= page.height];
  for (let y = 0; y < height; y++) {
    if (left <= 0) trim(0, y, channels);
    if (right) trim(width - 1, y, -channels);
  }
  for (let x = 0; x < width; x++) {
    if (top <= 0) trim(x, 0, row);
    if (bottom) trim(x, height - 1, -row);
  }
}
