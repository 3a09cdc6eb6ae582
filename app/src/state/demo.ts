import { z } from 'zod';
import { bringIn } from './importing';
import type { AppDispatch, RootState } from './store';
import { settingsChanged } from './library';

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
export function bringInDemo(onShelf: boolean, signal?: AbortSignal) {
  return async (dispatch: AppDispatch): Promise<void> => {
    for (const [name, files] of await fetchShots(onShelf, signal))
      await dispatch(bringIn(files, null, signal, { name, demo: true }));
  };
}

/** At the very first start the shelf is not empty. */
export function offerDemo() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { settings, document } = getState().library;
    if (settings.settings?.demoOffered || Object.keys(document).length) return;
    dispatch(settingsChanged({ demoOffered: true }));
    await dispatch(bringInDemo(true)).catch(() => {});
  };
}
