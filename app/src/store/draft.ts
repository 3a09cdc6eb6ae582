import { readRecord } from '@libretto/model';
import { kindOf, parsed, type Read } from './records';
import { named, readTexts, writeTexts } from './texts';
import type { Key } from './texts';

/**
 * What this tab has read and written lately, by key. It holds as long as nobody else has written: every write counts the generation up, and whoever
 * has the lock looks at that one key first.
 */
const cache = {
  generation: -1,
  texts: new Map<string, string | null>(),
  records: new Map<string, { text: string; record: object }>(),
};
/** More than this and it begins anew. */
const mostCached = 20_000;

/** Nothing of what was read holds any more. */
export function forgetRead(): void {
  cache.generation = -1;
  cache.texts.clear();
  cache.records.clear();
}

/** What is stored, with changes over it that are not written yet. Only for whoever holds the lock of the records. */
export class Draft {
  private readonly entries = new Map<string, string>();

  private constructor() {}

  static async begin(): Promise<Draft> {
    const generation = parsed<number>((await readTexts([named.generation]))[named.generation], 0);
    if (generation !== cache.generation || cache.texts.size > mostCached) forgetRead();
    cache.generation = generation;
    return new Draft();
  }

  async texts(keys: readonly string[]): Promise<Record<string, string | null>> {
    const missing = keys.filter((key) => !this.entries.has(key) && !cache.texts.has(key));
    if (missing.length) for (const [key, text] of Object.entries(await readTexts(missing))) cache.texts.set(key, text);
    return Object.fromEntries(keys.map((key) => [key, this.entries.get(key) ?? cache.texts.get(key) ?? null]));
  }

  async records(keys: readonly Key[]): Promise<Read> {
    const texts = await this.texts(keys);
    const read: Read = { records: new Map(), newer: new Set(), aside: [] };
    for (const key of keys) {
      const text = texts[key];
      if (text === null || text === undefined) continue;
      const known = cache.records.get(key);
      if (known?.text === text) {
        read.records.set(key, known.record);
        continue;
      }
      const found = readRecord(kindOf(key), text);
      if ('record' in found) {
        read.records.set(key, found.record);
        cache.records.set(key, { text, record: found.record });
      } else if ('newer' in found) read.newer.add(key);
      else read.aside.push({ key, problem: found.problem });
    }
    return read;
  }

  /** Which write this will be, among those of all tabs. */
  get generation(): number {
    return cache.generation + 1;
  }

  put(key: string, text: string): void {
    this.entries.set(key, text);
  }
  putRecord(key: Key, record: object): void {
    const text = JSON.stringify(record);
    cache.records.set(key, { text, record });
    this.entries.set(key, text);
  }

  /** All changes in one transaction, or none. */
  async write(): Promise<void> {
    if (!this.entries.size) return;
    const { generation } = this;
    try {
      await writeTexts({ ...Object.fromEntries(this.entries), [named.generation]: JSON.stringify(generation) });
    } catch (error) {
      forgetRead();
      throw error;
    }
    for (const [key, text] of this.entries) cache.texts.set(key, text);
    cache.generation = generation;
  }
}
