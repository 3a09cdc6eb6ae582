import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { findCommand } from './find';
import { scanCommand } from './scan';

const folder = mkdtempSync(path.join(tmpdir(), 'libretto-cli-'));
const demo = path.join(__dirname, '../../demo/photos');
const photo = path.join(demo, 'timber-docket.jpg');
const broken = path.join(folder, 'broken.jpg');
const out: string[] = [];
const errors: string[] = [];

beforeAll(async () => {
  writeFileSync(broken, 'not a picture');
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
  await sharp(photo).resize(1000).rotate(90).withMetadata({ orientation: 8 }).jpeg().toFile(sideways);
  await findCommand([sideways]);
  expect(JSON.parse(out[0]!)).toMatchObject({ width: 1000, height: 750 });
}, 60_000);

test('scan writes a PNG a page, with outlines from a file', async () => {
  const quads = path.join(folder, 'quads.jsonl');
  writeFileSync(quads, `${JSON.stringify({ file: 'timber-docket.jpg', pages: [{ quad: [[1000, 700], [3000, 700], [3000, 2100], [1000, 2100]] }, { quad: [[500, 500], [900, 500], [900, 900], [500, 900]] }] })}\n`); // prettier-ignore
  const to = path.join(folder, 'pages');
  expect(await scanCommand([photo, '--out', to, '--quads', quads, '--filter', 'ink', '--dpi', '100'])).toBe(0);
  expect(readdirSync(to).sort()).toEqual(['timber-docket-1.png', 'timber-docket-2.png']);
  const { width, height } = await sharp(path.join(to, 'timber-docket-1.png')).metadata();
  expect(width! / height!).toBeCloseTo(297 / 210, 1);
}, 60_000);

test('scan writes one PDF', async () => {
  const file = path.join(folder, 'all.pdf');
  expect(await scanCommand([photo, broken, '--out', file, '--dpi', '100'])).toBe(1);
  expect(errors.join()).toContain('broken.jpg');
  expect(execFileSync('pdfinfo', [file]).toString()).toMatch(/Pages:\s+1/);
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
