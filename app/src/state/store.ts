import { configureStore, createListenerMiddleware } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import type { RecordKind } from '@libretto/model';
import { removeRecord, writeRecord } from '../storage/records';
import { libraryReducer, type Library } from './library';
import { workReducer } from './work';

const kinds: RecordKind[] = ['photo', 'page', 'document', 'delivery', 'place', 'settings'];

let writing: Promise<unknown> = Promise.resolve();
let failed: ((error: Error) => void) | undefined;

/** Resolves when all that was changed so far has been written. */
export function written(): Promise<unknown> {
  return writing;
}

/** Called when the browser refuses to store something. */
export function onWriteFailure(listener: (error: Error) => void): void {
  failed = listener;
}

function persist(before: Library, after: Library): void {
  for (const kind of kinds) {
    const was = before[kind] as Record<string, object>;
    const is = after[kind] as Record<string, object>;
    if (was === is) continue;
    for (const id of Object.keys(is)) if (is[id] !== was[id]) enqueue(() => writeRecord(kind, id, is[id]));
    for (const id of Object.keys(was)) if (!(id in is)) enqueue(() => removeRecord(kind, id));
  }
}

function enqueue(write: () => Promise<void>): void {
  writing = writing.then(write).catch((error: Error) => failed?.(error));
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
