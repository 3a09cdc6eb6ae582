import { createAsyncStorage } from '@react-native-async-storage/async-storage';
import { recordSchemas, type RecordKind, type RecordOf } from '@libretto/model';

const storage = createAsyncStorage('libretto');

/** A record that could not be read: its text is kept under `aside:` for a later version or a person to mend. */
export interface SetAside {
  key: string;
  problem: string;
}

export type AnyRecord = { [K in RecordKind]: { kind: K; record: RecordOf<K> } }[RecordKind];

const keyOf = (kind: RecordKind, id: string) => `${kind}:${id}`;

/** Every record there is. What does not fit its schema is set aside and reported; the rest opens. */
export async function readRecords(): Promise<{ records: AnyRecord[]; aside: SetAside[] }> {
  await finishJournal();
  const keys = await storage.getAllKeys();
  const values = await storage.getMany([...keys]);
  const records: AnyRecord[] = [];
  const aside: SetAside[] = [];
  for (const key of keys) {
    const colon = key.indexOf(':');
    const kind = key.slice(0, colon) as RecordKind;
    const schema = recordSchemas[kind];
    if (!schema) {
      if (kind === ('aside' as string)) aside.push({ key: key.slice(colon + 1), problem: 'set aside earlier' });
      continue;
    }
    const text = values[key] ?? '';
    let problem = '';
    try {
      const result = schema.safeParse(JSON.parse(text));
      if (result.success) records.push({ kind, record: result.data } as AnyRecord);
      else problem = result.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join('; ');
    } catch (error) {
      problem = (error as Error).message;
    }
    if (!problem) continue;
    await storage.setItem(`aside:${key}`, text);
    await storage.removeItem(key);
    aside.push({ key, problem });
  }
  return { records, aside };
}

const journalPrefix = 'libretto-pending:';
let writing: Promise<unknown> = Promise.resolve();

/**
 * Writes a record; writes are done in order. Until it lies in storage its text stands in a journal that is written at once, within this very
 * call, so that a reload in the next moment loses nothing: reading the records finishes what stands there.
 */
export function writeRecord(kind: RecordKind, id: string, record: unknown): Promise<void> {
  return change(keyOf(kind, id), JSON.stringify(record));
}

export function removeRecord(kind: RecordKind, id: string): Promise<void> {
  return change(keyOf(kind, id), null);
}

function change(key: string, text: string | null): Promise<void> {
  const entry = JSON.stringify(text);
  try {
    localStorage.setItem(journalPrefix + key, entry);
  } catch {
    // No room or no such storage: then the write alone has to do.
  }
  const done = writing.then(async () => {
    await (text === null ? storage.removeItem(key) : storage.setItem(key, text));
    // A later change of the same record may stand in the journal by now.
    if (localStorage.getItem(journalPrefix + key) === entry) localStorage.removeItem(journalPrefix + key);
  });
  writing = done.catch(() => {});
  return done;
}

/** Writes what a reload has cut short. */
async function finishJournal(): Promise<void> {
  const entries = Object.keys(localStorage).filter((k) => k.startsWith(journalPrefix));
  for (const entry of entries) {
    const text = JSON.parse(localStorage.getItem(entry)!) as string | null;
    const key = entry.slice(journalPrefix.length);
    await (text === null ? storage.removeItem(key) : storage.setItem(key, text));
    localStorage.removeItem(entry);
  }
}
