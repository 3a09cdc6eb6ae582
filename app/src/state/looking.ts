import type { Check, Outline, Page, Recipe } from '@libretto/model';
import { getPhoto } from '../storage/files';
import { writeRecord } from '../storage/records';
import { priority, wasCancelled } from '../workers/pool';
import { pagePool } from '../workers/pools';
import { newId } from './ids';
import { pageLearned, put } from './library';
import type { AppDispatch, RootState } from './store';

/** Below this confidence an outline is shown with a check instead of being taken for granted. */
export const sureFrom = 0.8;

const underWay = new Set<string>();

/** Looks for the pages in every photo that has not been looked at: after an import, and again after a reload in the middle. */
export function lookAtPages() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const waiting = Object.values(getState().library.page).filter(
      (p) => p.state === 'looking' && !p.deletedAt && !underWay.has(p.id),
    );
    for (const page of waiting) underWay.add(page.id);
    await Promise.all(
      waiting.map(async (page) => {
        try {
          await dispatch(lookAt(page));
        } catch (error) {
          if (!wasCancelled(error)) dispatch(pageLearned({ id: page.id, facts: { state: 'failed', problem: inWords(error) } }));
        } finally {
          underWay.delete(page.id);
        }
      }),
    );
  };
}

function lookAt(page: Page) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const blob = await getPhoto(page.photoId);
    if (!blob) throw new Error('The photo is no longer in this browser’s storage');
    const { width, height, outlines } = await pagePool.run((api) => api.look(page.photoId, blob), priority.look);
    const photo = getState().library.photo[page.photoId];
    if (photo) dispatch(put([{ kind: 'photo', record: { ...photo, width, height } }]));

    const found = readingOrder(
      outlines.map((o): Outline => ({
        v: 1,
        quad: o.quad.map(([x, y]) => [x, y]) as Outline['quad'],
        ...(o.polygon && { polygon: o.polygon.map(([x, y]): [number, number] => [x, y]) }),
        confidence: o.confidence,
        source: 'found',
      })),
    );
    const alone = outlines.every((o) => o.spread) || outlines.length < 2;
    const facts = found.length ? factsOf(found[0]!) : factsOf(wholePhoto(width, height));
    // Further pages of the same photo follow it. They are written before the first one counts as looked at, so that a stop in between
    // at worst looks again.
    const further = found.slice(1).map((outline): Page => ({ ...page, ...factsOf(outline), id: newId(), alone, state: 'ready' }));
    for (const record of further) await writeRecord('page', record.id, record);
    const document = getState().library.document[page.documentId];
    if (further.length && document) {
      const at = document.pageIds.indexOf(page.id) + 1;
      const pageIds = at
        ? [...document.pageIds.slice(0, at), ...further.map((p) => p.id), ...document.pageIds.slice(at)]
        : document.pageIds;
      dispatch(
        put([
          ...further.map((record) => ({ kind: 'page' as const, record })),
          { kind: 'document', record: { ...document, pageIds } },
        ]),
      );
    }
    dispatch(pageLearned({ id: page.id, facts: { ...facts, alone, state: 'ready' } }));
  };
}

function factsOf(outline: Outline): Pick<Page, 'found' | 'recipe' | 'checks'> {
  const recipe: Recipe = { v: 1, outline, turn: 0, filter: 'auto' };
  const checks: Check[] =
    outline.source === 'whole'
      ? [{ id: 'no-page', severity: 'look', words: 'No page found: set the edges' }]
      : outline.confidence < sureFrom
        ? [{ id: 'unsure-outline', severity: 'look', words: 'Edges not sure' }]
        : [];
  return { found: outline, recipe, checks };
}

export function wholePhoto(width: number, height: number): Outline {
  const [r, b] = [width - 0.5, height - 0.5];
  return { v: 1, quad: [[-0.5, -0.5], [r, -0.5], [r, b], [-0.5, b]], confidence: 0, source: 'whole' }; // prettier-ignore
}

/** Pages of one photo as one reads them: by rows, then from the left. */
export function readingOrder(outlines: readonly Outline[]): Outline[] {
  const centre = (o: Outline) => ({
    x: o.quad.reduce((s, p) => s + p[0], 0) / 4,
    y: o.quad.reduce((s, p) => s + p[1], 0) / 4,
    h: Math.max(...o.quad.map((p) => p[1])) - Math.min(...o.quad.map((p) => p[1])),
  });
  return outlines
    .map((o) => ({ o, ...centre(o) }))
    .sort((a, b) => (Math.abs(a.y - b.y) > 0.5 * Math.min(a.h, b.h) ? a.y - b.y : a.x - b.x))
    .map(({ o }) => o);
}

function inWords(error: unknown): string {
  const { name, message } = error as Error;
  if (name === 'InvalidStateError' || /decod/i.test(message)) return 'The picture is damaged and cannot be read';
  if (/alloc|memory/i.test(message)) return 'The picture is too large for this device';
  return message || 'The photo could not be read';
}
