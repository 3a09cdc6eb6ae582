import type { Page } from '@libretto/model';
import { setCorrections } from '../store/editing';
import { photoGrid, putText, type ReadText } from '../store/files';
import { textKnown } from '../store/session';
import type { AppDispatch } from '../store/store';
import { gridMap } from './gridMap';
import { textLook } from './reading';
import { noteText } from './searching';

type Correction = NonNullable<Page['corrections']>[number];
const whole = 10_000;

/** The text with some of its lines as they are now; breaks between paragraphs stay where they were. */
function textOf(before: ReadText, lines: ReadText['lines']): string {
  const words = (line: ReadText['lines'][number]) => line.map(([word]) => word).join(' ');
  const rows = before.text.split('\n');
  const filled = rows.flatMap((row, i) => (row.trim() ? [i] : []));
  if (filled.length !== before.lines.length) return lines.map(words).join('\n');
  filled.forEach((row, i) => {
    if (lines[i] !== before.lines[i]) rows[row] = words(lines[i]!);
  });
  return rows.join('\n');
}

/** What was read with what was put right by hand: each correction goes to the word that stands on its place of the photo, which counts as sure then. One to nothing takes the word away. */
export function corrected(read: ReadText, corrections: readonly Correction[] | undefined): ReadText {
  if (!corrections?.length) return read;
  const { toPage } = gridMap(read.photo, photoGrid);
  const lines = [...read.lines];
  for (const { at, text } of corrections) {
    const [u, v] = toPage(at);
    const [px, py] = [u * whole, v * whole];
    for (const [i, line] of lines.entries()) {
      const j = line.findIndex(([, x, y, width, height]) => px >= x && px <= x + width && py >= y && py <= y + height);
      if (j < 0) continue;
      const [, x, y, width, height] = line[j]!;
      lines[i] = text ? line.with(j, [text, x, y, width, height, 1]) : line.toSpliced(j, 1);
      break;
    }
  }
  return { ...read, lines: lines.filter((line) => line.length), text: textOf(read, lines) };
}

/** Puts one word right: a step that can be undone, anchored in the photo, so that it stays when the page is read anew. */
export function correctWord(page: Page, read: ReadText, line: number, word: number, text: string) {
  return async (dispatch: AppDispatch): Promise<void> => {
    const [, x, y, width, height] = read.lines[line]![word]!;
    const at = gridMap(read.photo, photoGrid).toPhoto([(x + width / 2) / whole, (y + height / 2) / whole]);
    const correction: Correction = { at: [Math.round(at[0]), Math.round(at[1])], text: text.trim() };
    const before = (page.corrections ?? []).filter((c) => Math.hypot(c.at[0] - at[0], c.at[1] - at[1]) > 2);
    const now = { ...page, corrections: [...before, correction] };
    // It has been read as it is now: nothing needs to be read anew for it.
    const known = { ...corrected(read, [correction]), look: textLook(now) };
    await putText(page.id, known);
    await dispatch(setCorrections(page, now.corrections));
    noteText(page.id);
    dispatch(textKnown({ pageId: page.id, look: known.look }));
  };
}
