import type { Finding, Outline as FoundOutline } from '@libretto/core';
import { wholeQuad } from '@libretto/core/raster/raster';
import { bySeverity, checkOf, type Check, type Document, type Outline, type Page, type Recipe } from '@libretto/model';
import { noteLooks, sameAs, sharperBy } from './alike';
import { change } from '../store/change';
import type { Outcome } from '../store/commit';
import { learnPage } from '../store/editing';
import { getPhoto } from '../store/files';
import { openDocument } from '../store/open';
import { readKeys } from '../store/records';
import { noticed } from '../store/session';
import { type Op } from '../store/step';
import { keyOf } from '../store/texts';
import type { AppDispatch, RootState } from '../store/store';
import { lockedHere } from '../store/tabs';
import { workRecipe } from './pageImages';
import { priority, wasCancelled } from './pool';
import { pagePool } from './pools';
import { problemOf, WorkProblem } from './problem';

/** Below this confidence an outline is shown with a check instead of being taken for granted. */
export const sureFrom = 0.8;

const underWay = new Map<string, AbortController>();

/** Looks for the pages in every photo that has not been looked at: after an import, and again after a reload in the middle. */
export function lookAtPages(documentIds?: readonly string[]) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { summary } = getState().library;
    const ids = documentIds ?? Object.values(summary).flatMap((s) => (s.looking && !s.deletedAt ? [s.id] : []));
    await Promise.all(
      ids.map(async (id) => {
        await dispatch(openDocument(id));
        const { document, page } = getState().library;
        const waiting = (document[id]?.pageIds ?? []).flatMap((p) =>
          page[p]?.state === 'looking' && !underWay.has(p) ? page[p] : [],
        );
        await Promise.all(waiting.map((p) => dispatch(lookAtPage(p))));
      }),
    );
  };
}

/** Looks at one page; in one tab only. */
export function lookAtPage(page: Page) {
  return async (dispatch: AppDispatch): Promise<void> => {
    if (underWay.has(page.id)) return;
    const stop = new AbortController();
    underWay.set(page.id, stop);
    try {
      await lockedHere(`libretto-look:${page.id}`, () => dispatch(lookAt(page, stop.signal)));
    } catch (error) {
      if (!wasCancelled(error)) await dispatch(learnPage(page, { state: 'failed', problem: problemOf(error) }));
    } finally {
      underWay.delete(page.id);
    }
  };
}

/** What is deleted is not looked at. */
export function cancelLooks({ changed }: Outcome): void {
  for (const [key, record] of changed)
    if (key.startsWith('page:') && (record as Page).deletedAt) underWay.get((record as Page).id)?.abort();
}

function lookAt(before: Page, signal: AbortSignal) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    // Another tab may have looked in the meantime.
    const key = keyOf('page', before.id);
    const page = (await readKeys([key])).records.get(key) as Page | undefined;
    if (page?.state !== 'looking' || page.deletedAt) return;
    const blob = await getPhoto(page.photoId);
    if (!blob) throw new WorkProblem('photo-gone');
    const {
      width,
      height,
      whole,
      pages: seen,
    } = await pagePool.run((api) => api.look(page.photoId, blob), priority.look, signal);

    // They come in reading order.
    const found = seen.map(({ outline }) => outlineOf(outline));
    const finish = getState().library.document[page.documentId]?.finish;
    const of = (outline: Outline) => seen[found.indexOf(outline)]!;
    const alone = seen.every((s) => s.outline.spread) || seen.length < 2;
    const facts = found.length
      ? factsOf(found[0]!, checksOf(of(found[0]!)), finish)
      : factsOf({ ...wholePhoto(width, height), ...(whole && shapeOf(whole)) }, [], finish);
    // Further pages of the same photo follow it. Their ids follow from its own, so that looking twice does not double them.
    const further = found.slice(1).map((outline, i): Page => ({
      ...page,
      ...factsOf(outline, checksOf(of(outline)), finish),
      id: `${page.id.slice(0, 40)}-${i + 2}`,
      alone,
      state: 'ready',
    }));
    const set = (kind: 'page' | 'photo', id: string, fields: object): Op[] =>
      Object.entries(fields).map(([name, value]) => ({ op: 'set', kind, id, path: [name], value }));
    await dispatch(
      change({
        documentIds: [page.documentId],
        ops: [
          ...set('photo', page.photoId, { width, height }),
          ...further.map((record): Op => ({ op: 'create', kind: 'page', record })),
          ...(further.length
            ? [{ op: 'place' as const, id: page.documentId, pages: further.map((p) => p.id), after: page.id }]
            : []),
          ...set('page', page.id, { ...facts, alone, state: 'ready' }),
        ],
      }),
    );
    [page, ...further].forEach((p, i) => found[i] && noteLooks(p.id, of(found[i]!)));
    for (const { id } of [page, ...further]) await dispatch(tellSame(id));
  };
}

/** A page that shows the same sheet as another one of its document gets a check that names it. */
function tellSame(id: string) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { page: pages, document } = getState().library;
    const page = pages[id];
    if (!page || page.deletedAt) return;
    const before = (document[page.documentId]?.pageIds ?? []).filter((other) => other !== id && !pages[other]?.deletedAt);
    const twin = sameAs(id, before);
    if (!twin) return;
    const value = sharperBy(id, twin);
    const check: Check = { ...checkOf({ id: 'same-page', severity: 'look', ...(value && { value }) }), pageId: twin };
    await dispatch(learnPage(page, { checks: bySeverity([...page.checks, check]) }));
  };
}

/** The likeliest page round a point that the user says lies on one; null, with a word, where nothing looks like one. */
export function findHere(page: Page, at: readonly [number, number]) {
  return async (dispatch: AppDispatch): Promise<Outline | null> => {
    const blob = await getPhoto(page.photoId);
    if (!blob) return null;
    const found = await pagePool.run((api) => api.findHere(page.photoId, blob, at), priority.onScreen);
    if (!found) dispatch(noticed({ code: 'notice.noEdgesHere' }));
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
    dispatch(noticed({ code: 'notice.levelAlready' }));
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
      const now = getState().library.page[page.id] ?? page;
      const kept = now.checks.filter((c) => !ofTheEdges.has(c.id));
      const found = findings.map(checkOf).filter((c) => ofTheEdges.has(c.id));
      await dispatch(learnPage(now, { checks: bySeverity([...found, ...kept]) }));
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
