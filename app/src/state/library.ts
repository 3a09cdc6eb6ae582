import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { firstSettings, type Delivery, type Document, type Page, type Photo, type Place, type Settings } from '@libretto/model';
import type { AnyRecord, SetAside } from '../storage/records';

/** What one step changed, so that it can be taken back and done again. Only the named fields are touched. */
export interface Change {
  /** In words, for "Undo …". */
  label: string;
  documentId: string;
  patches: Patch[];
}

export type Patch =
  | { kind: 'page'; id: string; before: Partial<Page>; after: Partial<Page> }
  | { kind: 'document'; id: string; before: Partial<Document>; after: Partial<Document> };

export interface Library {
  /** False until everything stored has been read. */
  open: boolean;
  photo: Record<string, Photo>;
  page: Record<string, Page>;
  document: Record<string, Document>;
  delivery: Record<string, Delivery>;
  place: Record<string, Place>;
  settings: Record<string, Settings>;
  aside: SetAside[];
  past: Change[];
  future: Change[];
}

export const settingsId = 'settings';
const mostSteps = 200;

const initialState: Library = {
  open: false,
  photo: {},
  page: {},
  document: {},
  delivery: {},
  place: {},
  settings: { [settingsId]: firstSettings },
  aside: [],
  past: [],
  future: [],
};

function apply(state: Library, change: Change, side: 'before' | 'after'): void {
  for (const patch of change.patches) {
    const record = state[patch.kind][patch.id];
    if (record) Object.assign(record, patch[side]);
  }
  const document = state.document[change.documentId];
  if (document) document.changedAt = new Date().toISOString();
}

const library = createSlice({
  name: 'library',
  initialState,
  reducers: {
    opened(state, { payload }: PayloadAction<{ records: AnyRecord[]; aside: SetAside[] }>) {
      for (const { kind, record } of payload.records)
        (state[kind] as Record<string, unknown>)['id' in record ? record.id : settingsId] = record;
      state.aside = payload.aside;
      state.open = true;
    },
    /** Adds or replaces records, outside undo. */
    put(state, { payload }: PayloadAction<AnyRecord[]>) {
      for (const { kind, record } of payload)
        (state[kind] as Record<string, unknown>)['id' in record ? record.id : settingsId] = record;
    },
    /** What the work behind a page has found out, outside undo. */
    pageLearned(state, { payload }: PayloadAction<{ id: string; facts: Partial<Page> }>) {
      const page = state.page[payload.id];
      if (page) Object.assign(page, payload.facts);
    },
    documentLearned(state, { payload }: PayloadAction<{ id: string; facts: Partial<Document> }>) {
      const document = state.document[payload.id];
      if (document) Object.assign(document, payload.facts);
    },
    deliveryLearned(state, { payload }: PayloadAction<{ id: string; facts: Partial<Delivery> }>) {
      const delivery = state.delivery[payload.id];
      if (delivery) Object.assign(delivery, payload.facts);
    },
    placesLearned(state, { payload }: PayloadAction<Place[]>) {
      state.place = Object.fromEntries(payload.map((p) => [p.id, p]));
    },
    settingsChanged(state, { payload }: PayloadAction<Partial<Settings>>) {
      Object.assign(state.settings[settingsId]!, payload);
    },
    /** A step of the user's. */
    edited(state, { payload }: PayloadAction<Change>) {
      apply(state, payload, 'after');
      state.past.push(payload);
      if (state.past.length > mostSteps) state.past.shift();
      state.future = [];
    },
    undone(state, { payload: documentId }: PayloadAction<string>) {
      const at = state.past.findLastIndex((c) => c.documentId === documentId);
      if (at < 0) return;
      const [change] = state.past.splice(at, 1);
      apply(state, change!, 'before');
      state.future.push(change!);
    },
    redone(state, { payload: documentId }: PayloadAction<string>) {
      const at = state.future.findLastIndex((c) => c.documentId === documentId);
      if (at < 0) return;
      const [change] = state.future.splice(at, 1);
      apply(state, change!, 'after');
      state.past.push(change!);
    },
    asideRead(state) {
      state.aside = [];
    },
  },
});

export const {
  opened,
  put,
  pageLearned,
  documentLearned,
  deliveryLearned,
  placesLearned,
  settingsChanged,
  edited,
  undone,
  redone,
  asideRead,
} = library.actions;
export const libraryReducer = library.reducer;
