import { useEffect, useState } from 'react';
import { useApp } from '../store/store';
import { WorkerPool } from './pool';
import type { PageHit, SearchApi } from './search.worker';

export interface TextHit extends PageHit {
  query: string;
}

const searchPool = new WorkerPool<SearchApi>(() => new Worker(new URL('./search.worker', window.location.href)), 1, 120_000);
/** A hand that types is quicker than this between two letters, ms. */
const pauseMs = 150;
/** Shorter words stand on every page. */
const leastLetters = 2;

const none: ReadonlyMap<string, TextHit> = new Map();

/** By document, the page on whose text all words of the query stand best. */
export function useTextHits(query: string): ReadonlyMap<string, TextHit> {
  const [found, setFound] = useState<{ query: string; hits: ReadonlyMap<string, TextHit> }>({ query: '', hits: none });
  const asked = query.trim();
  const wanted = asked.length >= leastLetters;
  // What has just been read is found, too.
  const read = useApp((s) => s.session.texts);
  useEffect(() => {
    if (!wanted) return;
    const stop = new AbortController();
    const timer = setTimeout(() => {
      searchPool
        .run((api) => api.search(asked), 0, stop.signal)
        .then(
          (hits) => {
            if (stop.signal.aborted) return;
            const byDocument = new Map<string, TextHit>();
            for (const hit of hits) if (!byDocument.has(hit.documentId)) byDocument.set(hit.documentId, { ...hit, query: asked });
            setFound({ query: asked, hits: byDocument });
          },
          () => {},
        );
    }, pauseMs);
    return () => {
      clearTimeout(timer);
      stop.abort();
    };
  }, [asked, wanted, read]);
  // Those of the former letters stay until the next ones are there.
  return wanted ? found.hits : none;
}

/** A page was read: it can be found from now on. */
export const noteText = (pageId: string): void => void searchPool.run((api) => api.changed(pageId), 0).catch(() => {});
