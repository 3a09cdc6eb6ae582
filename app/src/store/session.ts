import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** Work that takes a while: it is shown wherever its document is, and can be cancelled from there. */
export interface Job {
  id: string;
  kind: 'import' | 'export' | 'demo' | 'backup' | 'restore' | 'free';
  documentId: string | null;
  done: number;
  total: number;
}

/** A word at the bottom of the screen: a code with values, and the step that it speaks of. */
export interface Notice {
  code: string;
  values?: Record<string, string | number>;
  undo?: string;
}

export type StartState = 'opening' | 'ready' | { failed: 'full' | 'blocked' | 'fault'; said: string };

/** What is going on just now; nothing of it is stored. */
export interface Session {
  start: StartState;
  jobs: Record<string, Job>;
  /** Files that could not be brought in, and why. */
  refused: { name: string; code: string; values?: Record<string, string | number> }[];
  /** Share sent of each delivery under way, 0..1. */
  sent: Record<string, number>;
  online: boolean;
  notice: Notice | null;
  /** A newer version of the app is open in another tab. */
  outdated: boolean;
  /** A newer version has been fetched and waits, or another tab has taken it over. */
  newVersion: 'no' | 'waiting' | 'elsewhere';
  /** By page id, the look with which its text is stored; '' where it could not be read. */
  texts: Record<string, string>;
  /** The browser would install the app. */
  installable: boolean;
}

const initialState: Session = {
  start: 'opening',
  jobs: {},
  refused: [],
  sent: {},
  online: true,
  notice: null,
  outdated: false,
  newVersion: 'no',
  texts: {},
  installable: false,
};

const session = createSlice({
  name: 'session',
  initialState,
  reducers: {
    started(state, { payload }: PayloadAction<StartState>) {
      state.start = payload;
    },
    jobChanged(state, { payload }: PayloadAction<Job>) {
      state.jobs[payload.id] = payload;
    },
    jobEnded(state, { payload: id }: PayloadAction<string>) {
      delete state.jobs[id];
    },
    refusedFile(state, { payload }: PayloadAction<Session['refused'][number]>) {
      state.refused.push(payload);
    },
    refusedRead(state) {
      state.refused = [];
    },
    sending(state, { payload }: PayloadAction<{ id: string; share: number }>) {
      state.sent[payload.id] = payload.share;
    },
    onlineChanged(state, { payload }: PayloadAction<boolean>) {
      state.online = payload;
    },
    noticed(state, { payload }: PayloadAction<Notice | null>) {
      state.notice = payload;
    },
    outdatedBy(state) {
      state.outdated = true;
    },
    newVersion(state, { payload }: PayloadAction<Session['newVersion']>) {
      state.newVersion = payload;
    },
    textKnown(state, { payload }: PayloadAction<{ pageId: string; look: string }>) {
      state.texts[payload.pageId] = payload.look;
    },
    installable(state, { payload }: PayloadAction<boolean>) {
      state.installable = payload;
    },
  },
});

export const {
  started,
  jobChanged,
  jobEnded,
  refusedFile,
  refusedRead,
  sending,
  onlineChanged,
  noticed,
  outdatedBy,
  newVersion,
  textKnown,
  installable,
} = session.actions;
export const sessionReducer = session.reducer;
