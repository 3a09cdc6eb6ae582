import { shortHash, type Page, type Settings } from '@libretto/model';
import { languages } from '@libretto/text/languages';
import { getBroughtWords, getPhoto, getText, photoGrid, putText, type ReadText, type ReadWord } from '../store/files';
import { settingsId } from '../store/library';
import { textKnown } from '../store/session';
import type { AppDispatch, RootState, Store } from '../store/store';
import { lockedHere } from '../store/tabs';
import { named, readTexts } from '../store/texts';
import { corrected } from './correcting';
import { workRecipe } from './pageImages';
import { priority } from './pool';
import { pagePool, readPool } from './pools';
import { noteText } from './searching';
import type { SeenSlip } from './read.worker';

/** Raised when pages are read differently, so that they are read anew. */
const readerVersion = 2;
/** After so long without a change pages are read. */
const quietMs = 4000;

/** All of a page that decides what is read on it: its place in the photo and which way up it is, whatever its filter. */
export function textLook(page: Page): string {
  const { quad, polygon, turn, mirror, whole, size, touches, marks } = workRecipe(page);
  const covers = (marks ?? []).filter((m) => m.kind === 'cover' || m.kind === 'part');
  const { corrections } = page;
  return shortHash(
    JSON.stringify([
      readerVersion,
      page.photoId,
      quad,
      polygon,
      turn,
      mirror,
      whole,
      size,
      touches,
      covers,
      ...(corrections?.length ? [corrections] : []),
    ]),
  );
}

export const isReadable = (page: Page | undefined): page is Page => page?.state === 'ready' && page.recipe !== null && !page.deletedAt; // prettier-ignore

/** What is known to stand on a page as it is now; null: not read yet. */
export async function textOfPage(page: Page): Promise<ReadText | null> {
  if (!isReadable(page)) return null;
  const kept = await getText(page.id).catch(() => undefined);
  return kept?.look === textLook(page) ? kept : null;
}

/** Reads a page, unless it has been; in one tab only. */
export function readText(page: Page, { language }: { language?: keyof typeof languages } = {}) {
  return async (dispatch: AppDispatch): Promise<ReadText | null> => {
    let text: ReadText | null = null;
    let known = true;
    let slip: SeenSlip | undefined;
    await lockedHere(`libretto-read:${page.id}`, async () => {
      text = language ? null : await textOfPage(page);
      known = text !== null;
      if (!text) {
        const photo = await getPhoto(page.photoId);
        if (!photo) return;
        const brought = await getBroughtWords(page.photoId);
        const look = textLook(page);
        const {
          raster,
          widthMm,
          photo: places,
          words,
        } = await pagePool.run(
          (api) => api.readable(page.photoId, photo, workRecipe(page), page.alone, photoGrid, brought),
          priority.ahead - 1,
        );
        const read = await readPool.run(
          (api) => api.read(raster, { widthMm, words, ...(language && { language, sure: true }) }),
          0,
        );
        slip = read.slip;
        const [across, down] = [10_000 / raster.width, 10_000 / raster.height];
        const spot = (x: number, y: number) => [Math.round(x * across), Math.round(y * down)] as const;
        text = {
          look,
          documentId: page.documentId,
          language: languages[read.language],
          text: read.text,
          unread: Math.round(read.unread * 1000) / 1000,
          photo: places,
          rules: read.rules.map(({ along, from, to }) => [along === 'x' ? 1 : 0, ...spot(...from), ...spot(...to)]),
          ...(read.frames.length && {
            frames: read.frames.map(({ x, y, width, height }): [number, number, number, number] => [
              ...spot(x, y),
              ...spot(width, height),
            ]),
          }),
          codes: read.codes.map(({ kind, text: said, box }) => ({
            kind,
            text: said,
            box: [...spot(box.x, box.y), ...spot(box.width, box.height)],
          })),
          lines: read.lines.map(({ words }) =>
            words.map(({ text: word, box, confidence }): ReadWord => [
              word,
              Math.round(box.x * across),
              Math.round(box.y * down),
              Math.round(box.width * across),
              Math.round(box.height * down),
              Math.round(confidence * 1000) / 1000,
            ]),
          ),
        };
        text = corrected(text, page.corrections);
        await putText(page.id, text);
        noteText(page.id);
      }
      dispatch(textKnown({ pageId: page.id, look: text.look }));
    });
    if (slip) {
      const { followSlips } = await import('./slips');
      await dispatch(followSlips({ ...slip, pageId: page.id, documentId: page.documentId }));
    } else if (text && !known) {
      const { nameUnasked } = await import('./naming');
      await dispatch(nameUnasked(page.id, text));
    }
    return text;
  };
}

/** Follows slips that could not be followed before, which are seldom there: what does it is not worth a place in the first load. */
async function followWaiting(dispatch: AppDispatch): Promise<void> {
  const kept = (await readTexts([named.slips]).catch(() => ({}) as Record<string, string | null>))[named.slips];
  if (!kept || kept === '[]') return;
  const { followSlips } = await import('./slips');
  await dispatch(followSlips());
}

let held = 0;

/** While the camera runs nothing is read: it needs all there is. Ends with what it returns. */
export function holdReading(): () => void {
  held++;
  let over = false;
  return () => {
    if (!over) held--;
    over = true;
  };
}

/** Pages of open documents that are not read yet. */
function unread({ library, session }: RootState): Page[] {
  return Object.values(library.page).filter(
    (page) =>
      isReadable(page) &&
      library.loaded[page.documentId] === 'here' &&
      !library.document[page.documentId]?.deletedAt &&
      session.texts[page.id] !== textLook(page),
  );
}

/** Whether pages are read before anybody asks: as was chosen, else unless the device saves data, since a reader of some megabytes is fetched for it. */
export function readsAhead({ readAhead }: Settings): boolean {
  const { connection } = navigator as { connection?: { saveData?: boolean } };
  return readAhead ?? !connection?.saveData;
}

/** Reads pages behind everything else, one at a time, whenever nothing has changed for a while. */
export function readAhead(store: Store): void {
  const failed = new Map<string, string>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let running = false;
  const next = async (): Promise<void> => {
    if (held) return wait(quietMs);
    if (running) return;
    running = true;
    await followWaiting(store.dispatch).catch(() => {});
    running = false;
    if (!readsAhead(store.getState().library.settings[settingsId]!)) return;
    const page = unread(store.getState()).find((p) => failed.get(p.id) !== textLook(p));
    if (!page) return;
    running = true;
    try {
      await store.dispatch(readText(page));
      // Not there any more, or its photo is not.
      if (store.getState().session.texts[page.id] !== textLook(page)) failed.set(page.id, textLook(page));
    } catch {
      failed.set(page.id, textLook(page));
    } finally {
      running = false;
    }
    wait(200);
  };
  const wait = (ms: number) => {
    clearTimeout(timer);
    timer = setTimeout(() => void next(), ms);
  };
  let before = store.getState().library;
  store.subscribe(() => {
    const { library } = store.getState();
    const changed = library.page !== before.page || library.settings !== before.settings;
    before = library;
    if (!changed) return;
    wait(quietMs);
  });
  wait(quietMs);
}
