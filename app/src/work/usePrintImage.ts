import { useEffect, useState } from 'react';
import type { Page } from '@libretto/model';
import { pngOf } from './exporting';
import { imageKey, pageImage } from './pageImages';
import { priority } from './pool';

/** Address of a page's picture in all its dots, as it is sent; null until it is there, and without a page. */
export function usePrintImage(page: Page | null): string | null {
  const [shown, setShown] = useState<{ key: string; url: string } | null>(null);
  const key = page?.recipe && page.state === 'ready' ? imageKey(page, 'print') : null;
  useEffect(() => {
    if (!key || !page) return;
    const unwanted = new AbortController();
    void (async () => {
      const { blob } = await pageImage(page, 'print', priority.onScreen, unwanted.signal);
      // No browser shows two-level pages as they go into a file.
      const picture = blob.type === 'image/x-group4' ? await pngOf(page, unwanted.signal) : blob;
      if (!unwanted.signal.aborted) setShown({ key, url: URL.createObjectURL(picture) });
    })().catch(() => {
      // The smaller picture stays.
    });
    return () => unwanted.abort();
    // The key names all of the page that decides its pixels.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => () => void (shown && setTimeout(() => URL.revokeObjectURL(shown.url), 1000)), [shown]);
  return shown?.key === key ? shown.url : null;
}
