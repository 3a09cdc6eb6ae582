import * as Comlink from 'comlink';
import type { CountryCode } from 'libphonenumber-js/min';
import { writeCsv, writeWords } from '@libretto/formats/words/index';
import { writeVcard, type ContactValues } from '@libretto/formats/vcard';
import { formatEndings, mediaTypeOf, type WordFormat } from '@libretto/model/lists';
import { plainRows, type TableRows } from '@libretto/model/content';
import { blocksOf, type PlacedPicture } from '@libretto/text/blocks';
import { contactOf, isCard } from '@libretto/text/cards';
import { withTablesJoined } from '@libretto/text/continued';
import type { ContactPart } from '@libretto/text/contact';
import { tablesIn, type PagePlaces, type Table } from '@libretto/text/tables';

// Bundled by scripts/build-text.mjs: what writes office files is heavy and seldom needed.

/** A page's words and rules, mm, and its size; its pictures where the file has room for them. */
export interface WordsPage extends PagePlaces {
  widthMm: number;
  heightMm: number;
  pictures?: readonly PlacedPicture[];
}
export interface Taken {
  tables: Table[];
  /** What a card says; also where the page is none. */
  contact: ContactPart[];
  card: boolean;
}
/** A file, or what is not on the pages that it would hold. */
export interface Written {
  bytes: Uint8Array | null;
  missing?: 'no-text-yet' | 'no-table' | 'no-contact';
}

const contactOn = (page: WordsPage, country: CountryCode) => contactOf(page.lines, country);

const api = {
  /** What can be taken out of a page. */
  take(page: WordsPage, country: CountryCode): Taken {
    const contact = contactOn(page, country);
    return { tables: tablesIn(page).tables, contact, card: isCard(contact, page.widthMm, page.heightMm) };
  },

  /** A file of what was read on pages, or why there can be none. */
  async write(
    format: WordFormat,
    { title, language, pages, id, changed, country }: { title: string; language?: string; pages: readonly WordsPage[]; id: string; changed: number; country: CountryCode }, // prettier-ignore
  ): Promise<Written> {
    if (!pages.some((page) => page.lines.length)) return { bytes: null, missing: 'no-text-yet' };
    if (format === 'contacts') {
      const contacts = pages.map((page) => contactOn(page, country)).filter((parts) => parts.length > 1);
      return contacts.length ? { bytes: encoded(writeVcard(contacts.map(valuesOf))) } : { bytes: null, missing: 'no-contact' };
    }
    const content = {
      title,
      ...(language && { language }),
      pages: withTablesJoined(pages.map((page) => blocksOf(page, page.pictures).blocks)),
    };
    if (format === 'xlsx' && !content.pages.flat().some((block) => block.kind === 'table'))
      return { bytes: null, missing: 'no-table' };
    const ending = formatEndings[format];
    return { bytes: await writeWords(ending as Exclude<typeof ending, 'vcf'>, content, { id: `libretto-${id}`, changed: new Date(changed) }) }; // prettier-ignore
  },

  /** One table, as it was put right. */
  async table(rows: TableRows, as: 'xlsx' | 'csv', language: string): Promise<Blob> {
    const bytes = as === 'csv' ? encoded(writeCsv(plainRows(rows))) : await writeWords('xlsx', { title: '', language, pages: [[{ kind: 'table', rows }]] }, { id: '', changed: new Date() }); // prettier-ignore
    return new Blob([bytes as BlobPart], { type: mediaTypeOf(`x.${as}`) });
  },

  /** Contacts as vCard. */
  vcard: (contacts: readonly ContactValues[]): Blob => new Blob([writeVcard(contacts)], { type: mediaTypeOf('x.vcf') }),
};

const encoded = (text: string) => new TextEncoder().encode(text);

function valuesOf(parts: readonly ContactPart[]): ContactValues {
  const out: Record<string, string[]> = {};
  for (const { field, value } of parts) (out[field] ??= []).push(value);
  return out;
}

export type WordsApi = typeof api;
Comlink.expose(api);
