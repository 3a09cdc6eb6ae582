import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import type { Outcome } from './commit';
import { libraryReducer, purged, told } from './library';
import { outdatedBy, sending, sessionReducer } from './session';
import { newTab, openChannel } from './tabs';

/** Which version of the app a tab runs: a newer one in another tab is told. */
export const appVersion = 2;

export type Message =
  | { kind: 'stored'; outcome: Outcome }
  | { kind: 'purged'; keys: string[]; documents: string[] }
  | { kind: 'sent'; id: string; share: number }
  | { kind: 'hello'; version: number };

export interface Extra {
  tab: string;
  say: (message: Message) => void;
  /** Hears every change that was stored, by whichever tab. */
  onStored: (listener: (outcome: Outcome) => void) => () => void;
  tellStored: (outcome: Outcome) => void;
  close: () => void;
}

/** A store for one tab, which hears what the others change. */
export function createStore() {
  const listeners = new Set<(outcome: Outcome) => void>();
  const channel = openChannel((message) => hear(message as Message));
  const extra: Extra = {
    tab: newTab(),
    say: channel.say,
    onStored: (listener) => {
      listeners.add(listener);
      return () => void listeners.delete(listener);
    },
    tellStored: (outcome) => listeners.forEach((listener) => listener(outcome)),
    close: channel.close,
  };
  const store = configureStore({
    reducer: { library: libraryReducer, session: sessionReducer },
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false, thunk: { extraArgument: extra } }),
  });
  const hear = (message: Message) => {
    if (message.kind === 'stored') {
      store.dispatch(told(message.outcome));
      extra.tellStored(message.outcome);
    } else if (message.kind === 'purged') store.dispatch(purged(message));
    else if (message.kind === 'sent') store.dispatch(sending(message));
    else if (message.kind === 'hello' && message.version > appVersion) store.dispatch(outdatedBy());
  };
  channel.say({ kind: 'hello', version: appVersion } satisfies Message);
  return Object.assign(store, { extra });
}

export type Store = ReturnType<typeof createStore>;
export type RootState = ReturnType<Store['getState']>;
export type AppDispatch = Store['dispatch'];

export const store = createStore();
export const useApp = useSelector.withTypes<RootState>();
export const useAppDispatch = useDispatch.withTypes<AppDispatch>();
export const useAppStore = useStore.withTypes<Store>();
