import * as Comlink from 'comlink';
import MiniSearch from 'minisearch';
import { allTexts, getText, type ReadText } from '../store/files';

/** A page on which what was asked for stands, and the line. */
export interface PageHit {
  documentId: string;
  pageId: string;
  line: string;
}

interface Entry {
  id: string;
  documentId: string;
  text: string;
}

/** A word of so many letters may be misspelt, or misread, in one of five. */
const longWord = 5;
const mostHits = 200;
/** Pages whose line is looked for. */
const mostLines = 40;

const index = new MiniSearch<Entry>({
  fields: ['text'],
  storeFields: ['documentId'],
  processTerm: (term) => term.toLowerCase().normalize('NFKD').replace(/\p{M}/gu, ''),
  searchOptions: {
    combineWith: 'AND',
    prefix: (term) => term.length > 2,
    fuzzy: (term) => (term.length >= longWord && !/\d/.test(term) ? 0.2 : false),
  },
});
let filled: Promise<void> | undefined;

const entry = (id: string, { documentId, text }: ReadText): Entry => ({ id, documentId, text });

/** All texts that are stored, in portions between which questions are answered. */
function fill(): Promise<void> {
  filled ??= (async () => {
    for await (const some of allTexts()) {
      for (const [id, text] of some) if (!index.has(id)) index.add(entry(id, text));
      await new Promise((resolve) => setTimeout(resolve));
    }
  })();
  return filled;
}

const api = {
  /** Pages on which all words stand, the best first; while texts are still being taken in, of those that have been. */
  async search(query: string): Promise<PageHit[]> {
    await fill();
    const found = index.search(query).slice(0, mostHits);
    return Promise.all(
      found.map(async ({ id, documentId, match }, i): Promise<PageHit> => {
        const pageId = String(id);
        const text = i < mostLines ? await getText(pageId) : undefined;
        return { documentId: String(documentId), pageId, line: text ? lineWith(text.text, Object.keys(match)) : '' };
      }),
    );
  },

  /** A page was read, or is gone. */
  async changed(pageId: string): Promise<void> {
    if (!filled) return;
    const text = await getText(pageId);
    if (text && index.has(pageId)) index.replace(entry(pageId, text));
    else if (text) index.add(entry(pageId, text));
    else if (index.has(pageId)) index.discard(pageId);
  },
};

/** The line that holds most of the terms. */
function lineWith(text: string, terms: readonly string[]): string {
  const plain = (line: string) => line.toLowerCase().normalize('NFKD').replace(/\p{M}/gu, '');
  let best = { line: '', count: 0 };
  for (const line of text.split('\n')) {
    const its = plain(line);
    const count = terms.filter((term) => its.includes(term)).length;
    if (count > best.count) best = { line, count };
  }
  return best.line.replace(/\s+/g, ' ').trim().slice(0, 160);
}

export type SearchApi = typeof api;
Comlink.expose(api);
