import { useEffect, useState } from 'react';
import type { Page } from '@libretto/model';
import { orderSaid, pageNumberOf, type OrderSaid } from '@libretto/text/pageNumbers';
import { useApp } from '../store/store';
import { textLook, textOfPage } from './reading';

const whole = 10_000;

/** What the printed numbers of a document's pages say of their order, once all of them have been read; null where nothing. */
export function usePageNumbers(pages: readonly Page[]): OrderSaid | null {
  const read = useApp(
    (s) => pages.length > 1 && pages.every((p) => p.state === 'ready' && s.session.texts[p.id] === textLook(p)),
  );
  const key = read ? pages.map((p) => `${p.id} ${textLook(p)}`).join() : '';
  const [held, setHeld] = useState<{ key: string; said: OrderSaid } | null>(null);
  useEffect(() => {
    if (!key) return;
    let live = true;
    void Promise.all(pages.map(textOfPage)).then((texts) => {
      const numbers = texts.map((text) => text && pageNumberOf(text.lines.map((line) => ({ words: line.map(([word, x, y, width, height]) => ({ text: word, box: { x, y, width, height } })) })), whole)); // prettier-ignore
      if (live) setHeld({ key, said: orderSaid(numbers) });
    }, () => {}); // prettier-ignore
    return () => {
      live = false;
    };
    // The key names the pages and all that was read on them.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return held && held.key === key ? held.said : null;
}
