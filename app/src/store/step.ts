import equal from 'fast-deep-equal';
import { applyPatches, enablePatches, produceWithPatches, type Draft, type Patch } from 'immer';
import type { RecordKind, RecordOf } from '@libretto/model';
import { keyOf, type Key } from './texts';

enablePatches();

/**
 * The smallest changes there are. Each says what it is about, not what all the rest looked like, so that it can be applied to whatever is stored
 * when its turn comes, in whichever tab.
 */
export type Op =
  /** A new record; one that is there already stays. */
  | { op: 'create'; kind: RecordKind; record: object }
  /** One field, by its path within the record; without a value it goes. `soft`: what the work behind finds out; undo overwrites it without asking. */
  | { op: 'set'; kind: RecordKind; id: string; path: string[]; value?: unknown; soft?: boolean }
  /** Pages stand in a document after another page, null the first ones, or before one; else, or where that is gone, they are the last ones. */
  | { op: 'place'; id: string; pages: string[]; after?: string | null; before?: string }
  | { op: 'take'; id: string; pages: string[] };

/** What a step is called: a code, and values for its words. */
export interface Label {
  code: string;
  values?: Record<string, string | number>;
}

/** One change to what is stored, of any number of records. With a label it is the user's and can be taken back. */
export interface Step {
  id: string;
  /** The tab that made it. */
  tab: string;
  at: string;
  label?: Label;
  documentIds: string[];
  ops: Op[];
  /** It takes back, or does again, another step. */
  of?: { step: string; state: 'done' | 'undone' };
}

/** A step that was taken: what takes it back, and whether it has been. */
export interface Taken {
  id: string;
  at: string;
  label: Label;
  documentIds: string[];
  ops: Op[];
  inverse: Op[];
  state: 'done' | 'undone';
  changedAt: string;
}

type Records = ReadonlyMap<Key, object | undefined>;
type WithPages = { pageIds: string[] };

/** The records that a step reads. */
export const keysOf = (ops: readonly Op[]): Key[] => [...new Set(ops.map(keyOfOp))];

function keyOfOp(op: Op): Key {
  if (op.op === 'create') return keyOf(op.kind, idOf(op.record));
  return op.op === 'set' ? keyOf(op.kind, op.id) : keyOf('document', op.id);
}

export const idOf = (record: object): string => ('id' in record ? String(record.id) : 'settings');

export interface Applied {
  /** Records as they are afterwards. */
  changed: Map<Key, object>;
  /** What takes it back, in the order in which it is to be applied. */
  inverse: Op[];
  /** What found no record to change. */
  missed: Op[];
}

/** Applies operations to records as they are stored now. */
export function applyOps(records: Records, ops: readonly Op[]): Applied {
  const changed = new Map<Key, object>();
  const inverse: Op[] = [];
  const missed: Op[] = [];
  for (const op of ops) {
    const key = keyOfOp(op);
    const record = changed.get(key) ?? records.get(key);
    if (op.op === 'create') {
      if (!record) changed.set(key, op.record);
      continue;
    }
    if (!record || (op.op === 'set' && !isThere(record, op.path.slice(0, -1)))) {
      missed.push(op);
      continue;
    }
    if (op.op === 'set') {
      const before = valueAt(record, op.path);
      if (equal(before, op.value)) continue;
      const { value: _value, ...rest } = op;
      inverse.unshift({ ...rest, ...(before !== undefined && { value: before }) });
      changed.set(key, withValue(record, op.path, op.value));
      continue;
    }
    const { pageIds } = record as WithPages;
    const next = op.op === 'place' ? placed(pageIds, op.pages, op) : pageIds.filter((id) => !op.pages.includes(id));
    if (equal(next, pageIds)) continue;
    inverse.unshift(...backTo(op.id, pageIds, next));
    changed.set(key, { ...record, pageIds: next });
  }
  return { changed, inverse, missed };
}

function placed(pageIds: readonly string[], pages: readonly string[], { after, before }: Op & { op: 'place' }): string[] {
  const rest = pageIds.filter((id) => !pages.includes(id));
  const behind = after ? rest.indexOf(after) + 1 : 0;
  const at = after === null ? 0 : before && rest.includes(before) ? rest.indexOf(before) : behind || rest.length;
  return [...rest.slice(0, at), ...pages, ...rest.slice(at)];
}

/** What brings pages back to where they stood, by their neighbours, whatever else has changed in between. */
function backTo(id: string, before: readonly string[], now: readonly string[]): Op[] {
  const new_ = now.filter((p) => !before.includes(p));
  const moved = before.filter((p, i) => !now.includes(p) || before[i - 1] !== now[now.indexOf(p) - 1]);
  // Only those that stand elsewhere in relation to the ones before them; each after the one that stood before it.
  const back = inOrder(before, now) ? moved.filter((p) => !now.includes(p)) : moved;
  return [
    ...(new_.length ? [{ op: 'take' as const, id, pages: new_ }] : []),
    ...back.map((page): Op => ({ op: 'place', id, pages: [page], after: before[before.indexOf(page) - 1] ?? null })),
  ];
}

/** Whether what is left of a list still stands in its order. */
const inOrder = (before: readonly string[], now: readonly string[]) =>
  equal(
    before.filter((p) => now.includes(p)),
    now.filter((p) => before.includes(p)),
  );

export function valueAt(record: object, path: readonly string[]): unknown {
  return path.reduce<unknown>((at, name) => (at as Record<string, unknown> | undefined)?.[name], record);
}

const isThere = (record: object, path: readonly string[]) => {
  const at = valueAt(record, path);
  return typeof at === 'object' && at !== null;
};

function withValue(record: object, path: readonly string[], value: unknown): object {
  const patch: Patch = value === undefined ? { op: 'remove', path: [...path] } : { op: 'replace', path: [...path], value };
  return applyPatches(record, [patch]);
}

/**
 * The operations that make a record what `change` makes of it; fields that it does not touch are not named.
 *
 *     edit('page', page, (p) => void (p.recipe!.turn = 90))
 */
export function edit<K extends RecordKind>(
  kind: K,
  record: RecordOf<K>,
  change: (draft: Draft<RecordOf<K>>) => void,
  { soft = false }: { soft?: boolean } = {},
): Op[] {
  const [, patches] = produceWithPatches(record, (draft) => void change(draft as Draft<RecordOf<K>>));
  return patches.map(({ path, value }): Op => {
    // A list is one value: two tabs' changes within it would not make sense together.
    const whole = path.findIndex((name) => typeof name === 'number' || name === 'length');
    if (whole >= 0) throw new Error(`Give the list ${path.slice(0, whole).join('.')} as a whole`);
    return {
      op: 'set',
      kind,
      id: idOf(record),
      path: path.map(String),
      ...(value !== undefined && { value }),
      ...(soft && { soft }),
    };
  });
}

/**
 * What of a step can be taken back (or done again) now: a field that has another value than the step left there was changed by somebody since, and
 * stays.
 */
export function backNow(records: Records, { ops, inverse }: Pick<Taken, 'ops' | 'inverse'>): { ops: Op[]; stay: Op[] } {
  const left = new Map<string, unknown>();
  for (const op of ops) if (op.op === 'set') left.set(fieldOf(op), op.value);
  const stay = inverse.filter((op) => {
    if (op.op !== 'set' || op.soft) return false;
    const record = records.get(keyOfOp(op));
    return !record || (left.has(fieldOf(op)) && !equal(valueAt(record, op.path), left.get(fieldOf(op))));
  });
  return { ops: inverse.filter((op) => !stay.includes(op)), stay };
}

const fieldOf = (op: Op & { op: 'set' }) => JSON.stringify([op.kind, op.id, op.path]);
