import { BlobReader, configure, Uint8ArrayWriter, ZipReader } from '@zip.js/zip.js';
import equal from 'fast-deep-equal';
import { readRecord, type Document, type Page, type RecordKind, type RecordOf } from '@libretto/model';
import { backupDocumentSchema, backupIndexSchema, type BackupDocument, type BackupIndex } from '@libretto/model/backup';
import { makeStep, take } from '../store/change';
import { getPhoto, putPhoto } from '../store/files';
import { foldersOf } from '../store/filing';
import { readKeys, recordKeys } from '../store/records';
import { type Op } from '../store/step';
import { keyOf } from '../store/texts';
import type { AppDispatch, Extra, RootState } from '../store/store';
import { sha256Of } from './backup';
import { runJob } from './jobs';
import { WorkProblem } from './problem';

configure({ useWebWorkers: false });

export interface RestoreDone {
  /** New here, changed since by what the backup knew better, and as they were. */
  added: number;
  changed: number;
  same: number;
  /** Names of documents that are not, or not wholly, in the file. */
  missing: string[];
  /** The file ends before its end. */
  cut: boolean;
}

type Entries = Map<string, () => Promise<Blob>>;

/** Entries of a ZIP by its directory; of one that was cut, those before the cut (APPNOTE.TXT, 4.3.7), where they are stored as they are. */
export async function entriesOf(file: Blob): Promise<{ entries: Entries; cut: boolean }> {
  const entries: Entries = new Map();
  try {
    for (const entry of await new ZipReader(new BlobReader(file)).getEntries())
      if (!entry.directory)
        entries.set(
          entry.filename,
          async () => new Blob([(await entry.getData(new Uint8ArrayWriter(), { checkSignature: true })) as BlobPart]),
        );
    return { entries, cut: false };
  } catch {
    for (let at = 0; ;) {
      const head = new DataView(await file.slice(at, at + 30).arrayBuffer());
      if (head.byteLength < 30 || head.getUint32(0, true) !== 0x04034b50) break;
      const [flags, method, size] = [head.getUint16(6, true), head.getUint16(8, true), head.getUint32(18, true)];
      const [nameBytes, extraBytes] = [head.getUint16(26, true), head.getUint16(28, true)];
      const start = at + 30 + nameBytes + extraBytes;
      if (method !== 0 || flags & 8 || size === 0xffffffff || start + size > file.size) break;
      const name = new TextDecoder().decode(await file.slice(at + 30, at + 30 + nameBytes).arrayBuffer());
      entries.set(name, async () => file.slice(start, start + size));
      at = start + size;
    }
    return { entries, cut: true };
  }
}

async function jsonOf(entries: Entries, name: string): Promise<unknown> {
  const entry = entries.get(name);
  if (!entry) return undefined;
  try {
    return JSON.parse(new TextDecoder().decode(await (await entry()).arrayBuffer()));
  } catch {
    return undefined;
  }
}

/** A record as this version knows it, whatever version wrote it. */
function forward<K extends RecordKind>(kind: K, raw: unknown): RecordOf<K> | null {
  const read = readRecord(kind, JSON.stringify(raw));
  return 'record' in read ? read.record : null;
}

function bundleOf(raw: unknown): BackupDocument | null {
  const loose = raw as { document?: unknown; pages?: unknown[]; photos?: { record: unknown }[] } | undefined;
  if (!loose || !Array.isArray(loose.pages) || !Array.isArray(loose.photos)) return null;
  const result = backupDocumentSchema.safeParse({
    ...loose,
    document: forward('document', loose.document),
    pages: loose.pages.map((p) => forward('page', p)),
    photos: loose.photos.map((p) => ({ ...p, record: forward('photo', p.record) })),
  });
  return result.success ? result.data : null;
}

/**
 * Brings a backup in. What is not here is added with its photographs; of what is, the newer one stays, by the time of its last change; pages that are here stay. Each document is one
 * step, which can be undone.
 *
 * @throws WorkProblem where the file is no backup; nothing has changed then.
 */
export function restoreBackup(file: Blob) {
  return (dispatch: AppDispatch, getState: () => RootState, extra: Extra): Promise<RestoreDone | null> =>
    dispatch(
      runJob('restore', null, 1, async ({ signal, tell }) => {
        const { entries, cut } = await entriesOf(file);
        const index = backupIndexSchema.safeParse(await jsonOf(entries, 'libretto.json'));
        if (!index.success) throw new WorkProblem('not-a-backup');
        const done: RestoreDone = { added: 0, changed: 0, same: 0, missing: [], cut };
        await restoreFolders(index.data);
        const { documents } = index.data;
        for (const [i, { id, name }] of documents.entries()) {
          if (signal.aborted) return done;
          tell({ done: i, total: documents.length });
          const bundle = bundleOf(await jsonOf(entries, `documents/${id}.json`));
          const outcome = bundle && bundle.document.id === id ? await restoreDocument(bundle) : null;
          if (!outcome) done.missing.push(name);
          else {
            done[outcome.what]++;
            if (outcome.lost) done.missing.push(name);
          }
        }
        return done;

        async function restoreFolders({ shelf }: BackupIndex): Promise<void> {
          const here = foldersOf(getState());
          const ops = Object.values(shelf.folders).flatMap((folder): Op[] => (here[folder.id] ? [] : [{ op: 'set', kind: 'shelf', id: 'shelf', path: ['folders', folder.id], value: folder }])); // prettier-ignore
          if (!ops.length) return;
          ops.unshift({ op: 'create', kind: 'shelf', record: { v: 1, id: 'shelf', folders: {} } });
          await dispatch(take(makeStep(extra, { label: { code: 'step.restore' }, documentIds: [], ops })));
        }

        async function restoreDocument({ document, pages, photos }: BackupDocument) {
          const here = (await readKeys([keyOf('document', document.id)])).records.get(keyOf('document', document.id)) as Document | undefined; // prettier-ignore
          const herePages = (await readKeys(recordKeys('page', pages.map((p) => p.id)))).records as Map<string, Page>; // prettier-ignore
          const ops: Op[] = [];
          const set = (kind: 'document' | 'page', of: string, field: string, value: unknown) =>
            ops.push({ op: 'set', kind, id: of, path: [field], ...(value !== undefined && { value }) });
          if (!here) {
            // It begins as not there, so that taking the step back makes it so again.
            ops.push({ op: 'create', kind: 'document', record: { ...document, pageIds: [], deletedAt: document.createdAt } });
            set('document', document.id, 'deletedAt', document.deletedAt);
          } else if (document.changedAt > here.changedAt) {
            for (const field of ['name', 'folder', 'tags', 'files', 'format', 'searchable', 'finish'] as const)
              if (!equal(here[field], document[field])) set('document', document.id, field, document[field]);
            for (const page of pages) {
              const known = herePages.get(keyOf('page', page.id));
              if (known && !equal(known.recipe, page.recipe)) set('page', page.id, 'recipe', page.recipe);
            }
          }
          // Those that were deleted here stay so.
          const fresh = pages.filter((p) => !herePages.has(keyOf('page', p.id)));
          let lost = 0;
          const step = makeStep(extra, { label: { code: 'step.restore', values: { name: document.name } }, documentIds: [document.id], ops }); // prettier-ignore
          for (const { record, entry, sha256 } of photos) {
            if (!fresh.some((p) => p.photoId === record.id)) continue;
            if (await getPhoto(record.id).catch(() => undefined)) continue;
            const blob = await entries
              .get(entry)?.()
              .catch(() => undefined);
            if (!blob || (await sha256Of(blob)) !== sha256) continue;
            await putPhoto(record, new Blob([blob], { type: record.type }));
          }
          for (const page of fresh) {
            const photo = photos.find((p) => p.record.id === page.photoId);
            if (!photo || !(await getPhoto(page.photoId).catch(() => undefined))) {
              lost++;
              continue;
            }
            const now = document.createdAt;
            ops.push(
              { op: 'create', kind: 'photo', record: photo.record },
              { op: 'create', kind: 'page', record: { ...page, deletedAt: now } },
            );
            set('page', page.id, 'deletedAt', page.deletedAt);
            const at = document.pageIds.indexOf(page.id);
            if (at >= 0) ops.push({ op: 'place', id: document.id, pages: [page.id], after: document.pageIds[at - 1] ?? null });
          }
          if (ops.length) {
            const taken = await dispatch(take(step));
            if (!taken) return null;
          }
          const what = !here ? 'added' : ops.length ? 'changed' : 'same';
          return { what, lost } as const;
        }
      }),
    );
}
