import type { Document, Page } from '@libretto/model';
import { change } from './change';
import { newId } from './ids';
import { openDocument } from './open';
import type { Op } from './step';
import type { AppDispatch, RootState } from './store';

/** Putting pages into order, within a document and from one into another. Every one of these is one step, which either document's *Undo* takes back. */

type Said = { code: string; values?: Record<string, string | number> };
const step = (code: string, documentIds: string[], ops: Op[], say?: Said) =>
  change({ label: { code: `step.${code}` }, documentIds, ops, ...(say && { say }) });

const idsOf = (pages: readonly Page[]) => pages.map((p) => p.id);

/** Pages stand after another one of their document; null: first. */
export function placePages(document: Document, pages: readonly Page[], after: string | null) {
  return step('move', [document.id], [{ op: 'place', id: document.id, pages: idsOf(pages), after }]);
}

/** Some of a document's pages stand in another order, in the places that they have between them. */
export function orderPages(document: Document, order: readonly string[], say?: Said) {
  const places = document.pageIds.flatMap((id, at) => (order.includes(id) ? at : []));
  const next = [...document.pageIds];
  places.forEach((at, i) => (next[at] = order[i]!));
  return step('order', [document.id], [{ op: 'place', id: document.id, pages: next, after: null }], say);
}

/** Where pages go: a document that is there, or a new one. */
export type Target = { id: string; name: string } | { newName: string };

export interface Sent {
  /** The document in which they stand now. */
  id: string;
  /** Nothing is left in the one that they came from, and it is in the bin. */
  emptied: boolean;
}

/** Moves pages to the end of another document, or copies them there. A document that is emptied by it goes to the bin. */
export function sendPages(from: Document, pages: readonly Page[], target: Target, copy = false) {
  return async (dispatch: AppDispatch): Promise<Sent> => {
    const now = new Date().toISOString();
    const ops: Op[] = [];
    const id = 'id' in target ? target.id : newId();
    const name = 'id' in target ? target.name : target.newName;
    if ('newName' in target) ops.push(...bornOps(documentLike(from, id, name, now)));
    let moving = idsOf(pages);
    if (copy) {
      const copies = pages.map((page): Page => ({
        ...page,
        id: newId(),
        documentId: id,
        checks: checksAway(page, pages),
        deletedAt: now,
      }));
      moving = idsOf(copies);
      for (const record of copies) ops.push({ op: 'create', kind: 'page', record }, setOp('page', record.id, 'deletedAt', null));
    } else {
      ops.push({ op: 'take', id: from.id, pages: moving });
      for (const page of pages)
        ops.push(setOp('page', page.id, 'documentId', id), {
          ...setOp('page', page.id, 'checks', checksAway(page, pages)),
          soft: true,
        });
    }
    ops.push({ op: 'place', id, pages: moving });
    const emptied = !copy && from.pageIds.every((p) => moving.includes(p));
    if (emptied) ops.push(setOp('document', from.id, 'deletedAt', now));
    const code = `notice.${copy ? 'copied' : 'moved'}`;
    await dispatch(step(copy ? 'copy' : 'moveTo', [from.id, id], ops, { code, values: { count: pages.length, name } }));
    return { id, emptied };
  };
}

/** All pages of other documents come to the end of one, in the order given; the others go to the bin. */
export function joinDocuments(into: Pick<Document, 'id' | 'name'>, others: readonly string[]) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    await Promise.all(others.map((id) => dispatch(openDocument(id))));
    const { document } = getState().library;
    const now = new Date().toISOString();
    const ops = others.flatMap((id): Op[] => {
      const pages = document[id]?.pageIds ?? [];
      return [
        { op: 'take', id, pages: [...pages] },
        ...pages.map((page) => setOp('page', page, 'documentId', into.id)),
        // Where it began stays in the outline of the file.
        ...pages.slice(0, 1).map((page) => setOp('page', page, 'begins', document[id]!.name)),
        { op: 'place', id: into.id, pages: [...pages] },
        setOp('document', id, 'deletedAt', now),
      ];
    });
    const values = { count: others.length, name: into.name };
    await dispatch(step('joinDocuments', [into.id, ...others], ops, { code: 'notice.joinedDocuments', values }));
  };
}

/** What a cover slip says of the pages behind it. */
export interface SlipSaid {
  /** Empty: as it is. */
  name: string;
  sendsTo: NonNullable<Document['sendsTo']>;
  asks?: Document['slipAsks'];
}

/** A cover slip is left out, and what it says is true of the pages behind it; those before it are another document's. */
export function followSlip(document: Document, slip: Page, said: SlipSaid) {
  return async (dispatch: AppDispatch): Promise<string> => {
    const now = new Date().toISOString();
    const at = document.pageIds.indexOf(slip.id);
    const behind = document.pageIds.slice(at + 1);
    const apart = at > 0;
    const id = apart ? newId() : document.id;
    const name = said.name || (apart ? document.name : '');
    const ops: Op[] = [{ op: 'take', id: document.id, pages: [slip.id] }, setOp('page', slip.id, 'deletedAt', now)];
    if (apart) {
      ops.push(...bornOps(documentLike(document, id, name, now)), { op: 'take', id: document.id, pages: behind });
      for (const page of behind) ops.push(setOp('page', page, 'documentId', id));
      ops.push({ op: 'place', id, pages: behind });
    } else if (name) ops.push(setOp('document', id, 'name', name));
    if (Object.keys(said.sendsTo).length)
      ops.push(setOp('document', id, 'sendsTo', { ...(apart ? {} : document.sendsTo), ...said.sendsTo }));
    if (said.asks) ops.push(setOp('document', id, 'slipAsks', said.asks));
    const values = { name: name || document.name };
    await dispatch(
      step('slip', [...new Set([document.id, id])], ops, { code: apart ? 'notice.slipApart' : 'notice.slip', values }),
    );
    if (apart) await dispatch(openDocument(id));
    return id;
  };
}

const setOp = (kind: 'page' | 'document', id: string, field: string, value: unknown): Op & { op: 'set' } => ({
  op: 'set',
  kind,
  id,
  path: [field],
  value,
});

/** What a step makes is taken back by putting it into the bin. */
const bornOps = (record: Document): Op[] => [
  { op: 'create', kind: 'document', record: { ...record, deletedAt: record.createdAt } },
  setOp('document', record.id, 'deletedAt', null),
];

/** An empty document with what another one's pages are made and filed by. */
function documentLike({ finish, files, folder, tags, demo }: Document, id: string, name: string, now: string): Document {
  return {
    v: 1, id, name, pageIds: [], createdAt: now, changedAt: now, deletedAt: null,
    ...(finish && { finish }), ...(files && { files }), ...(folder && { folder }), ...(tags && { tags }), ...(demo && { demo }),
  }; // prettier-ignore
}

/** A doubt that names a page which stays behind goes. */
const checksAway = (page: Page, along: readonly Page[]) =>
  page.checks.filter((c) => !c.pageId || along.some((p) => p.id === c.pageId));
