import { strToU8, zipSync, type Zippable } from 'fflate';
import type { Content, Picture } from '@libretto/model/content';
import { blockHtml, xml } from './html';

export interface EpubMeta {
  /** Names the book for good. */
  id: string;
  changed: Date;
}

/** An EPUB 3.2 book (IDPF / W3C, *EPUB Packages 3.2*): a chapter a page of paper, each found by the table of contents. */
export function writeEpub({ title, language = 'und', pages }: Content, { id, changed }: EpubMeta): Uint8Array {
  const modified = changed.toISOString().replace(/\.\d+Z$/, 'Z');
  const chapters = pages.map((blocks, i) => {
    const first = blocks.find((b) => b.kind === 'heading');
    return { file: `page-${i + 1}.xhtml`, name: first?.text ?? String(i + 1), blocks };
  });
  const page = (name: string, body: string, more = '') =>
    `<?xml version="1.0" encoding="UTF-8"?>\n<!DOCTYPE html>\n<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" xml:lang="${xml(language)}" lang="${xml(language)}">\n<head><title>${xml(name)}</title><link rel="stylesheet" type="text/css" href="book.css"/></head>\n<body${more}>\n${body}\n</body>\n</html>\n`;
  const pictures = chapters.flatMap(({ blocks }) => blocks.flatMap((b) => (b.kind === 'picture' ? [b.picture] : [])));
  const fileOf = (picture: Picture) => `picture-${pictures.indexOf(picture) + 1}.jpg`;
  const images = pictures
    .map((picture, i) => `<item id="picture${i + 1}" href="${fileOf(picture)}" media-type="image/jpeg"/>`)
    .join('');
  const items = chapters
    .map(({ file }, i) => `<item id="p${i + 1}" href="${file}" media-type="application/xhtml+xml"/>`)
    .join('');
  const spine = chapters.map((_, i) => `<itemref idref="p${i + 1}"/>`).join('');
  const contents = chapters.map(({ file, name }) => `<li><a href="${file}">${xml(name)}</a></li>`).join('');
  const files: Record<string, string> = {
    'META-INF/container.xml': `<?xml version="1.0" encoding="UTF-8"?>\n<container version="1.0" xmlns="urn:oasis:names:tc:opendocument:xmlns:container"><rootfiles><rootfile full-path="book/book.opf" media-type="application/oebps-package+xml"/></rootfiles></container>\n`,
    'book/book.opf': `<?xml version="1.0" encoding="UTF-8"?>\n<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="${xml(language)}"><metadata xmlns:dc="http://purl.org/dc/elements/1.1/"><dc:identifier id="id">${xml(id)}</dc:identifier><dc:title>${xml(title)}</dc:title><dc:language>${xml(language)}</dc:language><meta property="dcterms:modified">${modified}</meta></metadata><manifest><item id="nav" href="contents.xhtml" media-type="application/xhtml+xml" properties="nav"/><item id="css" href="book.css" media-type="text/css"/>${items}${images}</manifest><spine>${spine}</spine></package>\n`,
    'book/book.css':
      'img{max-width:100%;height:auto}table{border-collapse:collapse}th,td{border:1px solid #888;padding:.2em .5em;text-align:left;vertical-align:top}\n',
    'book/contents.xhtml': page(title, `<nav epub:type="toc" id="toc"><h1>${xml(title)}</h1><ol>${contents}</ol></nav>`),
    ...Object.fromEntries(
      chapters.map(({ file, name, blocks }) => [
        `book/${file}`,
        page(name, blocks.map((b) => blockHtml(b, 0, fileOf)).join('\n') || '<p></p>'),
      ]),
    ),
  };
  // The first entry says what the file is, stored as it is (EPUB OCF 3.2, 4.2.2).
  const zip: Zippable = { mimetype: [strToU8('application/epub+zip'), { level: 0 }] };
  for (const [name, text] of Object.entries(files)) zip[name] = [strToU8(text), { level: 6 }];
  for (const picture of pictures) zip[`book/${fileOf(picture)}`] = [picture.jpeg, { level: 0 }];
  return zipSync(zip, { mtime: changed });
}
