import { readRecord, type RecordKind, type RecordOf, type Summary } from '@libretto/model';
import type { Taken } from './step';
import { keyOf, named, readTexts, removeTexts, writeTexts, type Key } from './texts';

export type AnyRecord = { [K in RecordKind]: { kind: K; record: RecordOf<K> } }[RecordKind];

/** A record that could not be read: its text is kept under `aside:` for a later version or a person to mend. */
export interface SetAside {
  key: string;
  problem: string;
}

/** A delivery as the outbox lists it. */
export interface Posted {
  id: string;
  /** It has not come to its end. */
  open: boolean;
}

/** Something that was put in the bin, and when: so that nobody has to look for it when its time is over. */
export interface Binned {
  key: Key;
  documentId: string;
  photoId?: string;
  at: string;
}

/** How the records are laid out. Another number, or none: what follows from the records is made anew at the start. */
export const layout = '2';
export const steps = 256;

export type Drawer = Record<string, Summary>;
export interface Ring {
  next: number;
}
/** A step in its place in the ring. */
export type Kept = Taken & { slot: number };

/** The next count of the generation, for whoever writes without a draft. */
export const nextGeneration = async (): Promise<string> =>
  JSON.stringify(parsed<number>((await readTexts([named.generation]))[named.generation], 0) + 1);

/** What follows from records and is damaged counts as not there: it can be made again. */
export function parsed<T>(text: string | null | undefined, otherwise: T): T {
  if (!text) return otherwise;
  try {
    return JSON.parse(text) as T;
  } catch {
    return otherwise;
  }
}

export interface Read {
  records: Map<Key, object>;
  /** Made by a newer version: nobody here writes them. */
  newer: Set<Key>;
  aside: SetAside[];
}

/** Reads records by their keys; those that are damaged are told, with their texts left where they are. */
export async function readKeys(keys: readonly Key[]): Promise<Read> {
  const read: Read = { records: new Map(), newer: new Set(), aside: [] };
  if (!keys.length) return read;
  const texts = await readTexts(keys);
  for (const key of keys) {
    const text = texts[key];
    if (text === null || text === undefined) continue;
    const found = readRecord(kindOf(key), text);
    if ('record' in found) read.records.set(key, found.record);
    else if ('newer' in found) read.newer.add(key);
    else read.aside.push({ key, problem: found.problem });
  }
  return read;
}

export const kindOf = (key: string) => key.slice(0, key.indexOf(':')) as RecordKind;
export const recordKeys = (kind: RecordKind, ids: readonly string[]): Key[] => ids.map((id) => keyOf(kind, id));

/** Puts what cannot be read where nothing stumbles over it, unchanged. */
export async function setAside(found: readonly SetAside[]): Promise<void> {
  if (!found.length) return;
  const texts = await readTexts(found.map((f) => f.key));
  await writeTexts(Object.fromEntries(found.map(({ key }) => [named.aside(key), texts[key] ?? ''])));
  await removeTexts(found.map((f) => f.key));
}
