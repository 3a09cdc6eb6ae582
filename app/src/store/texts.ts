import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { shortHash, type RecordKind } from '@libretto/model';
import { withRoom } from './files';

const storage = createAsyncStorage('libretto');

/** `kind:id`, a record's key in storage. */
export type Key = `${RecordKind}:${string}`;
export const keyOf = (kind: RecordKind, id: string): Key => `${kind}:${id}`;

export const drawers = 128;
/** Keys beside those of the records; all of them follow from records, or tell of steps. */
export const named = {
  layout: 'layout',
  /** Counts every write of these keys up. */
  generation: 'generation',
  /** Summaries of documents, in a fixed number of drawers, so that the start reads few keys and a change writes little. */
  drawer: (n: number) => `catalogue:${n}`,
  drawerOf: (documentId: string) => `catalogue:${parseInt(shortHash(documentId).slice(-4), 36) % drawers}`,
  /** Steps that can be taken back, in a ring. */
  step: (n: number) => `step:${n}`,
  ring: 'steps',
  outbox: 'outbox',
  /** Which places the server had when it answered last. */
  places: 'places',
  bin: 'bin',
  /** Cover slips that were read and cannot be followed yet. */
  slips: 'slips',
  aside: (key: string) => `aside:${key}`,
} as const;

/** Texts under keys; null where there is none. */
export const readTexts = (keys: readonly string[]): Promise<Record<string, string | null>> => storage.getMany([...keys]);

/** All of it in one transaction, or nothing. */
export const writeTexts = (entries: Record<string, string>): Promise<void> => withRoom(() => storage.setMany(entries));
export const removeTexts = (keys: readonly string[]): Promise<void> => storage.removeMany([...keys]);
export const allKeys = async (): Promise<string[]> => [...(await storage.getAllKeys())];
