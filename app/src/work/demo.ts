import * as z from 'zod/mini';
import { bringIn } from './importing';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import type { AppDispatch, RootState } from '../store/store';
import { runJob } from './jobs';

const truthSchema = z.object({ photos: z.array(z.object({ file: z.string(), document: z.string(), onShelf: z.boolean() })) });

async function fetchShots(onShelf: boolean, signal?: AbortSignal): Promise<Map<string, File[]>> {
  const options = signal ? { signal } : {};
  const answer = await fetch('/demo/truth.json', options);
  if (!answer.ok) throw new Error('The demo photographs are not on this server');
  const { photos } = truthSchema.parse(await answer.json());
  const documents = new Map<string, File[]>();
  for (const photo of photos.filter((p) => p.onShelf === onShelf)) {
    const blob = await (await fetch(`/demo/${photo.file}`, options)).blob();
    documents.set(photo.document, [
      ...(documents.get(photo.document) ?? []),
      new File([blob], photo.file, { type: 'image/jpeg' }),
    ]);
  }
  return documents;
}

/** Puts part of the demo's office on the shelf (`onShelf`), or brings in the rest as photographs. */
export function bringInDemo(onShelf: boolean) {
  return runJob('demo', null, 1, async ({ signal, tell }, dispatch) => {
    const documents = [...(await fetchShots(onShelf, signal))];
    for (const [i, [name, files]] of documents.entries()) {
      if (signal.aborted) return;
      tell({ done: i, total: documents.length });
      await dispatch(bringIn(files, null, { name, demo: true, signal }));
    }
  });
}

/** At the very first start the shelf is not empty. */
export function offerDemo() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { settings, summary } = getState().library;
    const own = settings[settingsId]!;
    if (own.demoOffered || Object.keys(summary).length) return;
    await dispatch(changeSettings(own, { demoOffered: true }));
    await dispatch(bringInDemo(true)).catch(() => {});
  };
}
