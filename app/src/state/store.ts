import { configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import type { RecordKind } from '@libretto/model';
import { removeRecord, writeRecord } from '../storage/records';
import { libraryReducer, type Library } from './library';
import { workReducer } from './work';

const kinds: RecordKind[] = ['photo', 'page', 'document', 'delivery', 'place', 'settings'];

const writing = new Set<Promise<unknown>>();
let failed: ((error: Error) => void) | undefined;

/** Resolves when all that was changed so far has been written. */
export function written(): Promise<unknown> {
  return Promise.all(writing);
}

/** Called when the browser refuses to store something. */
export function onWriteFailure(listener: (error: Error) => void): void {
  failed = listener;
}

function persist(before: Library, after: Library): void {
  const changes = kinds.flatMap((kind) => {
    const was = before[kind] as Record<string, object>;
    const is = after[kind] as Record<string, object>;
    if (was === is) return [];
    return [
      ...Object.keys(is).flatMap((id) => (is[id] !== was[id] ? [writeRecord(kind, id, is[id])] : [])),
      ...Object.keys(was).flatMap((id) => (id in is ? [] : [removeRecord(kind, id)])),
    ];
  });
  for (const change of changes) {
    const settled: Promise<unknown> = change.catch((error: Error) => failed?.(error)).finally(() => writing.delete(settled));
    writing.add(settled);
  }
}

export function createStore() {
  const persistence = createListenerMiddleware();
  const store = configureStore({
    reducer: { library: libraryReducer, work: workReducer },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).prepend(persistence.middleware),
  });
  // The one place that writes records: whatever changed in the library goes to storage at once, in order.
  persistence.startListening({
    predicate: (_action, now, before) =>
      (now as RootState).library !== (before as RootState).library && (before as RootState).library.open,
    effect: (_action, api) => persist((api.getOriginalState() as RootState).library, (api.getState() as RootState).library),
  });
  return store;
}

export type Store = ReturnType<typeof createStore>;
export type RootState = ReturnType<Store['getState']>;
export type AppDispatch = Store['dispatch'];

export const store = createStore();
export const useApp = useSelector.withTypes<RootState>();
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
