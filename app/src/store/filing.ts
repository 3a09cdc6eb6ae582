import { canLieIn, emptyShelf, foldersIn, type Document, type Folder, type Summary } from '@libretto/model';
import { change } from './change';
import { newId } from './ids';
import type { Op } from './step';
import type { AppDispatch, RootState } from './store';

/** Folders, tags and the bin: where documents are kept. */

type Said = { code: string; values?: Record<string, string | number> };
type Known = Pick<Document, 'id' | 'name'> & Pick<Summary, 'folder' | 'tags'>;
const step = (code: string, documentIds: string[], ops: Op[], say?: Said) =>
  change({ label: { code: `step.${code}` }, documentIds, ops, ...(say && { say }) });

const documentOp = (
  id: string,
  field: 'folder' | 'tags' | 'heldBack' | 'sendsTo' | 'slipAsks' | 'deletedAt',
  value: unknown,
): Op => ({
  op: 'set',
  kind: 'document',
  id,
  path: [field],
  ...(value !== undefined && { value }),
});
const folderOp = (id: string, path: string[], value: unknown): Op => ({ op: 'set', kind: 'shelf', id: emptyShelf.id, path: ['folders', id, ...path], ...(value !== undefined && { value }) }); // prettier-ignore
const shelfOps = (...ops: Op[]): Op[] => [{ op: 'create', kind: 'shelf', record: emptyShelf }, ...ops];

const clean = (name: string) => name.replace(/\s+/g, ' ').trim().slice(0, 80).trim();
export const foldersOf = ({ library }: Pick<RootState, 'library'>) => library.shelf[emptyShelf.id]!.folders;

/** A name as it is, or with a number where the folder has one of that name already. */
function freeName(folders: Record<string, Folder>, parent: string | null, name: string, own?: string): string {
  const taken = new Set(foldersIn(folders, parent).flatMap((f) => (f.id === own ? [] : f.name.toLowerCase())));
  for (let n = 1; ; n++) {
    const tried = n === 1 ? name : `${name} (${n})`;
    if (!taken.has(tried.toLowerCase())) return tried;
  }
}

/** A new folder; with documents, they are filed in it. */
export function makeFolder(name: string, parent: string | null, documents: readonly Known[] = []) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<string | null> => {
    const wanted = clean(name);
    if (!wanted) return null;
    const record: Folder = { id: newId(), name: freeName(foldersOf(getState()), parent, wanted), parent, createdAt: new Date().toISOString() }; // prettier-ignore
    const ids = documents.map((d) => d.id);
    const ops = shelfOps(folderOp(record.id, [], record), ...ids.map((id) => documentOp(id, 'folder', record.id)));
    const said = ids.length ? { code: 'notice.filed', values: { count: ids.length, name: record.name } } : undefined;
    await dispatch(step('folder', ids, ops, said));
    return record.id;
  };
}

export function renameFolder(folder: Folder, name: string) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const wanted = clean(name);
    if (!wanted || wanted === folder.name) return;
    const free = freeName(foldersOf(getState()), folder.parent, wanted, folder.id);
    await dispatch(step('folderName', [], shelfOps(folderOp(folder.id, ['name'], free))));
  };
}

export function moveFolder(folder: Folder, parent: string | null) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const folders = foldersOf(getState());
    if (folder.parent === parent || !canLieIn(folders, folder.id, parent)) return;
    const name = freeName(folders, parent, folder.name, folder.id);
    await dispatch(
      step('folderMove', [], shelfOps(folderOp(folder.id, ['parent'], parent), folderOp(folder.id, ['name'], name))),
    );
  };
}

/** A folder goes; what lay in it lies one up. */
export function removeFolder(folder: Folder) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { summary } = getState().library;
    const folders = foldersOf(getState());
    const up = folder.parent && folders[folder.parent] ? folder.parent : undefined;
    const ids = Object.values(summary).flatMap((d) => (d.folder === folder.id ? d.id : []));
    await dispatch(
      step(
        'folderRemove',
        ids,
        shelfOps(
          ...ids.map((id) => documentOp(id, 'folder', up)),
          ...foldersIn(folders, folder.id).map((f) => folderOp(f.id, ['parent'], up ?? null)),
          folderOp(folder.id, [], undefined),
        ),
        {
          code: ids.length ? 'notice.folderRemovedUp' : 'notice.folderRemoved',
          values: { name: folder.name, count: ids.length },
        },
      ),
    );
  };
}

/** Where a folder sends by itself what is filed in it; without any place, nowhere. */
export function setFolderSends(folder: Folder, { sendsTo, sendsUnchecked }: Pick<Folder, 'sendsTo' | 'sendsUnchecked'>) {
  const some = sendsTo && Object.keys(sendsTo).length ? sendsTo : undefined;
  return step(
    'folderSends',
    [],
    shelfOps(
      folderOp(folder.id, ['sendsTo'], some),
      folderOp(folder.id, ['sendsUnchecked'], some && sendsUnchecked ? true : undefined),
    ),
  );
}

/** How names are built in a folder; undefined: as in the one that it lies in. */
export function setFolderPattern(id: string, pattern: Folder['namePattern']) {
  return step('folderNames', [], shelfOps(folderOp(id, ['namePattern'], pattern)));
}

/** Whether a document goes where its cover slip may mean. */
export function answerSlip({ id, sendsTo, slipAsks }: Document, yes: boolean) {
  const ops = [documentOp(id, 'slipAsks', undefined)];
  if (yes) ops.push(documentOp(id, 'sendsTo', { ...sendsTo, ...slipAsks?.sendsTo }));
  return step(yes ? 'slipYes' : 'slipNo', [id], ops);
}

/** Documents do not go where their folder or their cover slip sends, or do again. */
export function holdBack(documents: readonly Known[], held: boolean) {
  const ids = documents.map((d) => d.id);
  return step(held ? 'holdBack' : 'letGo', ids, ids.map((id) => documentOp(id, 'heldBack', held || undefined))); // prettier-ignore
}

/** Documents are filed in a folder; null: on the shelf itself. */
export function fileDocuments(documents: readonly Known[], folder: Pick<Folder, 'id' | 'name'> | null) {
  const moving = documents.filter((d) => (d.folder ?? null) !== (folder?.id ?? null));
  const ids = moving.map((d) => d.id);
  const count = ids.length;
  return step(
    'file',
    ids,
    ids.map((id) => documentOp(id, 'folder', folder?.id)),
    folder ? { code: 'notice.filed', values: { count, name: folder.name } } : { code: 'notice.unfiled', values: { count } },
  );
}

/** Tags that some documents get and lose; what else they have they keep. */
export function tagDocuments(
  documents: readonly Known[],
  { add = [], remove = [] }: { add?: readonly string[]; remove?: readonly string[] },
) {
  const adding = add.map(cleanTag).filter(Boolean);
  const ops = documents.flatMap((d): Op[] => {
    const before = d.tags ?? [];
    const has = (list: readonly string[], tag: string) => list.some((t) => t.toLowerCase() === tag.toLowerCase());
    const kept = before.filter((tag) => !has(remove, tag));
    const next = [...kept, ...adding.filter((tag, i) => !has(kept, tag) && !has(adding.slice(0, i), tag))].slice(0, 40);
    return next.join('\n') === before.join('\n') ? [] : [documentOp(d.id, 'tags', next.length ? next : undefined)];
  });
  return step('tag', documents.map((d) => d.id), ops); // prettier-ignore
}

export const cleanTag = (tag: string) => tag.replace(/[\s,#]+/g, ' ').trim().slice(0, 60).trim(); // prettier-ignore

/** All tags in use, those used most first. */
export function tagsInUse(summaries: readonly Summary[]): string[] {
  const count = new Map<string, number>();
  for (const { tags, deletedAt } of summaries)
    if (!deletedAt) for (const tag of tags ?? []) count.set(tag, (count.get(tag) ?? 0) + 1);
  return [...count].sort((a, b) => b[1] - a[1] || a[0].localeCompare(b[0])).map(([tag]) => tag);
}

export function binDocuments(documents: readonly Known[]) {
  const now = new Date().toISOString();
  const ids = documents.map((d) => d.id);
  const said: Said = ids.length === 1 ? { code: 'notice.documentDeleted', values: { name: documents[0]!.name } } : { code: 'notice.documentsDeleted', values: { count: ids.length } }; // prettier-ignore
  return step('deleteDocument', ids, ids.map((id) => documentOp(id, 'deletedAt', now)), said); // prettier-ignore
}

/** Back from the bin; into its folder, if that is still there. */
export function restoreDocuments(documents: readonly Known[]) {
  const ids = documents.map((d) => d.id);
  return step('restore', ids, ids.map((id) => documentOp(id, 'deletedAt', null)), { code: 'notice.restored', values: { count: ids.length } }); // prettier-ignore
}
