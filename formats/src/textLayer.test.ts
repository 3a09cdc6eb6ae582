import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import type { PageImage } from './pageImage';
import { joined } from './parts';
import { writePdf } from './pdf';
import type { LayerLine } from './textLayer';

const written = async (...args: Parameters<typeof writePdf>) => joined(await writePdf(...args));

const folder = mkdtempSync(path.join(tmpdir(), 'libretto-words-'));
const file = path.join(folder, 'words.pdf');
const run = (tool: string, ...args: string[]) => execFileSync(tool, args, { encoding: 'utf8' });

/** Words at 2 mm a character, lines 6 mm apart from the top. */
const asLines = (texts: readonly string[]): LayerLine[] =>
  texts.map((text, i) => {
    let x = 20;
    return text.split(' ').map((word) => {
      const width = 2 * [...word].length;
      const at = { text: word, x, y: 30 + 6 * i, width, height: 3.2 };
      x += width + 2;
      return at;
    });
  });

async function pageOf(lines: readonly LayerLine[]): Promise<PageImage> {
  const bytes = await sharp({ create: { width: 210, height: 297, channels: 3, background: '#fff' } })
    .jpeg()
    .toBuffer();
  return {
    kind: 'jpeg',
    components: 3,
    bytes,
    width: 210,
    height: 297,
    widthMm: 210,
    heightMm: 297,
    words: { lines, language: 'de' },
  };
}

const texts = [
  'Kesselhaus und Schlüssel: 1.204,50',
  'Ναυπηγείο и верфь',
  '造船所 ボート 𝛼 🚢',
  'the last line (with brackets \\ and <signs>)',
];
beforeAll(async () => {
  const page = await pageOf(asLines(texts));
  const second = await pageOf(asLines(['page two']));
  writeFileSync(file, await written([page, second], { title: 'Words', created: new Date(0), changed: new Date(0) }));
});

// Poppler's pdftotext and qpdf are the outside judges.
test('words of every script come back in order, each page its own', () => {
  expect(run('pdftotext', '-layout', file, '-').split('\f').map((page) => page.split('\n').map((l) => l.trim().replace(/ +/g, ' ')).filter(Boolean))) // prettier-ignore
    .toEqual([texts, ['page two'], []]);
});

test('what runs to the left comes back in the order in which it is read, with its numbers', async () => {
  const lines = ['המספנה בנתה את הסירה', 'שולם 1204.50 ביום 12', 'تم فحص هيكل القارب'];
  const widest = 150;
  const rtl = asLines(lines).map((line) => line.map((w) => ({ ...w, x: widest - w.x - w.width })));
  const leftward = path.join(folder, 'leftward.pdf');
  writeFileSync(leftward, await written([await pageOf([...rtl, asLines(['hull'])[0]!.map((w) => ({ ...w, y: 60 }))])], { title: 'Leftward', created: new Date(0), changed: new Date(0) })); // prettier-ignore
  // Poppler marks directions (U+202A to U+202E), which are no part of the words.
  const said = (...args: string[]) =>
    run('pdftotext', ...args, leftward, '-').replace(/[\u202a-\u202e\f]/g, '').split('\n').map((l) => l.trim().replace(/ +/g, ' ')).filter(Boolean); // prettier-ignore
  // It puts the space beside a number on that number's other side.
  const bare = (text: string) => text.replace(/ (?=\d)|(?<=\d) /g, '');
  expect(said('-layout').map(bare)).toEqual([...lines, 'hull'].map(bare));
  const boxes = [...run('pdftotext', '-bbox', leftward, '-').matchAll(/<word xMin="([\d.]+)".*?xMax="([\d.]+)".*?>(.*?)<\/word>/g)]; // prettier-ignore
  const first = rtl[0]![0]!;
  const [, x0, x1] = boxes.find(([, , , text]) => [...text!].reverse().join('') === first.text)!;
  expect(Math.abs((Number(x0) / 72) * 25.4 - first.x)).toBeLessThan(0.5);
  expect(Math.abs((Number(x1) / 72) * 25.4 - first.x - first.width)).toBeLessThan(0.5);
});

test('each stands where it was read, within half a millimetre', () => {
  const found = [
    ...run('pdftotext', '-bbox', file, '-').matchAll(
      /<word xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">(.*?)<\/word>/g,
    ),
  ];
  const mm = (points: string) => (Number(points) / 72) * 25.4;
  const wanted = asLines(texts).flat();
  expect(found.slice(0, wanted.length)).toHaveLength(wanted.length);
  wanted.forEach(({ x, y, width, height }, i) => {
    const [, x0, y0, x1, y1] = found[i]!;
    [mm(x0!) - x, mm(y0!) - y, mm(x1!) - x - width, mm(y1!) - y - height].forEach((off) =>
      expect(Math.abs(off)).toBeLessThan(0.5),
    );
  });
});

test('the file is sound, its one font embedded with what its codes mean, its language said', () => {
  expect(run('qpdf', '--check', file)).toContain('No syntax or stream encoding errors found');
  const font = run('pdffonts', file).split('\n')[2]!;
  expect(font).toMatch(/LibrettoWords\s+CID TrueType\s+Identity-H\s+yes no\s+yes/);
  expect(run('pdftotext', '-f', '1', '-l', '1', file, '-')).toContain('Schlüssel');
  expect(readFileSync(file, 'latin1')).toContain('/Lang');
});

test('a word that goes on in the next line is one, a hyphen of its own stays', async () => {
  const parts = path.join(folder, 'parts.pdf');
  const page = await pageOf(asLines(['the frames of the Kessel-', 'haus and of the stern-', 'Wren are sound-', '']).filter((l) => l[0]!.text)); // prettier-ignore
  writeFileSync(parts, await written([page], { title: 'Parts', created: new Date(0), changed: new Date(0) }));
  // Poppler joins at a hyphen of either kind where it lays text out anew; -raw keeps the characters as they are written.
  const raw = run('pdftotext', '-raw', parts, '-');
  expect(raw).toContain('stern-\nWren');
  expect(raw).toMatch(/Kessel\u00ad\nhaus|Kesselhaus/);
});

test('who has it read out hears paragraphs in their order, in the page’s language (pdfinfo -struct-text)', async () => {
  const tagged = path.join(folder, 'tagged.pdf');
  const [one, two, apart] = asLines(['The frames of the hull', 'were found sound.', 'Signed in the loft']);
  const heading = one!.map((w) => ({ ...w, text: w.text.toUpperCase(), y: 12, height: 8 }));
  const lower = apart!.map((w) => ({ ...w, y: w.y + 30 }));
  const bare = await pageOf([]);
  writeFileSync(tagged, await written([await pageOf([heading, one!, two!, lower]), bare, await pageOf(asLines(['page three']))], { title: 'Tags', created: new Date(0), changed: new Date(0) })); // prettier-ignore
  expect(run('pdfinfo', tagged)).toMatch(/Tagged:\s+yes/);
  expect(run('qpdf', '--check', tagged)).toContain('No syntax or stream encoding errors found');
  const tree = run('pdfinfo', '-struct-text', tagged);
  expect(tree.match(/^ *P \(block\)/gm)).toHaveLength(4);
  const said = [...tree.matchAll(/"([^"]*)"/g)].map((m) => m[1]!.trim());
  expect(said).toEqual([
    'THE FRAMES OF THE HULL',
    'The frames of the hull',
    'were found sound.',
    'Signed in the loft',
    'page three',
  ]);
  expect(tree.trim()).toMatch(/^Document/);
});

test('nothing of it is seen', async () => {
  run('pdftoppm', '-r', '40', '-png', '-f', '1', '-l', '1', file, path.join(folder, 'seen'));
  const { channels } = await sharp(path.join(folder, 'seen-1.png')).greyscale().stats();
  expect(channels[0]!.min).toBeGreaterThan(250);
});

test('it costs little: 300 words a page, a thirtieth of the file at most', async () => {
  const noise = Buffer.from(Uint8Array.from({ length: 1240 * 1754 }, (_, i) => 200 + ((i * 2654435761) % 50)));
  const bytes = await sharp(noise, { raw: { width: 1240, height: 1754, channels: 1 } })
    .toColourspace('b-w')
    .jpeg({ quality: 80 })
    .toBuffer();
  const bare: PageImage = { kind: 'jpeg', components: 1, bytes, width: 1240, height: 1754, widthMm: 210, heightMm: 297 };
  const lines = asLines(Array.from({ length: 30 }, (_, i) => `line ${i} holds some ten words of a length that is usual`));
  const meta = { title: 'Words', created: new Date(0), changed: new Date(0) };
  const [without, with_] = [await written([bare], meta), await written([{ ...bare, words: { lines } }], meta)];
  expect((with_.length - without.length) / without.length).toBeLessThan(0.034);
});
