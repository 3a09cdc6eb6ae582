import { useEffect } from 'react';
import { useSay } from './words/words';

/** The browser's title of a screen. */
export function useTitle(screen: string): void {
  const say = useSay();
  const title = say('app.title', { screen });
  useEffect(() => {
    document.title = title;
  }, [title]);
}
