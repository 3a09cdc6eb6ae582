import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import {
  emptyShelf,
  firstSettings,
  type Delivery,
  type Document,
  type Page,
  type Photo,
  type Place,
  type RecordKind,
  type Settings,
  type ShelfRecord,
  type Summary,
} from '@libretto/model';
import type { Outcome } from './commit';
import { kindOf, type Kept, type Posted, type SetAside } from './records';
import { applyOps, idOf, type Step } from './step';
import { keyOf, type Key } from './texts';

/** Whether a document's pages are here: being read, read, not there, or written by a newer version. */
export type Loaded = 'reading' | 'here' | 'none' | 'newer';

export interface Library {
  /** What the shelf shows, of every document. */
  summary: Record<string, Summary>;
  /** Which documents' records are held; the maps below hold theirs, and those of what was changed. */
  loaded: Record<string, Loaded>;
  photo: Record<string, Photo>;
  page: Record<string, Page>;
  document: Record<string, Document>;
  delivery: Record<string, Delivery>;
  place: Record<string, Place>;
  settings: Record<string, Settings>;
  shelf: Record<string, ShelfRecord>;
  /** All deliveries, the newest first; those that are open are held. */
  outbox: Posted[];
  /** Steps that can be taken back or done again, the oldest first. */
  steps: Kept[];
  /** Steps that are shown already and not stored yet. */
  pending: Step[];
  aside: SetAside[];
  /** Keys of records that a newer version has written. */
  newer: Record<string, true>;
  /** By key, the order of the step that what is shown comes from. */
  orders: Record<string, number>;
}

export const settingsId = 'settings';

const initialState: Library = {
  summary: {},
  loaded: {},
  photo: {},
  page: {},
  document: {},
  delivery: {},
  place: {},
  settings: { [settingsId]: firstSettings },
  shelf: { [emptyShelf.id]: emptyShelf },
  outbox: [],
  steps: [],
  pending: [],
  aside: [],
  newer: {},
  orders: {},
};

type Records = Record<RecordKind, Record<string, object>>;
const keep = (state: Library, key: Key, record: object) => {
  (state as unknown as Records)[kindOf(key)][idOf(record)] = record;
};
const find = (state: Library, key: Key): object | undefined =>
  (state as unknown as Records)[kindOf(key)]?.[key.slice(key.indexOf(':') + 1)];

/** Fields of a document that its summary shows as they are. */
const shownFields = new Set(['name', 'deletedAt', 'folder', 'tags']);

/** Shows a step on the records that are held. */
function show(state: Library, step: Step): void {
  const held: ReadonlyMap<Key, object | undefined> = { get: (key: Key) => find(state, key) } as never;
  for (const [key, record] of applyOps(held, step.ops).changed) keep(state, key, record);
  for (const op of step.ops) {
    const summary = op.op === 'set' && op.kind === 'document' ? state.summary[op.id] : undefined;
    if (summary && op.op === 'set' && shownFields.has(op.path[0]!))
      Object.assign(summary, { [op.path[0]!]: op.value ?? (op.path[0] === 'deletedAt' ? null : undefined) });
  }
}

/** Takes over what has been stored: by this tab (all of it), or by another one (what is held here). */
function take(state: Library, { changed, summaries, taken, outbox, order }: Outcome, own: boolean): void {
  const isNews = (key: string) => {
    if ((state.orders[key] ?? 0) > order) return false;
    state.orders[key] = order;
    return true;
  };
  const born = new Set(
    changed.flatMap(([key, record]) => (own && kindOf(key) === 'document' && !state.summary[idOf(record)] ? [idOf(record)] : [])),
  );
  for (const id of born) state.loaded[id] = 'here';
  for (const [key, record] of changed) {
    const kind = kindOf(key);
    const documentId = kind === 'document' ? idOf(record) : (record as { documentId?: string }).documentId;
    const wanted = kind === 'settings' || kind === 'shelf' || kind === 'place' || kind === 'delivery' || find(state, key);
    if ((wanted || state.loaded[documentId!]) && isNews(key)) keep(state, key, record);
  }
  for (const summary of summaries) if (isNews(`summary:${summary.id}`)) state.summary[summary.id] = summary;
  if (outbox && isNews('outbox')) state.outbox = outbox;
  if (!taken || !isNews(`step:${taken.id}`)) return;
  const at = state.steps.findIndex((s) => s.id === taken.id);
  if (at >= 0) state.steps[at] = taken;
  else state.steps.push(taken);
}

const library = createSlice({
  name: 'library',
  initialState,
  reducers: {
    /** What the start has read. */
    opened(state, { payload }: PayloadAction<Partial<Library>>) {
      Object.assign(state, payload);
    },
    reading(state, { payload: id }: PayloadAction<string>) {
      state.loaded[id] ??= 'reading';
    },
    /** A document's records. */
    held(
      state,
      { payload }: PayloadAction<{ id: string; loaded: Loaded; records: [Key, object][]; newer: Key[]; aside: SetAside[] }>,
    ) {
      for (const [key, record] of payload.records) keep(state, key, record);
      for (const key of payload.newer) state.newer[key] = true;
      state.aside.push(...payload.aside);
      if (payload.id) state.loaded[payload.id] = payload.loaded;
      for (const step of state.pending) show(state, step);
    },
    /** A step is shown at once, before it is stored. */
    begun(state, { payload: step }: PayloadAction<Step>) {
      state.pending.push(step);
      show(state, step);
    },
    /** It is stored: what is stored now is what is shown, under the steps that are still to come. */
    stored(state, { payload }: PayloadAction<Outcome>) {
      state.pending = state.pending.filter((s) => s.id !== payload.step);
      take(state, payload, true);
      for (const step of state.pending) show(state, step);
    },
    /** It could not be stored: what is stored is shown again. */
    withdrawn(state, { payload }: PayloadAction<{ step: string; records: [Key, object][]; gone: Key[]; summaries: Summary[] }>) {
      state.pending = state.pending.filter((s) => s.id !== payload.step);
      for (const [key, record] of payload.records) keep(state, key, record);
      for (const key of payload.gone) delete (state as unknown as Records)[kindOf(key)][key.slice(key.indexOf(':') + 1)];
      for (const summary of payload.summaries) state.summary[summary.id] = summary;
      for (const step of state.pending) show(state, step);
    },
    /** Another tab has changed something. */
    told(state, { payload }: PayloadAction<Outcome>) {
      take(state, payload, false);
      for (const step of state.pending) show(state, step);
    },
    /** What was in the bin for its time is gone. */
    purged(state, { payload }: PayloadAction<{ keys: string[]; documents: string[] }>) {
      for (const key of payload.keys) delete (state as unknown as Records)[kindOf(key)][key.slice(key.indexOf(':') + 1)];
      for (const id of payload.documents) delete state.summary[id];
    },
    placesLearned(state, { payload }: PayloadAction<Place[]>) {
      state.place = Object.fromEntries(payload.map((p) => [p.id, p]));
    },
    asideRead(state) {
      state.aside = [];
    },
  },
});

export const { opened, reading, held, begun, stored, withdrawn, told, purged, placesLearned, asideRead } = library.actions;
export const libraryReducer = library.reducer;

type Turning = Pick<Kept, 'id' | 'at' | 'documentIds' | 'state'>;

/**
 * The user's steps, the oldest first, those that are on their way to the disk among them: a thumb is quicker than a disk, and *Undo* means what was done
 * last.
 */
export function stepsNow({ steps, pending }: Pick<Library, 'steps' | 'pending'>): readonly Turning[] {
  if (!pending.length) return steps;
  const now = new Map<string, Turning>(steps.map((s) => [s.id, s]));
  for (const step of pending) if (step.label) now.set(step.id, { ...step, state: 'done' });
  for (const { of } of pending) if (of && now.has(of.step)) now.set(of.step, { ...now.get(of.step)!, state: of.state });
  return [...now.values()];
}

/** The latest step on a document, or of all, that can be taken back, and the one that can be done again. */
export function turnsOf(
  steps: readonly Turning[],
  documentId?: string,
): { undo: Turning | undefined; redo: Turning | undefined } {
  const own = documentId ? steps.filter((s) => s.documentIds.includes(documentId)) : steps;
  const undo = own.filter((s) => s.state === 'done').sort((a, b) => a.at.localeCompare(b.at)).at(-1); // prettier-ignore
  // A new step ends what could be done again; of those taken back the last one comes first.
  const redo = own.filter((s) => s.state === 'undone' && (!undo || s.at > undo.at)).sort((a, b) => a.at.localeCompare(b.at))[0]; // prettier-ignore
  return { undo, redo };
}

export { keyOf };
