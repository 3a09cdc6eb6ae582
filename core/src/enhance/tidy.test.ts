import { createRaster, type Raster } from '../raster/raster';
import { printedSheet } from '../testing/pictures';
import { estimateLight } from './light';
import { filled, findLitter, trimSlivers } from './tidy';

type Paint = Parameters<typeof printedSheet>[2];
const page = (paint?: Paint) => printedSheet(420, 594, paint);
const finger = (x: number, y: number) => (Math.hypot((x - 8) / 34, (y - 300) / 20) < 1 ? ([196, 138, 112] as const) : null);
const litter = (raster: Raster) => findLitter(raster, estimateLight(raster));
const at = (r: Raster, x: number, y: number) => [...r.data.slice((y * r.width + x) * 3, (y * r.width + x) * 3 + 3)];

test('a clean page has none', () => expect(litter(page())).toBeNull());

test('a fingertip on the margin is filled with paper, the print beside it stays', () => {
  const raster = page(finger);
  const found = litter(raster)!;
  expect(found.places).toBe(1);
  const out = filled(raster, estimateLight(raster), found);
  for (const [x, y] of [[4, 300], [25, 296], [14, 310]] as const) expect(Math.min(...at(out, x, y))).toBeGreaterThan(200); // prettier-ignore
  for (let x = 60; x < 120; x++) expect(at(out, x, 308)).toEqual(at(raster, x, 308));
});

describe('a thumb on a card', () => {
  const thumb = (x: number, y: number) => (Math.hypot((x - 600) / 130, (y - 200) / 74) < 1 ? ([196, 138, 112] as const) : null);
  const card = printedSheet(600, 385, thumb);
  const size = { widthMm: 85.6, heightMm: 55 };

  test('is larger, in shares of the page, than on a sheet, and is filled all the same', () => {
    const light = estimateLight(card);
    expect(findLitter(card, light)).toBeNull();
    const found = findLitter(card, light, size)!;
    expect(found.places).toBe(1);
    const out = filled(card, light, found);
    for (const [x, y] of [[590, 200], [520, 190], [560, 230]] as const) expect(Math.min(...at(out, x, y))).toBeGreaterThan(200); // prettier-ignore
  });

  test('a printed block of that colour stays: it has corners', () => {
    const block = printedSheet(600, 385, (x, y) => (x > 480 && y > 130 && y < 260 ? [196, 138, 112] : null));
    expect(findLitter(block, estimateLight(block), size)).toBeNull();
  });
});

test('tinted paper is no litter, and what lies on it is filled with its own colour', () => {
  const pink = (raster: Raster): Raster => {
    // Print too: the sheet's dye lies under it.
    for (let p = 0; p < raster.data.length; p += 3) raster.data.set([raster.data[p], raster.data[p + 1] * 0.82, raster.data[p + 2] * 0.9], p); // prettier-ignore
    return raster;
  };
  expect(litter(pink(page()))).toBeNull();
  const raster = pink(page((x) => (x > 415 ? [70, 50, 36] : null)));
  const found = litter(raster)!;
  const out = filled(raster, estimateLight(raster), found);
  const [r, g, b] = at(out, 418, 200);
  const [pr, pg, pb] = at(raster, 40, 20);
  expect(g! / r!).toBeCloseTo(pg! / pr!, 1);
  expect(b! / r!).toBeCloseTo(pb! / pr!, 1);
});

test('a strip of desk along a side is filled', () => {
  const raster = page((x) => (x > 415 ? [70, 50, 36] : null));
  const out = filled(raster, estimateLight(raster), litter(raster)!);
  expect(Math.min(...at(out, 418, 200))).toBeGreaterThan(200);
});

test.each([
  ['top left', (x: number, y: number) => x / 60 + y / 44 < 1],
  ['bottom right', (x: number, y: number) => (419 - x) / 38 + (593 - y) / 70 < 1],
])('a corner that is gone (%s) is filled with paper, the print stays', (_, gone) => {
  const raster = page((x, y) => (gone(x, y) ? [84, 60, 44] : null));
  const found = litter(raster)!;
  expect(found.places).toBe(1);
  const out = filled(raster, estimateLight(raster), found);
  for (let y = 0; y < 594; y += 3)
    for (let x = 0; x < 420; x += 3) if (gone(x, y)) expect(Math.min(...at(out, x, y))).toBeGreaterThan(190);
  for (let x = 90; x < 200; x++) expect(at(out, x, 308)).toEqual(at(raster, x, 308));
});

test('a square printed in the corner stays', () => {
  expect(litter(page((x, y) => (x < 50 && y < 50 ? [110, 31, 58] : null)))).toBeNull();
});

test('a band and a photograph that are printed up to the edge stay', () => {
  expect(litter(page((_, y) => (y < 40 ? [110, 31, 58] : null)))).toBeNull();
  expect(litter(page((x, y) => (x > 250 && y > 400 ? [90 + (x % 70), 120, 60 + (y % 90)] : null)))).toBeNull();
});

test('a skin-coloured field that is no fingertip stays: too long for one', () => {
  expect(litter(page((x, y) => (x < 40 && y > 100 && y < 400 ? [196, 138, 112] : null)))).toBeNull();
});

test('slivers of desk at the border go; a rule that runs to the border and a printed band stay', () => {
  const raster = createRaster(600, 800, 1);
  raster.data.fill(255);
  for (let y = 100; y < 500; y++) raster.data[y * 600 + 599] = raster.data[y * 600 + 598] = 60;
  for (let x = 200; x < 260; x++) raster.data[x] = 40;
  for (let x = 0; x < 300; x++) raster.data[600 * 600 + x] = 30;
  for (let y = 700; y < 760; y++) for (let x = 0; x < 600; x++) raster.data[y * 600 + x] = 90;
  const before = raster.data.slice();
  trimSlivers(raster);
  for (let y = 100; y < 500; y++) expect(raster.data[y * 600 + 599]).toBe(255);
  expect(raster.data[230]).toBe(255);
  expect(raster.data.slice(600 * 520)).toEqual(before.slice(600 * 520));
});
