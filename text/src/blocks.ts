import type { Block, Picture, TableRows } from '@libretto/model/content';
import { isSure, withoutSpecks } from './pictures';
import { tablesIn, type PagePlaces, type Table } from './tables';
import { around, type Rect, type Word } from './words';

/** A heading is set so much larger than the text, by level; @see https://www.w3.org/TR/html52/rendering.html for the steps that browsers use. */
const headingSteps = [1.8, 1.5, 1.25] as const;
const mostHeading = 90;
/** Lines nearer than this, in heights, are one paragraph's. */
const paragraphGap = 1.1;
/** Lines that begin so near to each other, mm, are of one column. */
const sameLeft = 6;
/** A wider gap in a line, in heights, is one that was meant. */
const wideGap = 2.5;
const bullet = /^[•·‣▪◦*–—-]$/;
const ordinal = /^\(?(?:\d{1,2}|[a-z])[.)]$/;

interface TextLine {
  words: readonly Word[];
  box: Rect;
  tall: number;
}

/** A picture cut out of a page, and where it stood there, mm. */
export interface PlacedPicture {
  box: Rect;
  picture: Picture;
}

/** What stands on a page by headings, paragraphs, lists, tables and pictures, in reading order. Everything in mm. */
export function blocksOf(whole: PagePlaces, pictures: readonly PlacedPicture[] = []): { blocks: Block[]; tables: Table[] } {
  const page = { ...whole, lines: withoutSpecks(whole.lines, pictures.map((p) => p.box)) }; // prettier-ignore
  const { tables, rest } = tablesIn(page);
  const free = new Set(rest);
  const lines = page.lines.flatMap(({ words }): TextLine[] => {
    const own = words.filter((w) => free.has(w));
    return own.length ? [{ words: own, box: around(own.map((w) => w.box)), tall: upperQuartile(own.map((w) => w.box.height)) }] : []; // prettier-ignore
  });
  // What most of the page is set in, by letters.
  const heights = lines.flatMap((l) => l.words.flatMap((w) => Array.from({ length: w.text.length }, () => l.tall))).sort((a, b) => a - b); // prettier-ignore
  const body = heights[heights.length >> 1] ?? 0;
  const out: { block: Block; y: number; x: number }[] = [];
  let open: TextLine[] = [];
  const close = () => {
    if (open.length) for (const block of asBlocks(open, lines)) out.push({ block, y: open[0]!.box.y, x: open[0]!.box.x });
    open = [];
  };
  for (const line of lines) {
    const level = headingLevel(line, body);
    if (level) {
      close();
      const text = textOfLine(line);
      const before = out.at(-1);
      // A heading over two lines is one.
      if (
        before?.block.kind === 'heading' &&
        before.block.level === level &&
        lines[lines.indexOf(line) - 1]?.box &&
        line.box.y - bottom(lines[lines.indexOf(line) - 1]!.box) < 0.8 * line.tall
      )
        before.block = { ...before.block, text: `${before.block.text} ${text}` };
      else out.push({ block: { kind: 'heading', level, text }, y: line.box.y, x: line.box.x });
      continue;
    }
    const last = open.at(-1);
    const gap = last ? line.box.y - bottom(last.box) : 0;
    const beside = last && (line.box.x > last.box.x + last.box.width || line.box.y < last.box.y);
    const resized = last && Math.abs(line.tall - last.tall) > 0.35 * last.tall;
    if (last && (gap > paragraphGap * last.tall || beside || resized)) close();
    open.push(line);
  }
  close();
  // Before the first block that begins below it; blocks keep the order in which they are read.
  const place = (block: Block, box: Rect) => {
    const at = out.findIndex(({ y, x }) => y > box.y && x < box.x + box.width);
    out.splice(at < 0 ? out.length : at, 0, { block, y: box.y, x: box.x });
  };
  for (const table of tables) {
    const rows: TableRows = table.rows.map((row) =>
      row.map(
        (cell) =>
          cell && { text: cell.text, ...(cell.across > 1 && { across: cell.across }), ...(cell.down > 1 && { down: cell.down }) },
      ),
    );
    place({ kind: 'table', rows }, table.box);
  }
  for (const { box, picture } of pictures) place({ kind: 'picture', picture }, box);
  return { blocks: withLists(out.map((o) => o.block)), tables };
}

const bottom = ({ y, height }: Rect) => y + height;

function upperQuartile(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(0.75 * (sorted.length - 1))]!;
}

function headingLevel(line: TextLine, body: number): 1 | 2 | 3 | null {
  const text = textOfLine(line);
  if (!body || text.length > mostHeading || text.replace(/[^\p{L}]/gu, '').length < 3) return null;
  // Specks and parts of pictures are read as tall words.
  if (!line.words.some(isSure)) return null;
  const step = headingSteps.findIndex((ratio) => line.tall >= ratio * body);
  return step < 0 ? null : ((step + 1) as 1 | 2 | 3);
}

/** A line's words; a wide gap between them is a tab. */
function textOfLine({ words, tall }: Pick<TextLine, 'words' | 'tall'>): string {
  return words
    .map((word, i) => {
      const before = words[i - 1];
      if (!before) return word.text;
      return `${word.box.x - before.box.x - before.box.width > wideGap * tall ? '\t' : ' '}${word.text}`;
    })
    .join('');
}

/** Lines that stand together: a list, or a paragraph with its lines joined where they were broken for want of room. */
function asBlocks(lines: readonly TextLine[], all: readonly TextLine[]): Block[] {
  const begins = lines.map(({ words }) => {
    const first = words[0]!.text;
    return words.length > 1 ? (bullet.test(first) ? 'bullet' : ordinal.test(first) ? 'ordinal' : null) : null;
  });
  const items = begins.filter(Boolean).length;
  if (items >= 2 && begins[0]) {
    const ordered = begins[0] === 'ordinal';
    const out: TextLine[][] = [];
    lines.forEach((line, i) => {
      if (begins[i]) out.push([{ ...line, words: line.words.slice(1) }]);
      else out.at(-1)!.push(line);
    });
    return [{ kind: 'list', ordered, items: out.map((item) => joined(item, -Infinity)) }];
  }
  const left = Math.min(...lines.map((l) => l.box.x));
  const column = all.filter((l) => Math.abs(l.box.x - left) < sameLeft);
  return [{ kind: 'paragraph', text: joined(lines, Math.max(...column.concat(lines).map((l) => l.box.x + l.box.width))) }];
}

/** Paragraphs that are numbered one after the other are a list, however far apart they stand. */
function withLists(blocks: readonly Block[]): Block[] {
  const out: Block[] = [];
  let counted: { at: number; next: number } | null = null;
  for (const block of blocks) {
    const [, number, text] = (block.kind === 'paragraph' && /^\(?(\d{1,2})[.)]\s+(.+)$/s.exec(block.text)) || [];
    const list: Block | undefined = counted ? out[counted.at] : undefined;
    if (text && counted?.next === Number(number) && list && counted.at === out.length - 1) {
      const items = list.kind === 'list' ? list.items : list.kind === 'paragraph' ? [list.text.replace(/^\S+\s+/, '')] : [];
      out[counted.at] = { kind: 'list', ordered: true, items: [...items, text] };
      counted.next++;
    } else {
      out.push(block);
      counted = number === '1' ? { at: out.length - 1, next: 2 } : null;
    }
  }
  return out;
}

/** Lines as running text: one that ends though the next word would have had room up to `right` ends for a reason. A hyphen at a line's end goes where small letters follow. */
function joined(lines: readonly TextLine[], right: number): string {
  let out = '';
  lines.forEach((line, i) => {
    const text = textOfLine(line);
    const before = lines[i - 1];
    if (!before) out = text;
    else if (/\p{L}[-‐]$/u.test(out) && /^\p{Ll}/u.test(text)) out = out.replace(/[-‐]$/, '') + text;
    else {
      const room = right - before.box.x - before.box.width;
      out += (room < line.words[0]!.box.width + 1.5 * line.tall ? ' ' : '\n') + text;
    }
  });
  return out;
}
