import { useCallback, useRef, useState } from 'react';
import type { Page } from '@libretto/model';
import { newId } from '../../state/ids';
import { bringIn, keepingProblem } from '../../state/importing';
import { keepPage } from '../../state/keeping';
import { store, useAppDispatch } from '../../state/store';
import { noticed } from '../../state/work';

/** A picture that was taken and is not stored yet. */
export interface Shot {
  key: number;
  /** What the camera showed when the shutter went, small. */
  glimpse: HTMLCanvasElement | null;
  insteadOf?: Page;
}

export interface Run {
  /** Takes the picture that `still` gives; the shutter never waits for it. Resolves with the page once it is safe, or null. */
  take: (still: Promise<Blob>, glimpse: HTMLCanvasElement | null, insteadOf?: Page) => Promise<Page | null>;
  /** Files come in as pages of the run, after what was taken before. */
  add: (files: readonly File[], signal?: AbortSignal) => Promise<void>;
  /** The document that the run's pages go into, once there is one. */
  documentId: string | null;
  shots: readonly Shot[];
  /** What the camera showed for a page of this run, until its finished picture is there. */
  glimpses: ReadonlyMap<string, HTMLCanvasElement>;
}

/** A run of shots into one document. They are stored one after the other behind the next ones, in the order in which they were taken. */
export function useRun(into: string | null): Run {
  const dispatch = useAppDispatch();
  const [documentId, setDocumentId] = useState(into);
  const [shots, setShots] = useState<readonly Shot[]>([]);
  const [glimpses] = useState(() => new Map<string, HTMLCanvasElement>());
  const document = useRef(into);
  const storing = useRef<Promise<unknown>>(Promise.resolve());
  const count = useRef(0);

  const own = useCallback(() => {
    const known = document.current && store.getState().library.document[document.current];
    return known ? document.current : null;
  }, []);
  const belongsTo = useCallback((id: string) => {
    if (id === document.current) return;
    document.current = id;
    setDocumentId(id);
    // A reload comes back to the run. The address alone changes: the router would draw the screen anew between two shots.
    const address = new URL(window.location.href);
    address.searchParams.set('into', id);
    window.history.replaceState(window.history.state, '', address);
  }, []);

  const add = useCallback<Run['add']>(
    (files, signal) => {
      const added = storing.current.then(async () => {
        const id = await dispatch(bringIn(files, own(), signal));
        if (id) belongsTo(id);
      });
      storing.current = added;
      return added;
    },
    [belongsTo, dispatch, own],
  );

  const take = useCallback<Run['take']>(
    (still, glimpse, insteadOf) => {
      const shot: Shot = { key: count.current++, glimpse, ...(insteadOf && { insteadOf }) };
      setShots((all) => [...all, shot]);
      still.catch(() => {});
      const kept = storing.current.then(async () => {
        try {
          const blob = await still;
          const id = own() ?? newId();
          const name = `${new Date().toISOString().slice(0, 19).replace(/[:T]/g, '-')}.jpg`;
          const type = blob.type === 'image/png' || blob.type === 'image/webp' ? blob.type : 'image/jpeg';
          const page = await dispatch(keepPage(id, { blob, name, type }, insteadOf && { insteadOf }));
          if (glimpse) glimpses.set(page.id, glimpse);
          belongsTo(id);
          return page;
        } catch (error) {
          dispatch(noticed({ text: `The picture could not be kept: ${keepingProblem(error)}. Take it again.` }));
          return null;
        } finally {
          setShots((all) => all.filter((s) => s !== shot));
        }
      });
      storing.current = kept;
      return kept;
    },
    [belongsTo, dispatch, glimpses, own],
  );
  return { take, add, documentId, shots, glimpses };
}
