import * as Comlink from 'comlink';
import { getText } from '../store/files';
import { WordIndex } from './wordIndex';

/** A page on which what was asked for stands, and the line. */
export interface PageHit {
  documentId: string;
  pageId: string;
  line: string;
}

const mostHits = 200;
/** Pages whose line is looked for. */
const mostLines = 40;

const index = new WordIndex();

const api = {
  /** Pages on which all words stand, the best first. */
  async search(query: string): Promise<PageHit[]> {
    await index.filled();
    const found = index.search(query, mostHits);
    return Promise.all(
      found.map(async ({ id, documentId, match }, i): Promise<PageHit> => {
        const pageId = String(id);
        const text = i < mostLines ? await getText(pageId) : undefined;
        return { documentId: String(documentId), pageId, line: text ? lineWith(text.text, Object.keys(match)) : '' };
      }),
    );
  },

  /** A page was read, or is gone. */
  changed: (pageId: string) => index.changed(pageId),
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
