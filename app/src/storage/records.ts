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

export async function writeRecord(kind: RecordKind, id: string, record: unknown): Promise<void> {
  await storage.setItem(keyOf(kind, id), JSON.stringify(record));
}

export async function removeRecord(kind: RecordKind, id: string): Promise<void> {
  await storage.removeItem(keyOf(kind, id));
}
