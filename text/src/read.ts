import type { Raster } from '@libretto/core';
import { betterCells, cellList, listLarger } from './cellsAgain';
import { calibrated, leastSaid } from './confidence';
import type { Engine } from './engine';
import { framesIn } from './frames';
import { languageOf } from './language';
import type { Language } from './languages';
import { layoutOf, unreadShare, withoutRules, type Rule, type Way } from './layout';
import { linesOf, textOf } from './order';
import { onPaper } from './places';
import type { Line, Recognised, Rect, Word } from './words';

export interface PageText {
  language: Language;
  lines: Line[];
  /** The lines as running text. */
  text: string;
  /** Long thin lines of the page: of tables, frames, forms. */
  rules: Rule[];
  /** Boxes drawn round a line, px of the page: what stands in one is meant as the title. */
  frames: Rect[];
  /** Share of the ink that was not read, 0..1, where it is so much that text must be missing; else 0. */
  unread: number;
}

export interface ReadOptions {
  /** Width of the page on paper, mm. */
  widthMm: number;
  /** Read in this one at first; with `sure`, whatever the words look like. */
  language?: Language;
  sure?: boolean;
  /** What stands on it, as its file says, px of the page: taken where it covers the print. */
  words?: readonly { text: string; box: Rect }[];
}

/** More of the ink than this without a word: text is missing. */
const lost = 0.15;
/** More than this is said: a drawing between the lines has ink without words, too. */
const told = 0.25;
/** Below it letters are too small for the recogniser, dpi; enlarged to the second. */
const leastDpi = 180;
const enlargedDpi = 300;
/** A word, not a speck: letters or digits, and how sure the engine is at least. */
const isWord = ({ text, confidence }: Recognised) => /[\p{L}\p{N}]{2}/u.test(text) && confidence >= 50;

/** The ways to try, the likeliest first. */
const ways: Record<Way, readonly Way[]> = { columns: ['columns', 'block'], block: ['block', 'sheet'], sheet: ['sheet', 'block'] };

/**
 * Reads a finished page: a look at its layout picks how, lost text is noticed and read again another way, and the language is told from what was read.
 *
 * @param page grey or colour, evened, never two-level; upright.
 * @throws what the engine throws.
 */
export async function readPage(
  page: Raster,
  engine: Engine,
  { widthMm, language = 'eng', sure = false, words: brought = [] }: ReadOptions,
): Promise<PageText> {
  const grey = asGrey(page);
  const dpi = (grey.width / widthMm) * 25.4;
  if (isBlank(grey, dpi)) return { language, lines: [], text: '', rules: [], frames: [], unread: 0 };
  const layout = layoutOf(grey, widthMm);
  const frames = framesIn(layout, widthMm);
  const up = dpi < leastDpi ? enlargedDpi / dpi : 1;
  let bare: Raster | null = null;
  const recognise = async (way: Way, in_: Language): Promise<Recognised[][]> => {
    // Taken as one block, rules are read as letters.
    const from = way === 'sheet' ? (bare ??= withoutRules(grey, layout)) : grey;
    const blocks = await engine.recognise(up > 1 ? enlarged(from, up) : from, way, in_, dpi * up);
    return blocks.map((words) => words.flatMap((w) => tidied(w, up, grey)));
  };
  const missing = (blocks: readonly Recognised[][]) => unreadShare(layout, blocks.flat().map((w) => w.box), widthMm); // prettier-ignore

  if (brought.length) {
    const words = brought.map(({ text, box }): Word => ({ text, box, confidence: 1 }));
    const unread = unreadShare(layout, words.map((w) => w.box), widthMm); // prettier-ignore
    if (unread <= lost) {
      const told = sure ? null : languageOf(words.map((w) => w.text).join(' '));
      const lines = linesOf(columnsOf(words), layout.way === 'columns');
      return { language: told ?? language, lines, text: textOf(lines), rules: layout.lines, frames, unread: 0 };
    }
  }
  let used: Way = layout.way;
  let in_ = language;
  let blocks = await recognise(used, in_);
  let unread = missing(blocks);
  if (unread > lost)
    for (const way of ways[layout.way].slice(1)) {
      const again = await recognise(way, in_);
      const left = missing(again);
      // Columns read across are worse than a gap.
      if (left > unread - 0.05 || (layout.way === 'columns' && unread < 2 * lost)) continue;
      [blocks, unread, used] = [again, left, way];
    }
  if (!sure) {
    const told = languageOf(blocks.flat().map((w) => w.text).join(' ')); // prettier-ignore
    if (told && told !== in_) {
      in_ = told;
      blocks = await recognise(used, in_);
      unread = missing(blocks);
    }
  }
  const asWord = ({ text, box, confidence }: Recognised): Word => ({ text, box, confidence: calibrated(text, confidence) });
  let kept = blocks.map((words) => words.map(asWord));
  let lines = blocks.flat().some(isWord) ? linesOf(kept, used === 'columns') : [];
  const places = onPaper({ lines, rules: layout.lines }, widthMm / grey.width, widthMm / grey.width);
  const origin = new Map(places.lines.flatMap((line, i) => line.words.map((word, k) => [word, lines[i]!.words[k]!])));
  const list = cellList(places, (word) => origin.get(word)!, grey, layout, widthMm);
  if (list) {
    const again = await engine.recognise(list.picture, 'sheet', in_, dpi * listLarger);
    const words = again.flat().flatMap((w) => tidied(w, 1, list.picture)).map(asWord); // prettier-ignore
    const better = betterCells(list, words, widthMm, grey.width);
    for (const { old, words: now } of better) kept = exchanged(kept, old, now);
    lines = linesOf(kept, used === 'columns');
  }
  return { language: in_, lines, text: textOf(lines), rules: layout.lines, frames, unread: unread > told ? unread : 0 };
}

/** Of what stands out from the paper by so many levels there is less than so much: not one letter. */
const standsOut = 40;
const leastInkMm2 = 0.2;

/** Whether nothing is on the page, as on the back of a sheet: the recogniser would look for seconds. */
function isBlank({ data }: Raster, dpi: number): boolean {
  const counts = new Uint32Array(256);
  for (let i = 0; i < data.length; i++) counts[data[i]!]!++;
  const paper = counts.indexOf(Math.max(...counts));
  const out = counts.reduce((sum, n, level) => (Math.abs(level - paper) > standsOut ? sum + n : sum), 0);
  return out < leastInkMm2 * (dpi / 25.4) ** 2;
}

/** Words in the order of their file, parted where it goes back up: there another column begins. */
function columnsOf(words: readonly Word[]): Word[][] {
  const columns: Word[][] = [];
  words.forEach((word, i) => {
    const before = words[i - 1]?.box;
    if (!before || word.box.y + word.box.height < before.y - before.height) columns.push([]);
    columns.at(-1)!.push(word);
  });
  return columns;
}

/** The words with some of them read better; what was not read at all comes to its neighbours. */
function exchanged(blocks: readonly Word[][], old: readonly Word[], now: readonly Word[]): Word[][] {
  const near = ({ box }: Word) => Math.min(...now.map((w) => Math.hypot(w.box.x - box.x, w.box.y - box.y)));
  const holds = old.length ? (words: Word[]) => words.includes(old[0]!) : () => false;
  let at = blocks.findIndex(holds);
  if (at < 0) {
    const all = blocks.map((words) => Math.min(Infinity, ...words.map(near)));
    at = all.indexOf(Math.min(...all));
  }
  return blocks.map((words, i) => [...words.filter((w) => !old.includes(w)), ...(i === at ? now : [])]);
}

/** A word in px of the page; what is rather a rule or a speck is none. Letters between digits that look like a nought are one. */
function tidied({ text, box, confidence }: Recognised, up: number, { width, height }: Raster): Recognised | [] {
  const clean = text.replace(/^[|¦]+|[|¦]+$/g, '').replace(/(?<=\d)[©Oo](?=[\d.,:]|$)|(?<=^|[.,:])[©O](?=\d)/g, '0').trim(); // prettier-ignore
  if (!clean || confidence < leastSaid) return [];
  const rect: Rect = { x: box.x / up, y: box.y / up, width: box.width / up, height: box.height / up };
  // A single letter that touches the border is a speck of the page's edge.
  const touches = rect.x <= 1 || rect.y <= 1 || rect.x + rect.width >= width - 1 || rect.y + rect.height >= height - 1;
  if (clean.length === 1 && touches) return [];
  return { text: clean, box: rect, confidence };
}

function asGrey(page: Raster): Raster {
  if (page.channels === 1) return page;
  const data = new Uint8ClampedArray(page.width * page.height);
  // Rec. 709 luma of the encoded values: what the recogniser would make of it itself.
  for (let i = 0, p = 0; i < data.length; i++, p += page.channels) data[i] = 0.2126 * page.data[p]! + 0.7152 * page.data[p + 1]! + 0.0722 * page.data[p + 2]!; // prettier-ignore
  return { width: page.width, height: page.height, channels: 1, data };
}

/** Bilinear, for small print. */
function enlarged(page: Raster, by: number): Raster {
  const [width, height] = [Math.round(page.width * by), Math.round(page.height * by)];
  const data = new Uint8ClampedArray(width * height);
  for (let y = 0; y < height; y++) {
    const sy = Math.min(page.height - 1, Math.max(0, (y + 0.5) / by - 0.5));
    const [y0, fy] = [Math.floor(sy), sy % 1];
    const [a, b] = [y0 * page.width, Math.min(page.height - 1, y0 + 1) * page.width];
    for (let x = 0; x < width; x++) {
      const sx = Math.min(page.width - 1, Math.max(0, (x + 0.5) / by - 0.5));
      const [x0, fx] = [Math.floor(sx), sx % 1];
      const x1 = Math.min(page.width - 1, x0 + 1);
      const above = page.data[a + x0]! * (1 - fx) + page.data[a + x1]! * fx;
      const under = page.data[b + x0]! * (1 - fx) + page.data[b + x1]! * fx;
      data[y * width + x] = above * (1 - fy) + under * fy;
    }
  }
  return { width, height, channels: 1, data };
}
