import type { Finding, Outline as FoundOutline } from '@libretto/core';
import { wholeQuad } from '@libretto/core/raster/raster';
import { bySeverity, checkOf, type Check, type Document, type Outline, type Page, type Recipe } from '@libretto/model';
import { noteLooks, sameAs, sharperBy } from './alike';
import { getPhoto } from '../storage/files';
import { writeRecord } from '../storage/records';
import { priority, wasCancelled } from '../workers/pool';
import { pagePool } from '../workers/pools';
import { newId } from './ids';
import { pageLearned, put } from './library';
import { workRecipe } from './pageImages';
import type { AppDispatch, RootState } from './store';
import { noticed } from './work';

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
    const { width, height, whole, pages: seen } = await pagePool.run((api) => api.look(page.photoId, blob), priority.look);
    const photo = getState().library.photo[page.photoId];
    if (photo) dispatch(put([{ kind: 'photo', record: { ...photo, width, height } }]));

    const outlines = seen.map(({ outline }) => outlineOf(outline));
    const finish = getState().library.document[page.documentId]?.finish;
    const found = readingOrder(outlines);
    const of = (outline: Outline) => seen[outlines.indexOf(outline)]!;
    const alone = seen.every((s) => s.outline.spread) || seen.length < 2;
    const facts = found.length
      ? factsOf(found[0]!, checksOf(of(found[0]!)), finish)
      : factsOf({ ...wholePhoto(width, height), ...(whole && shapeOf(whole)) }, [], finish);
    // Further pages of the same photo follow it. They are written before the first one counts as looked at, so that a stop in between
    // at worst looks again.
    const further = found.slice(1).map((outline): Page => ({
      ...page,
      ...factsOf(outline, checksOf(of(outline)), finish),
      id: newId(),
      alone,
      state: 'ready',
    }));
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
    [page, ...further].forEach((p, i) => found[i] && noteLooks(p.id, of(found[i]!)));
    for (const { id } of [page, ...further]) dispatch(tellSame(id));
  };
}

/** A page that shows the same sheet as another one of its document gets a check that names it. */
function tellSame(id: string) {
  return (dispatch: AppDispatch, getState: () => RootState): void => {
    const { page: pages, document } = getState().library;
    const page = pages[id];
    if (!page || page.deletedAt) return;
    const before = (document[page.documentId]?.pageIds ?? []).filter((other) => other !== id && !pages[other]?.deletedAt);
    const twin = sameAs(id, before);
    if (!twin) return;
    const value = sharperBy(id, twin);
    const check: Check = { ...checkOf({ id: 'same-page', severity: 'look', ...(value && { value }) }), pageId: twin };
    dispatch(pageLearned({ id, facts: { checks: bySeverity([...page.checks, check]) } }));
  };
}

/** The likeliest page round a point that the user says lies on one; null, with a word, where nothing looks like one. */
export function findHere(page: Page, at: readonly [number, number]) {
  return async (dispatch: AppDispatch): Promise<Outline | null> => {
    const blob = await getPhoto(page.photoId);
    if (!blob) return null;
    const found = await pagePool.run((api) => api.findHere(page.photoId, blob, at), priority.onScreen);
    if (!found) dispatch(noticed({ text: 'No edges found round that spot: drag the corners instead' }));
    return found && { ...outlineOf(found), confidence: 1, source: 'hand' };
  };
}

/** By what a page's print becomes level: degrees clockwise by which its outline is turned, or an outline that bends as its lines do; null, with a word, where it is or nothing tells. */
export function straighten(page: Page) {
  return async (dispatch: AppDispatch): Promise<{ degrees: number; bent: Pick<Outline, 'quad' | 'polygon'> | null } | null> => {
    const blob = await getPhoto(page.photoId);
    if (!blob) return null;
    const { degrees, bent } = await pagePool.run(
      (api) => api.straighten(page.photoId, blob, workRecipe(page), page.alone),
      priority.onScreen,
    );
    if (degrees || bent) return { degrees, bent: bent && shapeOf(bent) };
    dispatch(noticed({ text: 'Its lines run level already, or there are none to tell by' }));
    return null;
  };
}

const asStored = (quad: FoundOutline['quad']) => quad.map(([x, y]) => [x, y]) as Outline['quad'];

const shapeOf = ({ quad, polygon }: Pick<FoundOutline, 'quad' | 'polygon'>) => ({
  quad: asStored(quad),
  ...(polygon && { polygon: polygon.map(([x, y]): [number, number] => [x, y]) }),
});

const outlineOf = (found: FoundOutline): Outline => ({
  v: 1,
  ...shapeOf(found),
  confidence: found.confidence,
  source: 'found',
});

/** What depends on where the edges are. */
const ofTheEdges = new Set<Check['id']>(['cut-off', 'low-resolution', 'blank']);

/** Looks again at a page whose edges were set otherwise, for what depends on them. */
export function inspectAgain(page: Page) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const blob = await getPhoto(page.photoId);
    if (!blob || !page.recipe) return;
    try {
      const recipe = workRecipe(page);
      const { findings } = await pagePool.run((api) => api.inspect(page.photoId, blob, recipe, page.alone), priority.look);
      const kept = (getState().library.page[page.id]?.checks ?? []).filter((c) => !ofTheEdges.has(c.id));
      const found = findings.map(checkOf).filter((c) => ofTheEdges.has(c.id));
      dispatch(pageLearned({ id: page.id, facts: { checks: bySeverity([...found, ...kept]) } }));
    } catch (error) {
      if (!wasCancelled(error)) throw error;
    }
  };
}

/** What was found about a page as checks, and whether it may lie on its side: print that is blurred does not tell. */
function checksOf({ findings, outline }: { findings: readonly Finding[]; outline: FoundOutline }): Check[] {
  const blurred = findings.some((f) => f.id === 'blurred');
  const turn: Check[] =
    outline.perhapsTurn && !blurred ? [checkOf({ id: 'sideways', severity: 'look', value: outline.perhapsTurn })] : [];
  return [...findings.map(checkOf), ...turn];
}

function factsOf(
  outline: Outline,
  checks: readonly Check[],
  finish: Document['finish'],
): Pick<Page, 'found' | 'recipe' | 'checks'> {
  const recipe: Recipe = { v: 1, outline, turn: 0, filter: 'auto', ...finish };
  const doubt: Check[] =
    outline.source === 'whole'
      ? [checkOf({ id: 'no-page', severity: 'look' })]
      : outline.confidence < sureFrom
        ? [checkOf({ id: 'unsure-outline', severity: 'look' })]
        : [];
  return { found: outline, recipe, checks: bySeverity([...doubt, ...checks]) };
}

export function wholePhoto(width: number, height: number): Outline {
  return { v: 1, quad: asStored(wholeQuad({ width, height })), confidence: 0, source: 'whole' };
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
