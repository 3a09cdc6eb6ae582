import { createRaster, type Point, type Raster } from '../raster/raster';
import { printedSheet } from '../testing/pictures';
import { paintBeyond } from './beyond';
import { render } from './render';

const [width, height] = [600, 800];
const level = (page: Raster, x: number, y: number) => page.data[(y * page.width + x) * 3 + 1];

/** The page's own pixels, as if its photo ended `cut` px before its right side and its last pixels were drawn out. */
function drawnOut(sheet: Raster, cut: number): Raster {
  const page = { ...sheet, data: sheet.data.slice() };
  for (let y = 0; y < height; y++)
    for (let x = width - cut; x < width; x++)
      for (let c = 0; c < 3; c++) page.data[(y * width + x) * 3 + c] = page.data[(y * width + width - cut - 1) * 3 + c];
  return page;
}
const straight = (u: number, v: number): Point => [u * width - 0.5, v * height - 0.5];

test('what lies beyond the photo is plain paper, what lies in it stays', () => {
  const cut = 170;
  const page = drawnOut(printedSheet(width, height), cut);
  const before = page.data.slice();
  paintBeyond(page, { width: width - cut, height }, straight);
  let darkest = 255;
  for (let y = 4; y < height - 4; y++) for (let x = width - cut; x < width; x++) darkest = Math.min(darkest, level(page, x, y));
  expect(darkest).toBeGreaterThan(210);
  let changed = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < (width - cut) * 3; x++) changed += Number(page.data[y * width * 3 + x] !== before[y * width * 3 + x]);
  expect(changed).toBe(0);
});

test('neither a picture at the photo’s edge nor a coloured band is drawn on beyond it', () => {
  const page = drawnOut(
    printedSheet(width, height, (x, y) => (x > 300 && y > 100 && y < 400 ? [40 + (x % 60), 60, 160] : null)),
    150,
  );
  paintBeyond(page, { width: width - 150, height }, straight);
  expect(level(page, 560, 250)).toBeGreaterThan(200);
  expect(level(page, 400, 250)).toBeLessThan(66);
});

test('a page of which all is in the photo is left as it is', () => {
  const page = printedSheet(width, height);
  const before = page.data.slice();
  paintBeyond(page, page, straight);
  expect(page.data.every((v, i) => v === before[i])).toBe(true);
});

test('a dark page goes on dark', () => {
  const page = createRaster(width, height, 3);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++) for (let c = 0; c < 3; c++) page.data[p++] = y % 80 < 14 && x > 60 && x < 300 ? 230 : 40;
  paintBeyond(page, { width: 450, height }, straight);
  expect(level(page, 560, 400)).toBeLessThan(60);
});

test('a sheet whose corner is out of the frame ends in white, turned as well', () => {
  const photo = printedSheet(width, height);
  const quad = [[40, 30], [690, 60], [560, 780], [20, 760]] as const; // prettier-ignore
  for (const turn of [0, 90] as const) {
    const { image } = render(photo, { quad, turn, filter: 'grey' });
    const [x, y] = turn ? [image.width - 12, image.height - 12] : [image.width - 12, 12];
    for (let dy = -8; dy < 8; dy++) for (let dx = -8; dx < 8; dx++) expect(image.data[(y + dy) * image.width + x + dx]).toBe(255);
  }
});
