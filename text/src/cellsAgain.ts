import { createRaster, type Raster } from '@libretto/core';
import type { Layout } from './layout';
import { tablesIn, type PagePlaces, type TableCell } from './tables';
import type { Rect, Word } from './words';

/** Short cells only: what is long is read well as it is. */
const mostLetters = 26;
const mostCells = 160;
/** Less sure than this, a cell is read again, whatever stands in it. */
const sureEnough = 0.97;
/** The recogniser sees the cells so much larger, which makes the second reading another one than the first. */
export const listLarger = 1.6;
const marginMm = 0.5;

/** A picture of cells one below the other, and where each lies in it. */
export interface CellList {
  picture: Raster;
  cells: { words: readonly Word[]; from: Rect; top: number; height: number }[];
}

/**
 * The short cells of a page's tables, laid one below the other like a list, so that one more look reads all of them: figures that stand alone in wide gaps
 * are what a recogniser gets wrong.
 *
 * @param places as on paper, mm; @param origin the word of the page that one on paper stands for; @param page grey; @returns null where there is none.
 */
export function cellList(
  places: PagePlaces,
  origin: (word: Word) => Word,
  page: Raster,
  layout: Layout,
  widthMm: number,
): CellList | null {
  const perMm = page.width / widthMm;
  const wanted = tablesIn(places)
    .tables.flatMap((table) => table.rows.flat())
    .filter((cell): cell is TableCell => cell !== null && isDoubtful(cell, layout, perMm))
    .slice(0, mostCells);
  if (!wanted.length) return null;
  const boxes = wanted.map((cell) => cropOf(cell, page, perMm));
  const edge = Math.round(3 * perMm);
  const width = Math.max(...boxes.map((b) => Math.round(b.width * listLarger))) + 2 * edge;
  let y = edge;
  const cells = wanted.map((cell, i) => {
    const from = boxes[i]!;
    const height = Math.round(from.height * listLarger);
    const at = { words: cell.words.map(origin), from, top: y, height };
    y += height + Math.round(2.2 * perMm);
    return at;
  });
  const picture = createRaster(width, y + edge, 1);
  picture.data.fill(255);
  for (const { from, top, height } of cells) {
    const across = Math.round(from.width * listLarger);
    for (let dy = 0; dy < height; dy++)
      for (let dx = 0; dx < across; dx++)
        picture.data[(top + dy) * width + edge + dx] = bilinear(page, from.x + (dx + 0.5) / listLarger - 0.5, from.y + (dy + 0.5) / listLarger - 0.5); // prettier-ignore
  }
  return { picture, cells };
}

function isDoubtful(cell: TableCell, layout: Layout, perMm: number): boolean {
  if (cell.text.length > mostLetters || cell.box.height > 9) return false;
  if (cell.text) return /\d/.test(cell.text) || cell.right < sureEnough;
  // Nothing read, and something there.
  const { x, y, width, height } = inset(cell.place);
  const px = perMm * layout.scale;
  let ink = 0;
  for (let v = Math.floor(y * px); v < Math.min(layout.height, (y + height) * px); v++)
    for (let u = Math.floor(x * px); u < Math.min(layout.width, (x + width) * px); u++)
      if (v >= 0 && u >= 0) ink += layout.ink[v * layout.width + u]!;
  return ink > 6;
}

const inset = ({ x, y, width, height }: Rect): Rect => ({ x: x + 0.7, y: y + 0.7, width: Math.max(0.5, width - 1.4), height: Math.max(0.5, height - 1.4) }); // prettier-ignore

/** The part of the page to look at, px: the words with what may have been left out beside them, within their place. */
function cropOf({ words, box, place }: TableCell, page: Raster, perMm: number): Rect {
  const inside = inset(place);
  const tall = words.length ? box.height : inside.height;
  const left = words.length ? Math.max(Math.min(inside.x, box.x), box.x - 3 * tall) : inside.x;
  const right = words.length ? Math.min(Math.max(inside.x + inside.width, box.x + box.width), box.x + box.width + 3 * tall) : inside.x + inside.width; // prettier-ignore
  const [x, y] = [Math.max(0, Math.floor(left * perMm)), Math.max(0, Math.floor(((words.length ? box.y : inside.y) - marginMm) * perMm))]; // prettier-ignore
  return {
    x,
    y,
    width: Math.min(page.width, Math.ceil(right * perMm)) - x,
    height: Math.min(page.height, Math.ceil(((words.length ? box.y : inside.y) + tall + marginMm) * perMm)) - y,
  };
}

function bilinear({ data, width, height }: Raster, x: number, y: number): number {
  const [cx, cy] = [Math.max(0, Math.min(width - 1.001, x)), Math.max(0, Math.min(height - 1.001, y))];
  const [x0, y0] = [Math.floor(cx), Math.floor(cy)];
  const [fx, fy] = [cx - x0, cy - y0];
  const p = y0 * width + x0;
  const q = p + (y0 + 1 < height ? width : 0);
  const step = x0 + 1 < width ? 1 : 0;
  return (data[p]! * (1 - fx) + data[p + step]! * fx) * (1 - fy) + (data[q]! * (1 - fx) + data[q + step]! * fx) * fy;
}

/** What was read in the list, in px of the page, for each cell of which the second reading is the better one. */
export function betterCells({ picture, cells }: CellList, read: readonly Word[], widthMm: number, pageWidth: number) {
  const edge = Math.round((3 * pageWidth) / widthMm);
  return cells.flatMap(({ words: old, from, top, height }) => {
    const now = read
      .filter(({ box }) => box.y + box.height / 2 >= top - 2 && box.y + box.height / 2 <= top + height + 2)
      .sort((a, b) => a.box.x - b.box.x)
      .map(({ text, confidence, box }): Word => ({
        text,
        confidence,
        box: { x: from.x + (box.x - edge) / listLarger, y: from.y + (box.y - top) / listLarger, width: box.width / listLarger, height: box.height / listLarger }, // prettier-ignore
      }));
    if (!now.length || picture.width <= 2 * edge) return [];
    const [before, after] = [said(old), said(now)];
    if (before === after) {
      // Two readings that agree are surer than either.
      const words = old.map((w, i) => ({ ...w, confidence: 1 - (1 - w.confidence) * (1 - (now[i]?.confidence ?? 0)) }));
      return [{ old, words }];
    }
    const digits = (text: string) => text.replace(/\D/g, '');
    // A sign between digits is lost more often than it is made up.
    const more = digits(before) === digits(after) && /\d/.test(before) && after.length !== before.length;
    const takes = !old.length || (more ? after.length > before.length : least(now) > least(old));
    return takes ? [{ old, words: now }] : [];
  });
}

const said = (words: readonly Word[]) => words.map((w) => w.text).join(' ');
const least = (words: readonly Word[]) => words.reduce((m, w) => Math.min(m, w.confidence), 1);
