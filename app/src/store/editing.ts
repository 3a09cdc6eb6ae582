import {
  moved,
  type Check,
  type Delivery,
  type Document,
  type Mark,
  type Outline,
  type Page,
  type Photo,
  type Recipe,
  type Settings,
  type Touch,
} from '@libretto/model';
import { change } from './change';
import { newId } from './ids';
import { settingsId } from './library';
import { edit, type Op } from './step';
import type { RootState } from './store';

type Turn = Recipe['turn'];
type Said = { code: string; values?: Record<string, string | number> };

/** A step of the user's on a document. */
const step = (code: string, documentId: string, ops: Op[], say?: Said) =>
  change({ label: { code: `step.${code}` }, documentIds: [documentId], ops, ...(say && { say }) });

const nothing = () => change({ documentIds: [], ops: [] });
const ofPages = (pages: readonly Page[]) => pages[0]?.documentId ?? '';

/** One field of the recipe; of a page that has none yet, nothing. */
function recipeOps<K extends keyof Recipe>(page: Page, field: K, value: Recipe[K] | undefined): Op[] {
  if (!page.recipe) return [];
  return [{ op: 'set', kind: 'page', id: page.id, path: ['recipe', field], ...(value !== undefined && { value }) }];
}
const checksOp = (page: Page, checks: readonly Check[]): Op => ({
  op: 'set',
  kind: 'page',
  id: page.id,
  path: ['checks'],
  value: checks,
  soft: true,
});
const deletedOp = (id: string, at: string | null): Op => ({ op: 'set', kind: 'page', id, path: ['deletedAt'], value: at });

/** @param also other pages whose edges go along, as the gutter's other half does. */
export function setOutline(page: Page, outline: Outline, also: readonly { page: Page; outline: Outline }[] = []) {
  if (!page.recipe) return nothing();
  const settled = page.checks.filter((c) => c.id !== 'unsure-outline' && c.id !== 'no-page' && c.id !== 'cut-off');
  return step('edges', page.documentId, [
    ...recipeOps(page, 'outline', outline),
    checksOp(page, settled),
    ...also.flatMap((other) => recipeOps(other.page, 'outline', other.outline)),
  ]);
}

/** The user has looked: the outline as it is counts as set. */
export function approveOutline(page: Page) {
  if (!page.recipe) return nothing();
  const { outline } = page.recipe;
  return setOutline(page, { ...outline, confidence: 1, source: outline.source === 'whole' ? 'whole' : 'hand' });
}

const turnedBy = (page: Page, degrees: number) => (((page.recipe?.turn ?? 0) + degrees) % 360) as Turn;

export function turnPages(pages: readonly Page[]) {
  return step('turn', ofPages(pages), pages.flatMap((page) => recipeOps(page, 'turn', turnedBy(page, 90)))); // prettier-ignore
}

/** Turns a page by what its check says, which settles it. */
export function turnAsSaid(page: Page, check: Check) {
  if (!page.recipe) return nothing();
  const rest = page.checks.filter((c) => c !== check);
  return step('turn', page.documentId, [...recipeOps(page, 'turn', turnedBy(page, check.value ?? 90)), checksOp(page, rest)]);
}

export function mirrorPage(page: Page) {
  return step('mirror', page.documentId, recipeOps(page, 'mirror', !page.recipe?.mirror));
}

/** Whether fingertips and strips of desk on the margin are filled with paper. */
export function tidyPage(page: Page, tidy: boolean) {
  return step('tidy', page.documentId, recipeOps(page, 'tidy', tidy));
}

/** One more stroke of filling with paper, or of keeping what is there. */
export function paintPage(page: Page, touch: Touch) {
  return step('paint', page.documentId, recipeOps(page, 'touches', [...(page.recipe?.touches ?? []), touch]));
}

/** All strokes go. */
export function unpaintPage(page: Page) {
  return page.recipe?.touches ? step('unpaint', page.documentId, recipeOps(page, 'touches', undefined)) : nothing();
}

/** Words put right by hand. */
export function setCorrections(page: Page, corrections: NonNullable<Page['corrections']>) {
  return step('correct', page.documentId, [{ op: 'set', kind: 'page', id: page.id, path: ['corrections'], value: corrections }]);
}

/** Marks as they are to be; `code` says what was done: one put on, changed or taken away. */
export function setMarks(page: Page, marks: readonly Mark[], code: 'mark' | 'markChange' | 'markDelete' = 'mark') {
  return step(code, page.documentId, recipeOps(page, 'marks', marks.length ? [...marks] : undefined));
}

/** The same outline for other pages that were shot alike. */
export function setOutlines(pages: readonly Page[], outline: Outline) {
  const ops = pages.flatMap((page) => recipeOps(page, 'outline', outline));
  return step('edges', ofPages(pages), ops, { code: 'notice.sameEdges', values: { count: pages.length } });
}

/** One page becomes two, each with its own outline in the same photo. */
export function splitPage(document: Document, page: Page, [first, second]: readonly [Outline, Outline]) {
  const now = new Date().toISOString();
  const further: Page = {
    ...page,
    id: newId(),
    recipe: { ...page.recipe!, outline: second },
    checks: [],
    made: null,
    deletedAt: now,
  };
  return step(
    'split',
    document.id,
    [
      { op: 'create', kind: 'page', record: further },
      deletedOp(further.id, null),
      { op: 'place', id: document.id, pages: [further.id], after: page.id },
      ...recipeOps(page, 'outline', first),
    ],
    { code: 'notice.split' },
  );
}

/** Two pages of one photo become one that reaches over both. */
export function joinPages(document: Document, page: Page, other: Page, outline: Outline) {
  return step(
    'join',
    document.id,
    [
      ...recipeOps(page, 'outline', outline),
      { op: 'take', id: document.id, pages: [other.id] },
      deletedOp(other.id, new Date().toISOString()),
    ],
    { code: 'notice.joined' },
  );
}

export function setSize(page: Page, size: Recipe['size']) {
  return step('size', page.documentId, recipeOps(page, 'size', size));
}

export type Finish = Pick<Recipe, 'filter' | 'adjust'>;

function finishOps(pages: readonly Page[], { filter, adjust }: Finish): Op[] {
  const same = (a: Recipe['adjust'], b: Recipe['adjust']) => JSON.stringify(a ?? {}) === JSON.stringify(b ?? {});
  return pages.flatMap((page) =>
    page.recipe && (page.recipe.filter !== filter || !same(page.recipe.adjust, adjust))
      ? [...recipeOps(page, 'filter', filter), ...recipeOps(page, 'adjust', adjust)]
      : [],
  );
}

/** Filter and what is turned on it, for one or several pages. */
export function setFinish(pages: readonly Page[], finish: Finish, say?: Said) {
  return step('finish', ofPages(pages), finishOps(pages, finish), say);
}

/** One finish for all pages of a document, and for those that will be added to it. */
export function finishAll(document: Document, pages: readonly Page[], finish: Finish) {
  return step(
    'finish',
    document.id,
    [{ op: 'set', kind: 'document', id: document.id, path: ['finish'], value: finish }, ...finishOps(pages, finish)],
    { code: 'notice.finishAll', values: { filter: finish.filter, count: pages.length } },
  );
}

/** The user has looked at a check and lets the page be as it is. */
export function settleCheck(page: Page, check: Check) {
  return step('check', page.documentId, [checksOp(page, page.checks.filter((c) => c !== check))]); // prettier-ignore
}

export function movePage(document: Document, from: number, to: number) {
  const id = document.pageIds[from];
  if (id === undefined) return nothing();
  const after = moved(document.pageIds, from, to);
  return step('move', document.id, [{ op: 'place', id: document.id, pages: [id], after: after[after.indexOf(id) - 1] ?? null }]);
}

export function deletePages(document: Document, pages: readonly Page[]) {
  const now = new Date().toISOString();
  const ids = pages.map((p) => p.id);
  return step(
    'delete',
    document.id,
    [{ op: 'take', id: document.id, pages: ids }, ...ids.map((id) => deletedOp(id, now))],
    pages.length === 1
      ? { code: 'notice.pageDeleted', values: { folio: document.pageIds.indexOf(ids[0]!) + 1 } }
      : { code: 'notice.pagesDeleted', values: { count: pages.length } },
  );
}

/** Of two pages of one sheet the other one goes, and with it the check that said so. */
export function takeTwinOut(document: Document, page: Page, check: Check, twin: Page) {
  return step(
    'delete',
    document.id,
    [
      { op: 'take', id: document.id, pages: [twin.id] },
      deletedOp(twin.id, new Date().toISOString()),
      checksOp(page, page.checks.filter((c) => c !== check)),
    ],
    { code: 'notice.twinDeleted' },
  ); // prettier-ignore
}

const nameOp = (id: string, field: 'name' | 'nameRead', value: string): Op => ({ op: 'set', kind: 'document', id, path: [field], value }); // prettier-ignore

export function renameDocument(document: Pick<Document, 'id' | 'name'>, name: string) {
  const clean = name.replace(/\s+/g, ' ').trim().slice(0, 200);
  if (!clean || clean === document.name) return nothing();
  return step('name', document.id, [nameOp(document.id, 'name', clean)]);
}

/** A document gets the name that was read on it, unasked. */
export function nameDocument({ id }: Pick<Document, 'id'>, name: string) {
  return change({ documentIds: [id], ops: [nameOp(id, 'name', name), nameOp(id, 'nameRead', name)] });
}

/** Somebody has said whether the name that was read is right: if not, it is called as it was, which is a step of theirs. */
export function answerName({ id }: Pick<Document, 'id'>, before?: string) {
  const answered = nameOp(id, 'nameRead', '');
  return before ? step('name', id, [nameOp(id, 'name', before), answered]) : change({ documentIds: [id], ops: [answered] });
}

/** Several documents get their names in one step. */
export function renameDocuments(names: readonly { id: string; before: string; name: string }[]) {
  const real = names.filter(({ before, name }) => name.trim() && name !== before);
  return change({
    label: { code: 'step.name' },
    documentIds: real.map((n) => n.id),
    ops: real.map(({ id, name }): Op => ({ op: 'set', kind: 'document', id, path: ['name'], value: name.slice(0, 200) })),
    say: { code: 'notice.renamed', values: { count: real.length } },
  });
}

/** What the printed page numbers say has been seen, and is to be left as it is. */
export function setNumbersSeen(document: Document, seen: string) {
  return change({
    documentIds: [document.id],
    ops: [{ op: 'set', kind: 'document', id: document.id, path: ['numbersSeen'], value: seen }],
  });
}

/** What is chosen of how a document is sent. */
export function setSent<K extends 'files' | 'format' | 'underMb' | 'paper' | 'searchable'>(
  { id }: Pick<Document, 'id'>,
  what: K,
  value: Document[K] | undefined,
) {
  return change({
    documentIds: [id],
    ops: [{ op: 'set', kind: 'document', id, path: [what], ...(value !== undefined && { value }) }],
  });
}

// What the work behind finds out: outside undo. -----------------------------------------------------------------------------------------------------

/** Sets fields to what was found out; one without a value goes. */
const learnt = (kind: 'page' | 'delivery', id: string, facts: object): Op[] =>
  Object.entries(facts).map(([field, value]): Op => ({
    op: 'set',
    kind,
    id,
    path: [field],
    ...(value !== undefined && { value }),
  }));

export function learnPage(page: Page, facts: Partial<Page>) {
  return change({ documentIds: [page.documentId], ops: learnt('page', page.id, facts) });
}

export function learnPhoto(photo: Photo, facts: Partial<Photo>) {
  return change({ documentIds: [photo.documentId], ops: edit('photo', photo, (p) => void Object.assign(p, facts)) });
}

export function learnDelivery(delivery: Delivery, facts: Partial<Delivery>) {
  return change({ documentIds: [delivery.documentId], ops: learnt('delivery', delivery.id, facts) });
}

export function changeSettings(before: Settings, change_: Partial<Settings>) {
  const ops = Object.entries(change_).map(([field, value]): Op => ({
    op: 'set',
    kind: 'settings',
    id: settingsId,
    path: [field],
    value,
  }));
  return change({ documentIds: [], ops: [{ op: 'create', kind: 'settings', record: before }, ...ops] });
}

const none: readonly Page[] = [];

/** A document's pages in order, those that are held. */
export function pagesOf({ library }: Pick<RootState, 'library'>, document: Document | undefined): readonly Page[] {
  return document?.pageIds.flatMap((id) => library.page[id] ?? []) ?? none;
}
