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
  /** `base` holds most pages and is written seldom; `recent` those that came since, and which of the base's do not count any more. */
  parts: { key: 'base' | 'recent'; value: Kept & { masked?: string[] } };
  /** Pages whose text has changed since the parts were kept. */
  stale: { key: string; value: 1 };
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
/** With more pages than this beside the base all of it is written anew. */
const mostRecent = 250;
const saveMs = 1500;
const portion = 200;

const entry = (id: string, { documentId, text }: ReadText): Entry => ({ id, documentId, text });
const part = () => ({ index: new MiniSearch<Entry>(options), ids: new Set<string>(), turn: 0 });

/**
 * The words of all pages. They are kept as one large index and a small one of what is new, so that a page that changes costs the writing of the small one. What is kept can be made again from
 * the texts at any time; where it cannot be read or written it is only slower.
 */
export class WordIndex {
  private base = part();
  private recent = part();
  /** Pages of the base that changed or went. */
  private masked = new Set<string>();
  private readonly pending = new Set<string>();
  private baseIsNew = false;
  private opened: Promise<IDBPDatabase<Schema> | null> | undefined;
  private filling: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private saving: Promise<void> = Promise.resolve();

  private db(): Promise<IDBPDatabase<Schema> | null> {
    return (this.opened ??= openDB<Schema>(`libretto-words-${version}`, 1, {
      upgrade(db) {
        db.createObjectStore('parts');
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
    await this.load();
    const db = await this.db();
    const stale = new Set(await db?.getAllKeys('stale').catch(() => []));
    const ids = new Set(await allTextIds());
    const gone = this.ids().filter((id) => !ids.has(id));
    const come = [...ids].filter((id) => stale.has(id) || !this.has(id));
    // All of it at once is no news.
    const toBase = come.length > mostRecent;
    const changed = [...gone, ...come];
    for (let i = 0; i < changed.length; i += portion) {
      await Promise.all(changed.slice(i, i + portion).map((id) => this.take(id, toBase)));
      // Between portions what is asked meanwhile is heard.
      await new Promise((resolve) => setTimeout(resolve));
    }
  }

  private has = (id: string) => this.recent.ids.has(id) || (this.base.ids.has(id) && !this.masked.has(id));
  private ids = () => [...this.recent.ids, ...[...this.base.ids].filter((id) => !this.masked.has(id))];

  private async load(): Promise<void> {
    const db = await this.db();
    const transaction = db?.transaction('parts');
    const [base, recent] = await Promise.all(
      (['base', 'recent'] as const).map((key) => transaction?.store.get(key).catch(() => undefined)),
    );
    this.base = opened(base);
    this.recent = opened(recent);
    // One that is damaged is taken in anew, and what the other says of it with it.
    this.masked = new Set(this.base.ids.size ? recent?.masked : []);
    for (const id of this.masked) if (this.base.index.has(id)) this.base.index.discard(id);
    this.baseIsNew = false;
  }

  /** A page was read anew, or is gone. It is noted at once, so that nothing is missed where this ends before it is kept. */
  async changed(id: string): Promise<void> {
    await (await this.db())?.put('stale', 1, id).catch(() => {});
    // What nobody has asked anything yet is filled at the first question.
    if (!this.filling) return;
    await this.filling;
    await this.take(id);
  }

  private async take(id: string, toBase = false): Promise<void> {
    const text = await getText(id);
    const { base, recent, masked } = this;
    if (recent.ids.delete(id)) recent.index.discard(id);
    if (base.ids.has(id) && !masked.has(id)) {
      base.index.discard(id);
      masked.add(id);
    }
    // The base gives an id that it has let go out anew only once it is written anew.
    const to = toBase && !masked.has(id) ? base : recent;
    if (text) {
      to.index.add(entry(id, text));
      to.ids.add(id);
    }
    if (to === base) this.baseIsNew = true;
    this.pending.add(id);
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.save(), saveMs);
  }

  /** Keeps what has changed. */
  save(): Promise<void> {
    return (this.saving = this.saving.then(async () => {
      if (!this.pending.size) return;
      if (this.recent.ids.size + this.masked.size > mostRecent) await this.merge();
      await this.write().catch(() => {});
    }));
  }

  /** What is new becomes part of the base. */
  private async merge(): Promise<void> {
    for (const id of this.masked) this.base.ids.delete(id);
    this.masked.clear();
    const recent = [...this.recent.ids];
    this.recent = { ...part(), turn: this.recent.turn };
    for (const id of recent) {
      const text = await getText(id);
      if (!text || this.has(id)) continue;
      this.base.index.add(entry(id, text));
      this.base.ids.add(id);
    }
    this.baseIsNew = true;
  }

  private async write(): Promise<void> {
    const db = await this.db();
    if (!db) return;
    const ids = [...this.pending];
    const kept = ({ index, ids: its }: ReturnType<typeof part>, turn: number) => ({
      turn,
      ids: [...its],
      json: JSON.stringify(index),
    });
    const transaction = db.transaction(['parts', 'stale'], 'readwrite', { durability: 'relaxed' });
    const parts = transaction.objectStore('parts');
    // The small part is written with every change of the large one, which is not read for this.
    if (((await parts.get('recent'))?.turn ?? 0) !== this.recent.turn) {
      // Another tab has kept it meanwhile: its state, and what is new here.
      transaction.abort();
      await transaction.done.catch(() => {});
      await this.load();
      for (const id of ids) await this.take(id);
      return;
    }
    const turn = this.recent.turn + 1;
    const { baseIsNew } = this;
    this.pending.clear();
    try {
      await Promise.all([
        ...(baseIsNew ? [parts.put(kept(this.base, turn), 'base')] : []),
        parts.put({ ...kept(this.recent, turn), masked: [...this.masked] }, 'recent'),
        ...ids.map((id) => transaction.objectStore('stale').delete(id)),
        transaction.done,
      ]);
      this.recent.turn = turn;
      if (baseIsNew) this.base.turn = turn;
      this.baseIsNew = false;
    } catch (error) {
      for (const id of ids) this.pending.add(id);
      throw error;
    }
  }

  search(query: string, most: number): SearchResult[] {
    const found = [this.base, this.recent].flatMap(({ index }) => index.search(query));
    return found.sort((a, b) => b.score - a.score).slice(0, most);
  }
}

function opened(kept: Kept | undefined): ReturnType<typeof part> {
  try {
    if (kept) return { index: MiniSearch.loadJSON<Entry>(kept.json, options), ids: new Set(kept.ids), turn: kept.turn };
  } catch {
    // Damaged.
  }
  return { ...part(), turn: kept?.turn ?? 0 };
}
