import { moved, type Document, type FilterId, type Outline, type Page, type Recipe } from '@libretto/model';
import { edited, type Change, type Patch } from './library';
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

export function setOutline(page: Page, outline: Outline) {
  const patches = recipePatch(page, { outline }).map((patch) =>
    patch.kind === 'page'
      ? {
          ...patch,
          before: { ...patch.before, checks: page.checks },
          after: { ...patch.after, checks: page.checks.filter((c) => c.id !== 'unsure-outline' && c.id !== 'no-page') },
        }
      : patch,
  );
  return step('setting the edges', page.documentId, patches);
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

export function setSize(page: Page, size: Recipe['size']) {
  return step('the size', page.documentId, recipePatch(page, { size }));
}

export function setFilter(pages: readonly Page[], filter: FilterId | 'auto', say?: string) {
  const patches = pages.filter((p) => p.recipe?.filter !== filter).flatMap((page) => recipePatch(page, { filter }));
  return step('the filter', pages[0]?.documentId ?? '', patches, say);
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
