import { useEffect, useState } from 'react';
import type { Page } from '@libretto/model';
import type { ReadText } from '../store/files';
import { homeCountry, wordsOnPaper } from './onPaper';
import { priority } from './pool';
import { wordsPool } from './pools';
import type { Taken } from './words.worker';

/** Tables and contacts on a page that was read; null until they have been looked for. */
export function useTaken(page: Page, text: ReadText | null): Taken | null {
  const [held, setHeld] = useState<{ of: ReadText; taken: Taken } | null>(null);
  const { widthMm = 210, heightMm = 297 } = page.made ?? {};
  useEffect(() => {
    if (!text?.lines.length) return;
    const controller = new AbortController();
    wordsPool.run((api) => api.take(wordsOnPaper(text, widthMm, heightMm), homeCountry() as 'GB'), priority.onScreen, controller.signal).then(
      (taken) => setHeld({ of: text, taken }),
      () => {},
    ); // prettier-ignore
    return () => controller.abort();
  }, [text, widthMm, heightMm]);
  return held && held.of === text ? held.taken : null;
}

/** Where they stand, and codes: ten-thousandths of the page. */
export function framesOf(page: Page, text: ReadText | null, taken: Taken | null) {
  const { widthMm = 210, heightMm = 297 } = page.made ?? {};
  const [across, down] = [10_000 / widthMm, 10_000 / heightMm];
  const tables = (taken?.tables ?? []).map(({ box }) => ({ x: box.x * across, y: box.y * down, width: box.width * across, height: box.height * down })); // prettier-ignore
  const codes = (text?.codes ?? []).map(({ box: [x, y, width, height] }) => ({ x, y, width, height }));
  return [...tables, ...codes];
}
