import { useState } from 'react';
import { useApp, useAppDispatch } from '../store/store';
import type { BackupDone } from './backup';
import { keepingProblem } from './importing';
import { cancelJob, jobOf } from './jobs';
import { loadBackup } from './loadBackup';
import type { RestoreDone } from './restore';
import { saveBlob } from './saveBlob';

const type = 'application/zip';
type Saved = (fileName: string) => Promise<{ createWritable(): Promise<WritableStream<Uint8Array>> }>;

/** Where the browser lets a person choose a file to write to; it streams there then. */
const choose: Saved | null =
  'showSaveFilePicker' in globalThis
    ? (suggestedName) =>
        (globalThis as unknown as { showSaveFilePicker(o: object): ReturnType<Saved> }).showSaveFilePicker({
          suggestedName,
          types: [{ accept: { [type]: ['.zip'] } }],
        })
    : null;

export type BackupResult =
  | { kind: 'saved'; done: BackupDone }
  | { kind: 'restored'; done: RestoreDone }
  | { kind: 'failed'; problem: ReturnType<typeof keepingProblem> };

/** Saving documents to one file, and bringing them back from one. */
export function useBackup() {
  const dispatch = useAppDispatch();
  const writing = useApp((s) => jobOf(s, 'backup'));
  const reading = useApp((s) => jobOf(s, 'restore'));
  /** How many pages have something covered, while it is asked what is to become of them. */
  const [asked, setAsked] = useState<number | null>(null);
  const [result, setResult] = useState<BackupResult | null>(null);
  const attempt = async (work: () => Promise<BackupResult | null>) => {
    setAsked(null);
    setResult(null);
    try {
      setResult(await work());
    } catch (error) {
      // Put away again by whoever was to choose a file.
      if ((error as Error).name !== 'AbortError') setResult({ kind: 'failed', problem: keepingProblem(error) });
    }
  };
  const write = (ids: readonly string[], fileName: string, options: { covered: boolean; pdfs: boolean }) =>
    attempt(async () => {
      const { blobSink, writeBackup } = await loadBackup();
      const sink = choose ? null : blobSink(type);
      const stream = sink ? sink.stream : await (await choose!(fileName)).createWritable();
      const done = await dispatch(writeBackup(ids, stream, options));
      if (!done) return null;
      if (sink) saveBlob(sink.blob(), fileName);
      return { kind: 'saved', done };
    });
  return {
    writing,
    job: writing ?? reading,
    asked,
    result,
    write,
    /** Asks first where something is covered. */
    begin: async (ids: readonly string[], fileName: string, pdfs: boolean) => {
      const covered = await (await loadBackup()).coveredPages(ids);
      if (covered) setAsked(covered);
      else await write(ids, fileName, { covered: true, pdfs });
    },
    read: (file: File) =>
      attempt(async () => {
        const done = await dispatch((await loadBackup()).restoreBackup(file));
        return done && { kind: 'restored', done };
      }),
    cancelAsking: () => setAsked(null),
    cancel: (id: string) => dispatch(cancelJob(id)),
  };
}
