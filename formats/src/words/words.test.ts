import { read, utils } from '@e965/xlsx';
import { DOMParser } from '@xmldom/xmldom';
import { strFromU8, unzipSync } from 'fflate';
import mammoth from 'mammoth';
import MarkdownIt from 'markdown-it';
import sharp from 'sharp';
import type { Content } from '@libretto/model/content';
import { writeWords } from './index';
import { writeCsv } from './plain';

const content: Content = {
  title: 'Survey & more',
  language: 'de',
  pages: [
    [
      { kind: 'heading', level: 1, text: 'Hull <survey>' },
      { kind: 'paragraph', text: 'Plain text, *not* emphasised\n# nor a heading\tNo 4' },
      { kind: 'list', ordered: true, items: ['Close the cock', 'Open the tap'] },
      {
        kind: 'table',
        rows: [
          [{ text: 'Measured', across: 3 }, null, null],
          [{ text: 'Frame' }, { text: 'Loss' }, { text: 'Day' }],
          [{ text: '4 P', down: 2 }, { text: '1.204,50' }, { text: '16.11.2026' }],
          [null, { text: '-7' }, { text: '007' }],
        ],
      },
    ],
    [
      { kind: 'table', rows: [[{ text: 'a|b' }], [{ text: '2,5' }]] },
      { kind: 'paragraph', text: 'Überholt' },
    ],
  ],
};
const meta = { id: 'urn:uuid:6f1b1a52-0000-4000-8000-000000000000', changed: new Date('2026-11-20T10:00:00Z') };
const asXml = (text: string) => {
  const faults: string[] = [];
  const handler = (fault: string) => void faults.push(fault);
  const page = new DOMParser({ errorHandler: { warning: handler, error: handler, fatalError: handler } }).parseFromString(text.replace('<!DOCTYPE html>', ''), 'application/xml'); // prettier-ignore
  return { page, faults };
};
const bytes = (format: Parameters<typeof writeWords>[0]) => writeWords(format, content, meta);
const text = async (format: Parameters<typeof writeWords>[0]) => new TextDecoder().decode(await bytes(format));

test('a workbook as SheetJS reads it: a sheet a table, numbers and dates as such, cells joined', async () => {
  const book = read(await bytes('xlsx'), { cellDates: true, UTC: true });
  expect(book.SheetNames).toEqual(['1', '2']);
  const sheet = book.Sheets['1']!;
  const of = (at: string) => (sheet[at] as { t: string; v: unknown } | undefined) ?? null;
  expect([of('A2')!.v, of('B3'), of('B4')]).toMatchObject(['Frame', { t: 'n', v: 1204.5 }, { t: 'n', v: -7 }]);
  expect(of('C3')).toMatchObject({ t: 'd', v: new Date('2026-11-16T00:00:00Z') });
  // What begins with a nought names something.
  expect(of('C4')).toMatchObject({ t: 's', v: '007' });
  expect(sheet['!merges']!.map((m) => utils.encode_range(m)).sort()).toEqual(['A1:C1', 'A3:A4']);
  expect((book.Sheets['2']!['A2'] as { v: unknown }).v).toBe(2.5);
});

test('a text document as mammoth reads it: headings, lists, tables', async () => {
  const { value, messages } = await mammoth.convertToHtml({ buffer: Buffer.from(await bytes('docx')) });
  expect(messages.filter((m) => m.type === 'error')).toEqual([]);
  expect(value).toContain('<h1>Hull &lt;survey&gt;</h1>');
  expect(value).toContain('<ol><li>Close the cock</li><li>Open the tap</li></ol>');
  expect(value).toContain('colspan="3"');
  expect(value).toContain('rowspan="2"');
  expect(value).toContain('*not* emphasised<br /># nor a heading\tNo 4');
  expect(value).toContain('<p>Überholt</p>');
});

test('Markdown as markdown-it reads it: what looks like a sign is none', async () => {
  const html = new MarkdownIt().render(await text('md'));
  expect(html).toContain('<h1>Survey &amp; more</h1>');
  expect(html).toContain('<h2>Hull &lt;survey&gt;</h2>');
  expect(html).toContain('<p>Plain text, *not* emphasised<br>\n# nor a heading No 4</p>');
  expect(html).toContain('<ol>\n<li>Close the cock</li>\n<li>Open the tap</li>\n</ol>');
  expect(html).toContain('<th>a|b</th>');
  expect(html).toContain('<hr>');
});

test('a web page is well-formed XML', async () => {
  const { page, faults } = asXml(await text('html'));
  expect(faults).toEqual([]);
  expect(page.documentElement.getAttribute('lang')).toBe('de');
  expect(page.getElementsByTagName('section')).toHaveLength(2);
  expect(page.getElementsByTagName('h2')[0]!.textContent).toBe('Hull <survey>');
});

test('a book: its kind is the first entry, stored (EPUB OCF 3.2, 4.2.2); every page is in manifest, spine and contents; all of it XML', async () => {
  const file = await bytes('epub');
  // Local file header (PKWARE APPNOTE 4.3.7): method at 8, name at 30.
  expect([file[8], strFromU8(file.subarray(30, 58))]).toEqual([0, 'mimetypeapplication/epub+zip']);
  const entries = unzipSync(file);
  for (const [name, data] of Object.entries(entries)) {
    if (!/\.(xhtml|opf|xml)$/.test(name)) continue;
    expect([name, ...asXml(strFromU8(data)).faults]).toEqual([name]);
  }
  const opf = strFromU8(entries['book/book.opf']!);
  expect(opf.match(/<itemref /g)).toHaveLength(2);
  expect(opf).toContain('<meta property="dcterms:modified">2026-11-20T10:00:00Z</meta>');
  expect(strFromU8(entries['book/contents.xhtml']!)).toContain('<a href="page-1.xhtml">Hull &lt;survey&gt;</a>');
});

test('plain text keeps pages apart', async () => {
  expect(await text('txt')).toBe('Hull <survey>\n\nPlain text, *not* emphasised\n# nor a heading\tNo 4\n\n1. Close the cock\n2. Open the tap\n\nMeasured\t\t\nFrame\tLoss\tDay\n4 P\t1.204,50\t16.11.2026\n\t-7\t007\n\f\na|b\n2,5\n\nÜberholt\n'); // prettier-ignore
});

test('CSV by RFC 4180 as SheetJS reads it; text that begins like a formula stays text', () => {
  const rows = [['a', 'b "c"', 'd,e'], ['line\nbreak', '=1+1', '-5'], ['', '@x', '+call']]; // prettier-ignore
  const csv = writeCsv(rows);
  expect(csv.startsWith('\uFEFF')).toBe(true);
  const sheet = read(new TextEncoder().encode(csv), { raw: true });
  const back = utils.sheet_to_json<string[]>(sheet.Sheets[sheet.SheetNames[0]!]!, { header: 1, defval: '' });
  expect(back).toEqual([['a', 'b "c"', 'd,e'], ['line\nbreak', "'=1+1", '-5'], ['', "'@x", "'+call"]]); // prettier-ignore
});

const picture = async () => ({
  jpeg: new Uint8Array(
    await sharp({ create: { width: 60, height: 40, channels: 3, background: '#a04020' } })
      .jpeg()
      .toBuffer(),
  ),
  width: 60,
  height: 40,
  widthMm: 240,
  heightMm: 160,
});

test('pictures are in text documents, web pages and books, and in nothing else', async () => {
  const shown = await picture();
  const pictured: Content = { title: 'x', pages: [[{ kind: 'paragraph', text: 'Before' }, { kind: 'picture', picture: shown }, { kind: 'paragraph', text: 'After' }]] }; // prettier-ignore
  const made = (format: Parameters<typeof writeWords>[0]) => writeWords(format, pictured, meta);
  const { value } = await mammoth.convertToHtml({ buffer: Buffer.from(await made('docx')) });
  const inside = `<img src="data:image/jpeg;base64,${Buffer.from(shown.jpeg).toString('base64')}"`;
  expect(value.replace(/ alt="[^"]*"/, '')).toContain(`<p>Before</p><p>${inside}`);
  // No wider than the writer's text, in its own proportions: 159 mm of 36,000 EMU each (ECMA-376, 20.1.10.16).
  const [, cx, cy] = /<wp:extent cx="(\d+)" cy="(\d+)"/.exec(strFromU8(unzipSync(await made('docx'))['word/document.xml']!))!;
  expect(Number(cx) / 36_000).toBeCloseTo(159, 0);
  expect(Number(cx) / Number(cy)).toBeCloseTo(1.5, 2);
  const html = new TextDecoder().decode(await made('html'));
  expect(asXml(html).faults).toEqual([]);
  expect(html).toContain(inside);
  const book = unzipSync(await made('epub'));
  expect(Buffer.from(book['book/picture-1.jpg']!).equals(Buffer.from(shown.jpeg))).toBe(true);
  expect(strFromU8(book['book/book.opf']!)).toContain('href="picture-1.jpg" media-type="image/jpeg"');
  expect(strFromU8(book['book/page-1.xhtml']!)).toContain('<img src="picture-1.jpg" alt=""');
  expect(asXml(strFromU8(book['book/page-1.xhtml']!)).faults).toEqual([]);
  expect(new TextDecoder().decode(await made('txt'))).toBe('Before\n\nAfter\n');
  expect(new TextDecoder().decode(await made('md'))).toContain('Before\n\nAfter\n');
});

test('no workbook without a table', async () => {
  await expect(writeWords('xlsx', { title: 'x', pages: [[]] }, meta)).rejects.toThrow(RangeError);
});
