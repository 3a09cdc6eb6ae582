import { firstSettings, recordSchemas, type RecordKind, type RecordOf } from './records';

type Raw = Record<string, unknown>;

/** The version of each kind of record that this code writes. */
export const recordVersions: Record<RecordKind, number> = { photo: 1, page: 2, document: 1, delivery: 2, place: 1, settings: 2 };

/** Words that version 1 stored, and the codes that they became. */
const oldReasons: Record<string, string> = {
  'Taken back by you': 'cancelled',
  'The server does not answer': 'unreachable',
  'No network': 'offline',
  'The file is no longer in this browser’s storage; send the document again': 'file-gone',
  'The picture is damaged and cannot be read': 'damaged',
  'The picture is too large for this device': 'too-large',
  'The photo is no longer in this browser’s storage': 'photo-gone',
};
const asProblem = (words: unknown) =>
  typeof words === 'string' ? (oldReasons[words] ? { code: oldReasons[words] } : { code: 'said', said: words }) : undefined;

/** The way forward: `migrations[kind][v]` makes a record of version `v` one of version `v + 1`. Fields that it does not know stay. */
export const migrations: Partial<Record<RecordKind, Record<number, (record: Raw) => Raw>>> = {
  page: {
    /** Checks and problems are codes; their words are made when they are shown. */
    1: ({ problem, checks, ...rest }) => ({
      ...rest,
      checks: Array.isArray(checks) ? checks.map(({ words: _words, ...check }: Raw) => check) : checks,
      ...(problem !== undefined && { problem: asProblem(problem) }),
    }),
  },
  delivery: {
    1: ({ reason, ...rest }) => ({ ...rest, ...(reason !== undefined && { reason: asProblem(reason) }) }),
  },
  settings: {
    /** Letter keys can be switched off; how the camera was left may be missing from the first ones. */
    1: (record) => ({
      ...record,
      capture: { ...firstSettings.capture, ...(record.capture as object | undefined) },
      letterKeys: true,
    }),
  },
};

export type ReadRecord<K extends RecordKind> = { record: RecordOf<K> } | { newer: number } | { problem: string };

/**
 * A stored record as this version of the code knows it: brought forward if it is older, with all its fields, those that nobody here knows too. One
 * that a newer version wrote is only said to be newer: whoever does not know it must not write it.
 */
export function readRecord<K extends RecordKind>(kind: K, text: string): ReadRecord<K> {
  let raw: Raw;
  try {
    raw = JSON.parse(text) as Raw;
  } catch (error) {
    return { problem: (error as Error).message };
  }
  if (typeof raw !== 'object' || raw === null || Array.isArray(raw)) return { problem: 'not a record' };
  let v = typeof raw.v === 'number' ? raw.v : 1;
  if (v > recordVersions[kind]) return { newer: v };
  for (; v < recordVersions[kind]; v++) raw = { ...(migrations[kind]?.[v]?.(raw) ?? raw), v: v + 1 };
  const result = recordSchemas[kind].safeParse(raw);
  // The record itself, not what the schema leaves of it.
  if (result.success) return { record: raw as unknown as RecordOf<K> };
  return { problem: result.error.issues.map((i) => `${i.path.join('.')}: ${i.message}`).join('; ') };
}
