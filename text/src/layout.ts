import type { Raster } from '@libretto/core';
import type { Rect } from './words';

/**
 * How a page is read, by the engine's page segmentation: `columns` finds columns of text (and loses narrow ones, as of prices); `block` takes one block of
 * text of differing sizes; `sheet` takes everything for one block, which suits narrow sheets and cards.
 */
export type Way = 'columns' | 'block' | 'sheet';

export interface Layout {
  way: Way;
  /** Pixels of rules, which are no text, and of all other ink; where the picture is shrunk to `scale`. */
  rules: Uint8Array;
  ink: Uint8Array;
  /** The rules as lines, in px of the page. */
  lines: Rule[];
  width: number;
  height: number;
  /** Of the looked-at picture in the page's px. */
  scale: number;
}

/** A rule from end to end, from the left or from above. */
export interface Rule {
  along: 'x' | 'y';
  from: readonly [x: number, y: number];
  to: readonly [x: number, y: number];
}

/** The page is looked at with so many pixels a millimetre. */
const pxPerMm = 4;
/** Darker than this, ink; the page is evened before. */
const inkLevel = 150;
/** A rule is as long as this and no thicker, mm; one that is short goes from one long rule to another. */
const ruleMm = { long: 9, short: 3.5, thick: 1.1 };
/** A card, or a till roll with its margins. */
const narrowMm = 110;
/** A blank strip between columns of text, and the least length of their lines; mm. */
const gutterMm = 3;
const lineMm = 25;
/** How many lines each column has beside the strip. */
const leastLines = 4;
/** Share of its width that a line of text fills. */
const filled = 0.6;

/**
 * Looks at how a page is laid out.
 *
 * @param page grey, evened, any size; @param widthMm its width on paper.
 */
export function layoutOf(page: Raster, widthMm: number): Layout {
  const scale = Math.min(1, (pxPerMm * widthMm) / page.width);
  const { ink, width, height } = shrunkInk(page, scale);
  const perMm = (page.width * scale) / widthMm;
  const { mask: rules, lines } = rulesIn(ink, width, height, perMm);
  const text = ink.map((v, i) => (v && !rules[i] ? 1 : 0));
  const way: Way = widthMm <= narrowMm ? 'sheet' : hasColumns(text, width, height, perMm) ? 'columns' : 'block';
  const onPage = ([x, y]: Rule['from']) => [(x + 0.5) / scale, (y + 0.5) / scale] as const;
  return {
    way,
    rules,
    lines: lines.map(({ along, from, to }) => ({ along, from: onPage(from), to: onPage(to) })),
    ink: text,
    width,
    height,
    scale,
  };
}

/** A pixel is ink when the darkest of what it stands for is: thin strokes survive. */
function shrunkInk({ data, width: w, height: h, channels }: Raster, scale: number) {
  const [width, height] = [Math.max(1, Math.round(w * scale)), Math.max(1, Math.round(h * scale))];
  const ink = new Uint8Array(width * height);
  for (let y = 0; y < h; y++) {
    const row = Math.min(height - 1, Math.floor(y * scale)) * width;
    for (let x = 0, p = y * w * channels; x < w; x++, p += channels)
      if (data[p]! < inkLevel && (channels === 1 || data[p + 1]! < inkLevel))
        ink[row + Math.min(width - 1, Math.floor(x * scale))] = 1;
  }
  return { ink, width, height };
}

interface Trace {
  rule: Rule;
  long: boolean;
  pixels: number[];
}

/** Long thin runs, along and down, and shorter ones that go from one of them to another: their pixels, and each as a line. */
export function rulesIn(ink: Uint8Array, width: number, height: number, perMm: number): { mask: Uint8Array; lines: Rule[] } {
  const [long, short] = [Math.round(ruleMm.long * perMm), Math.round(ruleMm.short * perMm)];
  const thick = Math.ceil(ruleMm.thick * perMm);
  const traces: Trace[] = [];
  const sweep = (along: Rule['along'], count: number, length: number, at: (line: number, k: number) => number) => {
    const runs = new Int32Array(ink.length);
    for (let line = 0; line < count; line++)
      for (let k = 0; k < length;) {
        // A slope of one in eighty: the run goes on in the neighbouring rows.
        if (!ink[at(line, k)]) {
          k++;
          continue;
        }
        let end = k;
        while (
          end < length &&
          (ink[at(line, end)] || (line > 0 && ink[at(line - 1, end)]) || (line + 1 < count && ink[at(line + 1, end)]))
        )
          end++;
        for (let i = k; i < end; i++) runs[at(line, i)] = end - k;
        k = end;
      }
    // Where each place along has its rules: the middles of the thin runs across.
    let open: { first: number; last: number; start: number; line: number; pixels: number[] }[] = [];
    const end = ({ first, last, start, line, pixels }: (typeof open)[number]) => {
      if (last - first < short) return;
      const rule: Rule = along === 'x' ? { along, from: [first, start], to: [last, line] } : { along, from: [start, first], to: [line, last] }; // prettier-ignore
      traces.push({ rule, long: last - first >= long, pixels });
    };
    // A crossing, or print that touches, may hide a rule for a while.
    const gap = 2 * thick + 2;
    for (let k = 0; k < length; k++) {
      for (let line = 0; line < count;) {
        if (!ink[at(line, k)]) {
          line++;
          continue;
        }
        let last = line;
        let longest = 0;
        while (last < count && ink[at(last, k)]) longest = Math.max(longest, runs[at(last++, k)]!);
        if (longest >= short && last - line <= thick) {
          const middle = (line + last - 1) / 2;
          let its = open.find((t) => Math.abs(t.line - middle) <= 1.5);
          if (!its) open.push((its = { first: k, last: k, start: middle, line: middle, pixels: [] }));
          its.line = middle;
          its.last = k;
          for (let i = line; i < last; i++) its.pixels.push(at(i, k));
        }
        line = last;
      }
      open = open.filter((t) => k - t.last <= gap || end(t));
    }
    open.forEach(end);
  };
  sweep('x', height, width, (y, x) => y * width + x);
  sweep('y', width, height, (x, y) => y * width + x);
  const longOnes = traces.filter((t) => t.long).map((t) => t.rule);
  const kept = traces.filter((t) => t.long || bridges(t.rule, longOnes, 2 * thick));
  const mask = new Uint8Array(ink.length);
  for (const { pixels } of kept) for (const p of pixels) mask[p] = 1;
  return { mask, lines: kept.map((t) => t.rule) };
}

/** Whether both ends meet a rule that runs the other way. */
function bridges(rule: Rule, rules: readonly Rule[], near: number): boolean {
  const meets = ([x, y]: Rule['from']) =>
    rules.some(({ along, from, to }) => {
      if (along === rule.along) return false;
      const [k, o, a, b] = along === 'x' ? [0, 1, x, y] : [1, 0, y, x];
      const level = from[o]! + ((to[o]! - from[o]!) * (a - from[k]!)) / Math.max(1, to[k]! - from[k]!);
      return a >= from[k]! - near && a <= to[k]! + near && Math.abs(level - b) <= near;
    });
  return meets(rule.from) && meets(rule.to);
}

/** Whether there is a blank strip with lines of running text on both sides: a table's cells are too short for that. */
function hasColumns(ink: Uint8Array, width: number, height: number, perMm: number): boolean {
  const window = Math.round(lineMm * perMm);
  const gutter = Math.round(gutterMm * perMm);
  for (let top = 0; top + window <= height; top += Math.max(1, window >> 2)) {
    const blank: Rect[] = [];
    let from = -1;
    for (let x = 0; x <= width; x++) {
      let empty = x < width;
      for (let y = top; empty && y < top + window; y++) empty = !ink[y * width + x];
      if (empty && from < 0) from = x;
      if (!empty && from >= 0) {
        if (x - from >= gutter) blank.push({ x: from, y: top, width: x - from, height: window });
        from = -1;
      }
    }
    // What lies between two neighbouring strips is a column, if lines of text stand in it.
    const columns = blank.slice(1).map((right, i) => {
      const left = blank[i]!;
      return isText(ink, width, top, window, left.x + left.width, right.x, perMm);
    });
    if (columns.some((is, i) => is && columns[i + 1])) return true;
  }
  return false;
}

function isText(ink: Uint8Array, width: number, top: number, window: number, from: number, to: number, perMm: number): boolean {
  if (to - from < lineMm * perMm) return false;
  const closing = Math.round(2 * perMm);
  let lines = 0;
  let before = false;
  for (let y = top; y < top + window; y++) {
    let [covered, last] = [0, -Infinity];
    for (let x = from; x < to; x++)
      if (ink[y * width + x]) {
        covered += x - last <= closing ? x - last : 1;
        last = x;
      }
    const full = covered >= filled * (to - from);
    if (full && !before) lines++;
    before = full;
  }
  return lines >= leastLines;
}

/** The page with its rules made paper, for ways of reading that take rules for letters. */
export function withoutRules(page: Raster, { rules, width, height, scale }: Layout): Raster {
  const data = new Uint8ClampedArray(page.data);
  for (let y = 0; y < page.height; y++) {
    const row = Math.min(height - 1, Math.floor(y * scale)) * width;
    for (let x = 0; x < page.width; x++)
      if (rules[row + Math.min(width - 1, Math.floor(x * scale))])
        data.fill(255, (y * page.width + x) * page.channels, (y * page.width + x + 1) * page.channels);
  }
  return { ...page, data };
}

/** Side of the tiles by which pictures are told, mm, and the share of ink from which one is a picture's. */
const tileMm = 4;
const dense = 0.55;

/**
 * Share of the ink that no word covers, rules and pictures left out: text that was not read.
 *
 * @param boxes of the words, in px of the page.
 */
export function unreadShare({ ink, width, height, scale }: Layout, boxes: readonly Rect[], pageWidthMm: number): number {
  const read = new Uint8Array(ink.length);
  const pad = 2;
  for (const b of boxes)
    for (let y = Math.max(0, Math.floor(b.y * scale) - pad); y < Math.min(height, (b.y + b.height) * scale + pad); y++)
      for (let x = Math.max(0, Math.floor(b.x * scale) - pad); x < Math.min(width, (b.x + b.width) * scale + pad); x++)
        read[y * width + x] = 1;
  const tile = Math.max(4, Math.round((tileMm * width) / pageWidthMm));
  let [all, missed] = [0, 0];
  for (let ty = 0; ty < height; ty += tile)
    for (let tx = 0; tx < width; tx += tile) {
      let [count, lost, area] = [0, 0, 0];
      for (let y = ty; y < Math.min(height, ty + tile); y++)
        for (let x = tx; x < Math.min(width, tx + tile); x++) {
          area++;
          if (!ink[y * width + x]) continue;
          count++;
          if (!read[y * width + x]) lost++;
        }
      if (count > dense * area) continue;
      all += count;
      missed += lost;
    }
  return all > 200 ? missed / all : 0;
}
