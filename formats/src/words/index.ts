import type { Content } from '@libretto/model/content';
import { writeDocx } from './docx';
import { writeEpub, type EpubMeta } from './epub';
import { writeHtml } from './html';
import { writeMarkdown, writeText } from './plain';
import { writeXlsx } from './xlsx';

/** Formats that hold what was read, by the ending of their files. */
export const wordFormats = ['txt', 'md', 'html', 'docx', 'epub', 'xlsx'] as const;
export type WordFormat = (typeof wordFormats)[number];

/** @throws RangeError for a workbook without a table. */
export async function writeWords(format: WordFormat, content: Content, meta: EpubMeta): Promise<Uint8Array> {
  switch (format) {
    case 'docx':
      return writeDocx(content);
    case 'epub':
      return writeEpub(content, meta);
    case 'xlsx':
      return writeXlsx(content);
    default:
      return new TextEncoder().encode((format === 'html' ? writeHtml : format === 'md' ? writeMarkdown : writeText)(content));
  }
}

export { writeCsv } from './plain';
