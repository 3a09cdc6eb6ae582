import { useEffect, useState } from 'react';
import type { Page } from '@libretto/model';
import type { ReadText } from '../store/files';
import { useApp, useAppDispatch } from '../store/store';
import { readText, textLook, textOfPage } from './reading';

export interface PageTextState {
  text: ReadText | null;
  state: 'reading' | 'here' | 'failed';
  /** Reads it again, in a given language. */
  again: (language: string) => void;
}

/** What stands on a page; read now, if it has not been. Without a page nothing is asked. */
export function usePageText(page: Page | null): PageTextState {
  const dispatch = useAppDispatch();
  const look = page ? textLook(page) : '';
  const known = useApp((s) => page !== null && s.session.texts[page.id] === look);
  const [held, setHeld] = useState<{ look: string; text: ReadText | null; failed: boolean } | null>(null);
  const [language, setLanguage] = useState<{ wanted: string; turn: number } | null>(null);
  useEffect(() => {
    if (!page) return;
    let live = true;
    const show = (text: ReadText | null) => live && setHeld({ look, text, failed: false });
    void (async () => {
      try {
        const kept = language ? null : await textOfPage(page);
        if (kept) return show(kept);
        if (!live) return;
        setHeld(null);
        const read = await dispatch(readText(page, language ? { language: language.wanted as never } : {}));
        // Another tab, or the reading ahead, is at it: it is shown when it is known.
        if (read) show(read);
      } catch {
        if (live) setHeld({ look, text: null, failed: true });
      }
    })();
    return () => {
      live = false;
    };
    // The look names all of the page that decides what is read.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [look, known, language, dispatch]);
  const its = held?.look === look ? held : null;
  return {
    text: its?.text ?? null,
    state: its?.text ? 'here' : its?.failed ? 'failed' : 'reading',
    again: (wanted) => setLanguage({ wanted, turn: (language?.turn ?? 0) + 1 }),
  };
}
