import type { Delivery, Document, Page, Photo } from '@libretto/model';
import { shallowEqual } from 'react-redux';
import { useEffect } from 'react';
import { stepsNow, turnsOf, type Loaded } from './library';
import { openDocument } from './open';
import { useApp, useAppDispatch } from './store';

export interface OpenDocument {
  document: Document | undefined;
  pages: readonly Page[];
  loaded: Loaded;
  /** Pages that a newer version of Libretto has written. */
  newer: readonly string[];
}

const none: readonly string[] = [];

/** A document with its pages, read when it is first asked for; changes only when one of its records does. */
export function useDocument(id: string | null | undefined): OpenDocument {
  const dispatch = useAppDispatch();
  useEffect(() => {
    if (id) void dispatch(openDocument(id));
  }, [dispatch, id]);
  const document = useApp((s) => (id ? s.library.document[id] : undefined));
  const loaded = useApp((s) => (id ? (s.library.loaded[id] ?? 'reading') : 'none'));
  const pages = useApp(
    (s) => document?.pageIds.flatMap((p) => s.library.page[p] ?? []) ?? (none as never),
    shallowEqual,
  ) as Page[];
  const newer = useApp((s) => document?.pageIds.filter((p) => s.library.newer[`page:${p}`]) ?? none, shallowEqual);
  return { document, pages, loaded, newer };
}

export const usePhoto = (id: string | undefined): Photo | undefined => useApp((s) => (id ? s.library.photo[id] : undefined));
export const useDelivery = (id: string): Delivery | undefined => useApp((s) => s.library.delivery[id]);

/** The steps of a document that can be taken back and done again. */
export function useTurns(id: string): { undo: string | undefined; redo: string | undefined } {
  return useApp((s) => {
    const { undo, redo } = turnsOf(stepsNow(s.library), id);
    return { undo: undo?.id, redo: redo?.id };
  }, shallowEqual);
}
