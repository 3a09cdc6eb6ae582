import { firstSettings, recordSchemas, type RecordKind, type RecordOf } from './records';

type Raw = Record<string, unknown>;

/** The version of each kind of record that this code writes. */
export const recordVersions: Record<RecordKind, number> = {
  photo: 1,
  page: 4,
  document: 1,
  delivery: 2,
  place: 1,
  settings: 2,
  shelf: 1,
};

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

type Corner = readonly [x: number, y: number];
type SharedTouch = Raw & { points: Corner[]; radius: number };

/** A stroke in shares of a page, on its photo: by the projective map of the unit square onto a quadrilateral (Heckbert, "Fundamentals of texture mapping and image warping", 1989, 2.2.3). */
function onPhoto(touch: SharedTouch, [a, b, c, d]: Corner[]): SharedTouch {
  const [px, py] = [a[0] - b[0] + c[0] - d[0], a[1] - b[1] + c[1] - d[1]];
  const [x1, y1, x2, y2] = [b[0] - c[0], b[1] - c[1], d[0] - c[0], d[1] - c[1]];
  const determinant = x1 * y2 - x2 * y1 || 1;
  const g = (px * y2 - x2 * py) / determinant;
  const h = (x1 * py - px * y1) / determinant;
  const at = ([u, v]: Corner): Corner => {
    const w = g * u + h * v + 1;
    const along = (k: 0 | 1) => ((b[k] - a[k] + g * b[k]) * u + (d[k] - a[k] + h * d[k]) * v + a[k]) / w;
    return [along(0), along(1)];
  };
  const side = (p: Corner, q: Corner) => Math.hypot(q[0] - p[0], q[1] - p[1]);
  const longer = Math.max(side(a, b) + side(c, d), side(b, c) + side(d, a)) / 2;
  return { ...touch, points: touch.points.map(at), radius: touch.radius * longer };
}

/** The way forward: `migrations[kind][v]` makes a record of version `v` one of version `v + 1`. Fields that it does not know stay. */
export const migrations: Partial<Record<RecordKind, Record<number, (record: Raw) => Raw>>> = {
  page: {
    /** Checks and problems are codes; their words are made when they are shown. */
    1: ({ problem, checks, ...rest }) => ({
      ...rest,
      checks: Array.isArray(checks) ? checks.map(({ words: _words, ...check }: Raw) => check) : checks,
      ...(problem !== undefined && { problem: asProblem(problem) }),
    }),
    /** Strokes lie on the photo; before, in shares of the page as photographed. */
    2: (record) => {
      const recipe = record.recipe as (Raw & { outline?: { quad?: Corner[] }; touches?: SharedTouch[] }) | null | undefined;
      const quad = recipe?.outline?.quad;
      if (!quad || !recipe.touches) return record;
      return { ...record, recipe: { ...recipe, touches: recipe.touches.map((touch) => onPhoto(touch, quad)) } };
    },
    /** Parts of a page can lie elsewhere on it: nothing to bring forward, but who does not know them must not write them. */
    3: (record) => record,
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
