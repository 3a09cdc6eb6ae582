import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { flatten, textSkew } from '@libretto/core';
import { decode } from './decode';
import { findCommand } from './find';
import { readCommand } from './read';
import { scanCommand } from './scan';

const folder = mkdtempSync(path.join(tmpdir(), 'libretto-cli-'));
const demo = path.join(__dirname, '../../demo/photos');
const photo = path.join(demo, 'timber-docket.jpg');
const broken = path.join(folder, 'broken.jpg');
/** Enough for its print to be read. */
const middling = path.join(folder, 'timber-docket.jpg');
const smaller = path.join(folder, 'timber-docket-small.jpg');
const out: string[] = [];
const errors: string[] = [];

beforeAll(async () => {
  writeFileSync(broken, 'not a picture');
  await sharp(photo).resize(2400).jpeg({ quality: 92 }).toFile(middling);
  await sharp(photo).resize(1400).jpeg({ quality: 92 }).toFile(smaller);
  jest.spyOn(console, 'log').mockImplementation((line) => void out.push(line));
  jest.spyOn(console, 'error').mockImplementation((line) => void errors.push(line));
});
beforeEach(() => {
  out.length = 0;
  errors.length = 0;
});

test('find prints one line a photo; a broken file is named and the others are done', async () => {
  expect(await findCommand([broken, photo])).toBe(1);
  expect(errors.join()).toContain('broken.jpg');
  expect(out).toHaveLength(1);
  const line = JSON.parse(out[0]!);
  expect(Object.keys(line)).toEqual(['file', 'width', 'height', 'ms', 'pages']);
  expect([line.file, line.width, line.height, line.pages.length]).toEqual(['timber-docket.jpg', 4000, 3000, 1]);
  const truth = JSON.parse(readFileSync(path.join(demo, 'truth.json'), 'utf8')).photos.find(
    (p: { file: string }) => p.file === 'timber-docket.jpg',
  ).pages[0].quad;
  truth.forEach((corner: number[], i: number) =>
    expect(Math.hypot(corner[0]! - line.pages[0].quad[i][0], corner[1]! - line.pages[0].quad[i][1])).toBeLessThan(12),
  );
}, 60_000);

test('the EXIF turn is applied: a photo stored sideways gives the same page upright', async () => {
  const sideways = path.join(folder, 'sideways.jpg');
  await sharp(photo).resize(800).rotate(90).withMetadata({ orientation: 8 }).jpeg().toFile(sideways);
  await findCommand([sideways]);
  expect(JSON.parse(out[0]!)).toMatchObject({ width: 800, height: 600 });
}, 60_000);

test('on a sheet that fills the picture neither its coloured fields nor its table are pages', async () => {
  const sheets = ['paint-chart', 'hull-survey-1'].map((name) => path.join(__dirname, '../../demo/flat', `${name}.png`));
  await findCommand(sheets);
  expect(out.map((line) => JSON.parse(line).pages)).toEqual([[], []]);
}, 60_000);

test('print tells which way up: turned by a quarter and by half the corners still begin where the page does', async () => {
  const small = await sharp(path.join(demo, 'hull-survey-1.jpg')).resize(1200).toBuffer();
  const file = (turn: number) => path.join(folder, `turned-${turn}.jpg`);
  for (const turn of [0, 90, 180]) await sharp(small).rotate(turn).jpeg({ quality: 95 }).toFile(file(turn));
  await findCommand([file(0), file(90), file(180)]);
  const [[x, y], quarter, half] = out.map((line) => {
    const { width, height, pages } = JSON.parse(line);
    return [pages[0].quad[0][0] / width, pages[0].quad[0][1] / height] as const;
  }) as [readonly [number, number], readonly [number, number], readonly [number, number]];
  expect(Math.hypot(quarter[0] - (1 - y), quarter[1] - x)).toBeLessThan(0.01);
  expect(Math.hypot(half[0] - (1 - x), half[1] - (1 - y))).toBeLessThan(0.01);
}, 60_000);

test.each([2000, 4000])(
  'an open book of %i px: two pages with curved outlines, and their pages are flat',
  async (across) => {
    const book = path.join(folder, 'book.jpg');
    await sharp(path.join(demo, 'engine-handbook.jpg')).resize(across).jpeg({ quality: 95 }).toFile(book);
    await findCommand([book]);
    const { pages } = JSON.parse(out[0]!);
    expect(pages).toHaveLength(2);
    const truth = JSON.parse(readFileSync(path.join(demo, 'truth.json'), 'utf8')).photos.find(
      (p: { file: string }) => p.file === 'engine-handbook.jpg',
    );
    for (const [i, page] of pages.entries()) {
      expect(page.polygon).toHaveLength(64);
      // The truth has twenty points a side, ours sixteen: quarters of a side are in both.
      const off = [0, 1, 2, 3].flatMap((side) =>
        [0, 0.25, 0.5, 0.75].map((t) => {
          const [x, y] = truth.pages[i].polygon[side * 20 + t * 20];
          const scale = across / 4000;
          return distanceToPolygon([(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5], page.polygon);
        }),
      );
      expect(off.sort((a, b) => a - b)[12]).toBeLessThan(0.006 * across);
      // Lines of print run level on the flattened page.
      const { image } = flatten(await decode(book), { quad: page.quad, polygon: page.polygon, turn: 0 }, { maxEdgePx: 900 });
      expect(Math.abs(textSkew(image).degrees)).toBeLessThan(0.5);
    }
  },
  60_000,
);

function distanceToPolygon([x, y]: [number, number], polygon: [number, number][]): number {
  return Math.min(
    ...polygon.map(([ax, ay], i) => {
      const [bx, by] = polygon[(i + 1) % polygon.length]!;
      const t = Math.max(0, Math.min(1, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2 || 1)));
      return Math.hypot(x - ax - t * (bx - ax), y - ay - t * (by - ay));
    }),
  );
}

test('scan writes a PNG a page, with outlines from a file', async () => {
  const quads = path.join(folder, 'quads.jsonl');
  writeFileSync(quads, `${JSON.stringify({ file: 'timber-docket-small.jpg', pages: [{ quad: [[350, 245], [1050, 245], [1050, 735], [350, 735]] }, { quad: [[175, 175], [315, 175], [315, 315], [175, 315]] }] })}\n`); // prettier-ignore
  const to = path.join(folder, 'pages');
  expect(await scanCommand([smaller, '--out', to, '--quads', quads, '--filter', 'ink', '--dpi', '100'])).toBe(0);
  expect(readdirSync(to).sort()).toEqual(['timber-docket-small-1.png', 'timber-docket-small-2.png']);
  const { width, height } = await sharp(path.join(to, 'timber-docket-small-1.png')).metadata();
  expect(width! / height!).toBeCloseTo(297 / 210, 1);
}, 60_000);

test('scan writes one PDF', async () => {
  const file = path.join(folder, 'all.pdf');
  expect(await scanCommand([smaller, broken, '--out', file, '--dpi', '100'])).toBe(1);
  expect(errors.join()).toContain('broken.jpg');
  expect(execFileSync('pdfinfo', [file]).toString()).toMatch(/Pages:\s+1/);
}, 60_000);

test('scan writes a layered PDF, and one under so many megabytes or says that it cannot', async () => {
  const file = path.join(folder, 'light.pdf');
  const list = () => execFileSync('pdfimages', ['-list', file], { encoding: 'utf8' });
  const scan = (...also: string[]) => scanCommand([smaller, '--out', file, '--dpi', '130', ...also]);
  expect(await scan()).toBe(0);
  const plain = readFileSync(file).length;
  expect(list()).not.toMatch(/ mask /);
  expect(await scan('--layered')).toBe(0);
  expect(list()).toMatch(/ mask .* ccitt /);
  expect(readFileSync(file).length).toBeLessThan(plain / 2);
  expect(await scan('--under', String((0.6 * plain) / 1e6))).toBe(0);
  expect(readFileSync(file).length).toBeLessThanOrEqual(0.6 * plain);
  expect(await scan('--under', '0.005')).toBe(1);
  expect(errors.join()).toContain('is as small as it becomes');
  expect(await scanCommand([smaller, '--out', folder, '--layered'])).toBe(1);
}, 300_000);

test('read prints the words of a page where they lie in the photo', async () => {
  expect(await readCommand([photo, broken])).toBe(1);
  expect(errors.join()).toContain('broken.jpg');
  const line = JSON.parse(out[0]!);
  expect(Object.keys(line)).toEqual(['file', 'page', 'language', 'text', 'words', 'tables']);
  expect(line.tables[0].map((row: string[]) => row[0])).toEqual(['Timber', 'Larch, boat skin grade', 'Oak, green, crooks', 'Iroko, planed', 'Douglas fir, clear']); // prettier-ignore
  expect([line.file, line.page, line.language]).toEqual(['timber-docket.jpg', 1, 'en']);
  for (const words of ['Delivery docket', '19 November 2026', 'Douglas fir, clear']) expect(line.text).toContain(words);
  // "Delivery" stands at the top left of the docket, whose corners are known.
  const quad = JSON.parse(readFileSync(path.join(demo, 'truth.json'), 'utf8')).photos.find((p: { file: string }) => p.file === 'timber-docket.jpg').pages[0].quad; // prettier-ignore
  const [[x, y]] = line.words[0].box;
  const share = (a: number[], b: number[]) => ((x - a[0]!) * (b[0]! - a[0]!) + (y - a[1]!) * (b[1]! - a[1]!)) / ((b[0]! - a[0]!) ** 2 + (b[1]! - a[1]!) ** 2); // prettier-ignore
  expect(line.words[0].text).toBe('Delivery');
  expect(share(quad[0], quad[1])).toBeLessThan(0.15);
  expect(share(quad[0], quad[3])).toBeLessThan(0.25);
}, 120_000);

test('scan writes one TIFF, two-level pages as Group 4', async () => {
  const file = path.join(folder, 'all.tif');
  expect(await scanCommand([smaller, smaller, '--out', file, '--dpi', '100', '--filter', 'ink'])).toBe(0);
  const told = execFileSync('tiffinfo', [file]).toString();
  expect([told.match(/CCITT Group 4/g)?.length, (await sharp(file).metadata()).pages]).toEqual([2, 2]);
}, 60_000);

test('scan writes pictures by themselves, numbered where they are several, or in a ZIP', async () => {
  expect(await scanCommand([smaller, smaller, '--out', path.join(folder, 'both.jpg'), '--dpi', '100'])).toBe(0);
  for (const name of ['both-1.jpg', 'both-2.jpg']) expect(await sharp(path.join(folder, name)).metadata()).toMatchObject({ format: 'jpeg', density: 100 }); // prettier-ignore
  expect(await scanCommand([smaller, '--out', path.join(folder, 'one.png'), '--dpi', '100'])).toBe(0);
  expect((await sharp(path.join(folder, 'one.png')).metadata()).format).toBe('png');
  const zip = path.join(folder, 'both.zip');
  expect(await scanCommand([smaller, smaller, '--out', zip, '--dpi', '100'])).toBe(0);
  // Debian's unzip.
  expect(execFileSync('unzip', ['-t', zip], { encoding: 'utf8' })).toMatch(/both-1\.png\s+OK[\s\S]*both-2\.png\s+OK[\s\S]*No errors/); // prettier-ignore
});

test('scan writes a PDF that opens by the password in a variable only', async () => {
  const file = path.join(folder, 'locked.pdf');
  process.env.TEST_PASSWORD = 'oakum';
  expect(await scanCommand([smaller, '--out', file, '--dpi', '100', '--password-env', 'TEST_PASSWORD'])).toBe(0);
  expect(() => execFileSync('qpdf', ['--check', file], { stdio: 'pipe' })).toThrow(/invalid password/);
  execFileSync('qpdf', ['--password=oakum', '--check', file], { stdio: 'pipe' });
});

test('scan --text writes a PDF whose words are found', async () => {
  const file = path.join(folder, 'searchable.pdf');
  expect(await scanCommand([middling, '--out', file, '--text'])).toBe(0);
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
  for (const words of ['Delivery docket', 'Iroko, planed', '19 November 2026']) expect(text).toContain(words);
}, 120_000);

test('scan writes what was read by the ending of the file; without a table no workbook', async () => {
  const file = path.join(folder, 'docket.md');
  expect(await scanCommand([middling, '--out', file])).toBe(0);
  const text = readFileSync(file, 'utf8');
  expect(text).toContain('# docket');
  expect(text).toMatch(/\| Iroko, planed \| 44 x 145 \| 3.0 \| 9 \|/);
  const card = path.join(folder, 'card.png');
  await sharp({ create: { width: 900, height: 500, channels: 3, background: '#fff' } })
    .png()
    .toFile(card);
  expect(await scanCommand([card, '--out', path.join(folder, 'none.xlsx')])).toBe(1);
  expect(errors.join()).toContain('there is no table');
}, 180_000);

test('a photo in which no page is found is taken as a whole, and that is said', async () => {
  const desk = path.join(folder, 'desk.png');
  await sharp({ create: { width: 400, height: 300, channels: 3, background: '#6a5038' } })
    .png()
    .toFile(desk);
  const to = path.join(folder, 'whole');
  expect(await scanCommand([desk, '--out', to, '--filter', 'original'])).toBe(0);
  expect(errors.join()).toContain('no page found, the whole photo is taken');
  const { width, height } = await sharp(path.join(to, 'desk-1.png')).metadata();
  expect(width! / height!).toBeCloseTo(4 / 3, 1);
}, 60_000);

test.each([
  [['--out', folder], 'at least one photo'],
  [[photo], '--out'],
  [[photo, '--out', folder, '--filter', 'sepia'], 'no filter "sepia"'],
  [[photo, '--out', folder, '--dpi', 'many'], '--dpi'],
])('scan %j says what is wrong', async (args, message) => {
  expect(await scanCommand(args)).toBe(1);
  expect(errors.join()).toContain(message);
  expect(existsSync(path.join(folder, 'nothing'))).toBe(false);
});
