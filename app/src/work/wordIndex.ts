import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import MiniSearch, { type Options, type SearchResult } from 'minisearch';
import { allTextIds, getText, type ReadText } from '../store/files';

interface Entry {
  id: string;
  documentId: string;
  text: string;
}

interface Kept {
  /** Counts up with every write, so that a tab that knows another state does not write over it. */
  turn: number;
  ids: string[];
  json: string;
}

interface Schema extends DBSchema {
  shards: { key: number; value: Kept };
  /** Pages whose text has changed since their shard was kept. */
  stale: { key: string; value: number };
}

/** A word of so many letters may be misspelt, or misread, in one of five. */
const longWord = 5;
const options: Options<Entry> = {
  fields: ['text'],
  storeFields: ['documentId'],
  processTerm: (term) => term.toLowerCase().normalize('NFKD').replace(/\p{M}/gu, ''),
  searchOptions: {
    combineWith: 'AND',
    prefix: (term) => term.length > 2,
    fuzzy: (term) => (term.length >= longWord && !/\d/.test(term) ? 0.2 : false),
  },
};
/** Part of the database's name: an index made another way begins anew. */
const version = 1;
const shardCount = 16;
const saveMs = 1500;
const portion = 200;

const entry = (id: string, { documentId, text }: ReadText): Entry => ({ id, documentId, text });
/** FNV-1a. */
const shardOf = (id: string): number => {
  let hash = 0x811c9dc5;
  for (let i = 0; i < id.length; i++) hash = Math.imul(hash ^ id.charCodeAt(i), 0x01000193) >>> 0;
  return hash % shardCount;
};

/**
 * The words of all pages, kept in shards: a page that changes costs the writing of one of them. What is kept can be made again from the texts at any time; where it cannot be read or written
 * it is only slower.
 */
export class WordIndex {
  private readonly shards = Array.from({ length: shardCount }, () => ({ index: new MiniSearch<Entry>(options), ids: new Set<string>(), turn: 0, pending: new Set<string>() })); // prettier-ignore
  private opened: Promise<IDBPDatabase<Schema> | null> | undefined;
  private filling: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving: Promise<void> = Promise.resolve();

  private db(): Promise<IDBPDatabase<Schema> | null> {
    return (this.opened ??= openDB<Schema>(`libretto-words-${version}`, 1, {
      upgrade(db) {
        db.createObjectStore('shards');
        db.createObjectStore('stale');
      },
      terminated: () => (this.opened = undefined),
    }).catch(() => null));
  }

  /** All texts are in it: first what was kept, then what has come, gone or changed since. */
  filled(): Promise<void> {
    return (this.filling ??= this.fill());
  }

  private async fill(): Promise<void> {
    for (let n = 0; n < shardCount; n++) await this.load(n);
    const stale = new Set(await (await this.db())?.getAllKeys('stale').catch(() => []));
    const ids = new Set(await allTextIds());
    const gone = this.shards.flatMap((shard) => [...shard.ids].filter((id) => !ids.has(id)));
    const come = [...ids].filter((id) => stale.has(id) || !this.shards[shardOf(id)]!.ids.has(id));
    const changed = [...gone, ...come];
    for (let i = 0; i < changed.length; i += portion) {
      await Promise.all(changed.slice(i, i + portion).map((id) => this.take(id)));
      // Between portions what is asked meanwhile is heard.
      await new Promise((resolve) => setTimeout(resolve));
    }
  }

  private async load(n: number): Promise<void> {
    const kept = await (await this.db())?.get('shards', n).catch(() => undefined);
    const shard = this.shards[n]!;
    shard.turn = kept?.turn ?? 0;
    shard.ids = new Set();
    shard.index = new MiniSearch<Entry>(options);
    try {
      if (kept) shard.index = MiniSearch.loadJSON<Entry>(kept.json, options);
      shard.ids = new Set(kept?.ids);
    } catch {
      // Damaged: its pages are taken in anew.
    }
  }

  /** A page was read anew, or is gone. It is noted at once, so that nothing is missed where this ends before the shard is kept. */
  async changed(id: string): Promise<void> {
    await (await this.db())?.put('stale', shardOf(id), id).catch(() => {});
    // What nobody has asked anything yet is filled at the first question.
    if (!this.filling) return;
    await this.filling;
    await this.take(id);
  }

  private async take(id: string): Promise<void> {
    const text = await getText(id);
    const { index, ids, pending } = this.shards[shardOf(id)]!;
    if (index.has(id)) index.discard(id);
    ids.delete(id);
    if (text) {
      index.add(entry(id, text));
      ids.add(id);
    }
    pending.add(id);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), saveMs);
  }

  /** Keeps the shards that have changed. */
  save(): Promise<void> {
    return (this.saving = this.saving.then(async () => {
      for (let n = 0; n < shardCount; n++) if (this.shards[n]!.pending.size) await this.saveShard(n).catch(() => {});
    }));
  }

  private async saveShard(n: number): Promise<void> {
    const db = await this.db();
    const shard = this.shards[n]!;
    if (!db) return;
    const ids = [...shard.pending];
    const transaction = db.transaction(['shards', 'stale'], 'readwrite', { durability: 'relaxed' });
    const kept = await transaction.objectStore('shards').get(n);
    if ((kept?.turn ?? 0) !== shard.turn) {
      // Another tab has kept it meanwhile: its state, and what is new here.
      transaction.abort();
      await transaction.done.catch(() => {});
      await this.load(n);
      for (const id of ids) await this.take(id);
      return;
    }
    const turn = shard.turn + 1;
    const writes = [
      transaction.objectStore('shards').put({ turn, ids: [...shard.ids], json: JSON.stringify(shard.index) }, n),
      ...ids.map((id) => transaction.objectStore('stale').delete(id)),
    ];
    shard.pending.clear();
    try {
      await Promise.all([...writes, transaction.done]);
      shard.turn = turn;
    } catch (error) {
      for (const id of ids) shard.pending.add(id);
      throw error;
    }
  }

  search(query: string, most: number): SearchResult[] {
    const found = this.shards.flatMap(({ index }) => index.search(query));
    return found.sort((a, b) => b.score - a.score).slice(0, most);
  }
}
