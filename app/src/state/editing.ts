import { filterLabel, moved, type Check, type Document, type Outline, type Page, type Recipe, type Touch } from '@libretto/model';
import { newId } from './ids';
import { documentLearned, edited, put, type Change, type Patch } from './library';
import type { AppDispatch, RootState } from './store';
import { noticed } from './work';

type Turn = Recipe['turn'];

/** Every step of the user's on a document goes through here: it is applied, can be undone, and is stored. */
function step(label: string, documentId: string, patches: Patch[], say?: string) {
  return (dispatch: AppDispatch): void => {
    if (!patches.length) return;
    dispatch(edited({ label, documentId, patches } satisfies Change));
    if (say) dispatch(noticed({ text: say, undo: documentId }));
  };
}

const recipePatch = (page: Page, change: Partial<Recipe>): Patch[] =>
  page.recipe
    ? [{ kind: 'page', id: page.id, before: { recipe: page.recipe }, after: { recipe: { ...page.recipe, ...change } } }]
    : [];

/** @param also other pages whose edges go along, as the gutter's other half does. */
export function setOutline(page: Page, outline: Outline, also: readonly { page: Page; outline: Outline }[] = []) {
  const further = also.flatMap((other) => recipePatch(other.page, { outline: other.outline }));
  const patches = recipePatch(page, { outline }).map((patch) =>
    patch.kind === 'page'
      ? {
          ...patch,
          before: { ...patch.before, checks: page.checks },
          after: {
            ...patch.after,
            checks: page.checks.filter((c) => c.id !== 'unsure-outline' && c.id !== 'no-page' && c.id !== 'cut-off'),
          },
        }
      : patch,
  );
  return step('setting the edges', page.documentId, [...patches, ...further]);
}

/** The user has looked: the outline as it is counts as set. */
export function approveOutline(page: Page) {
  return page.recipe
    ? setOutline(page, {
        ...page.recipe.outline,
        confidence: 1,
        source: page.recipe.outline.source === 'whole' ? 'whole' : 'hand',
      })
    : step('', page.documentId, []);
}

export function turnPages(pages: readonly Page[]) {
  const patches = pages.flatMap((page) => recipePatch(page, { turn: (((page.recipe?.turn ?? 0) + 90) % 360) as Turn }));
  return step('turning', pages[0]?.documentId ?? '', patches);
}

/** Turns a page by what its check says, which settles it. */
export function turnAsSaid(page: Page, check: Check) {
  const turn = (((page.recipe?.turn ?? 0) + (check.value ?? 90)) % 360) as Turn;
  const [patch] = recipePatch(page, { turn });
  if (patch?.kind !== 'page') return step('', page.documentId, []);
  const checks = page.checks.filter((c) => c !== check);
  return step('turning', page.documentId, [
    { ...patch, before: { ...patch.before, checks: page.checks }, after: { ...patch.after, checks } },
  ]);
}

export function mirrorPage(page: Page) {
  return step('mirroring', page.documentId, recipePatch(page, { mirror: !page.recipe?.mirror }));
}

/** Whether fingertips and strips of desk on the margin are filled with paper. */
export function tidyPage(page: Page, tidy: boolean) {
  return step(tidy ? 'tidying the edges' : 'leaving the edges', page.documentId, recipePatch(page, { tidy }));
}

/** One more stroke of filling with paper, or of keeping what is there. */
export function paintPage(page: Page, touch: Touch) {
  const label = touch.kind === 'fill' ? 'filling with paper' : 'keeping as it is';
  return step(label, page.documentId, recipePatch(page, { touches: [...(page.recipe?.touches ?? []), touch] }));
}

/** All strokes go. */
export function unpaintPage(page: Page) {
  if (!page.recipe?.touches) return step('', page.documentId, []);
  const { touches: _gone, ...recipe } = page.recipe;
  return step('taking the strokes away', page.documentId, [
    { kind: 'page', id: page.id, before: { recipe: page.recipe }, after: { recipe } },
  ]);
}

/** The same outline for other pages that were shot alike. */
export function setOutlines(pages: readonly Page[], outline: Outline) {
  const patches = pages.flatMap((page) => recipePatch(page, { outline }));
  return step('the edges of several pages', pages[0]?.documentId ?? '', patches, `Same edges for ${pages.length} more pages`);
}

/** One page becomes two, each with its own outline in the same photo. */
export function splitPage(document: Document, page: Page, [first, second]: readonly [Outline, Outline]) {
  return (dispatch: AppDispatch): void => {
    const now = new Date().toISOString();
    const further: Page = {
      ...page,
      id: newId(),
      recipe: { ...page.recipe!, outline: second },
      checks: [],
      made: null,
      deletedAt: now,
    };
    dispatch(put([{ kind: 'page', record: further }]));
    const at = document.pageIds.indexOf(page.id) + 1;
    const pageIds = [...document.pageIds.slice(0, at), further.id, ...document.pageIds.slice(at)];
    dispatch(
      step(
        'splitting a page',
        document.id,
        [
          { kind: 'document', id: document.id, before: { pageIds: document.pageIds }, after: { pageIds } },
          { kind: 'page', id: further.id, before: { deletedAt: now }, after: { deletedAt: null } },
          ...recipePatch(page, { outline: first }),
        ],
        'Split into two pages',
      ),
    );
  };
}

/** Two pages of one photo become one that reaches over both. */
export function joinPages(document: Document, page: Page, other: Page, outline: Outline) {
  const deletedAt = new Date().toISOString();
  return step(
    'joining two pages',
    document.id,
    [
      ...recipePatch(page, { outline }),
      {
        kind: 'document',
        id: document.id,
        before: { pageIds: document.pageIds },
        after: { pageIds: document.pageIds.filter((id) => id !== other.id) },
      },
      { kind: 'page', id: other.id, before: { deletedAt: null }, after: { deletedAt } },
    ],
    'Kept together as one page',
  );
}

export function setSize(page: Page, size: Recipe['size']) {
  return step('the size', page.documentId, recipePatch(page, { size }));
}

export type Finish = Pick<Recipe, 'filter' | 'adjust'>;

/** Filter and what is turned on it, for one or several pages. */
export function setFinish(pages: readonly Page[], { filter, adjust }: Finish, say?: string) {
  const same = (a: Recipe['adjust'], b: Recipe['adjust']) => JSON.stringify(a ?? {}) === JSON.stringify(b ?? {});
  const patches = pages
    .filter((p) => p.recipe && (p.recipe.filter !== filter || !same(p.recipe.adjust, adjust)))
    .flatMap((page): Patch[] => {
      const { adjust: _before, ...rest } = page.recipe!;
      const recipe: Recipe = { ...rest, filter, ...(adjust && { adjust }) };
      return [{ kind: 'page', id: page.id, before: { recipe: page.recipe }, after: { recipe } }];
    });
  return step('the filter', pages[0]?.documentId ?? '', patches, say);
}

/** One finish for all pages of a document, and for those that will be added to it. */
export function finishAll(document: Document, pages: readonly Page[], finish: Finish) {
  return (dispatch: AppDispatch): void => {
    dispatch(documentLearned({ id: document.id, facts: { finish } }));
    dispatch(setFinish(pages, finish, `${filterLabel(finish.filter)} for all ${pages.length} pages, and for those to come`));
  };
}

/** The user has looked at a check and lets the page be as it is. */
export function settleCheck(page: Page, check: Check) {
  const checks = page.checks.filter((c) => c !== check);
  return step('a check', page.documentId, [{ kind: 'page', id: page.id, before: { checks: page.checks }, after: { checks } }]);
}

export function movePage(document: Document, from: number, to: number) {
  const pageIds = moved(document.pageIds, from, to);
  return step('moving a page', document.id, [
    { kind: 'document', id: document.id, before: { pageIds: document.pageIds }, after: { pageIds } },
  ]);
}

export function deletePages(document: Document, pages: readonly Page[]) {
  const gone = new Set(pages.map((p) => p.id));
  const deletedAt = new Date().toISOString();
  const patches: Patch[] = [
    {
      kind: 'document',
      id: document.id,
      before: { pageIds: document.pageIds },
      after: { pageIds: document.pageIds.filter((id) => !gone.has(id)) },
    },
    ...pages.map((page): Patch => ({ kind: 'page', id: page.id, before: { deletedAt: null }, after: { deletedAt } })),
  ];
  return step('deleting', document.id, patches, pages.length === 1 ? 'Page deleted' : `${pages.length} pages deleted`);
}

/** Of two pages of one sheet the other one goes, and the doubt with it. */
export function takeTwinOut(document: Document, page: Page, check: Check, twin: Page) {
  const deletedAt = new Date().toISOString();
  const pageIds = document.pageIds.filter((id) => id !== twin.id);
  return step(
    'taking a page out',
    document.id,
    [
      { kind: 'document', id: document.id, before: { pageIds: document.pageIds }, after: { pageIds } },
      { kind: 'page', id: twin.id, before: { deletedAt: null }, after: { deletedAt } },
      { kind: 'page', id: page.id, before: { checks: page.checks }, after: { checks: page.checks.filter((c) => c !== check) } },
    ],
    'The other one is taken out',
  );
}

export function renameDocument(document: Document, name: string) {
  const clean = name.replace(/\s+/g, ' ').trim().slice(0, 200);
  if (!clean || clean === document.name) return step('', document.id, []);
  return step('the name', document.id, [
    { kind: 'document', id: document.id, before: { name: document.name }, after: { name: clean } },
  ]);
}

export function deleteDocument(document: Document) {
  return step(
    'deleting the document',
    document.id,
    [{ kind: 'document', id: document.id, before: { deletedAt: null }, after: { deletedAt: new Date().toISOString() } }],
    `“${document.name}” is in the bin`,
  );
}

/** A document's pages in order, those that exist. */
export function pagesOf(state: RootState, document: Document | undefined): Page[] {
  return document?.pageIds.flatMap((id) => state.library.page[id] ?? []) ?? [];
}
