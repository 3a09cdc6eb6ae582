import { createPlane, createRaster, type Plane, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { enhance } from './enhance';
import { paperLevel, type PageTone } from './evenLight';
import { drawRules, findRules } from './rules';

const dpi = 200;
const [width, height] = [700, 600];
const mm = dpi / 25.4;
const flat = (level: number): Plane => ({ width: 2, height: 2, data: new Float32Array(4).fill(level) });
const tone: PageTone = { threshold: flat(170), clear: 22, noise: flat(3), usualNoise: 3, saturation: 1 };
const noPictures = flat(0);

/** Even paper with normal noise of this deviation (twelve uniform numbers added up), and what is drawn on it: the level at each place. */
function page(deviation: number, drawn: (x: number, y: number) => number = () => paperLevel): Raster {
  const next = random(5);
  const even = createRaster(width, height, 1);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p++) {
      let sum = -6;
      for (let i = 0; i < 12; i++) sum += next();
      even.data[p] = drawn(x, y) + deviation * sum;
    }
  return even;
}

/** How much of a stretch of a row is darker than the threshold, once rules are drawn. */
function inkAlong(even: Raster, from: number, to: number, at: (x: number) => number): number {
  let ink = 0;
  for (let x = from; x < to; x++) {
    const y = at(x);
    if ([-1, 0, 1].some((d) => even.data[(y + d) * width + x] < 170)) ink++;
  }
  return ink / (to - from);
}

const found = (even: Raster, pictures = noPictures) => {
  const rules = findRules(even, tone, pictures, dpi);
  if (rules) drawRules(even, rules);
  return rules;
};

describe('a rule that is as dark as the threshold', () => {
  const slope = (x: number) => 300 + Math.round((x - 350) / 110);
  const rule = (x: number, y: number) => (x >= 60 && x < 640 && Math.abs(y - slope(x)) < 1 ? 168 : paperLevel);

  test.each([4, 9])('is whole, though noise of deviation %i breaks it, and slightly aslant', (deviation) => {
    const even = page(deviation, rule);
    const before = page(deviation, rule);
    expect(found(even)).not.toBeNull();
    expect(inkAlong(even, 65, 635, slope)).toBeGreaterThan(0.97);
    // Nothing is paler, and what is darker lies along the rule and not beyond its ends.
    let [paler, beside] = [0, 0];
    for (let y = 0, p = 0; y < height; y++)
      for (let x = 0; x < width; x++, p++) {
        if (even.data[p] > before.data[p]) paler++;
        if (even.data[p] < before.data[p] && (Math.abs(y - slope(x)) > 4 || x < 50 || x > 650)) beside++;
      }
    expect([paler, beside]).toEqual([0, 0]);
  });

  test('is whole where it runs down the page too', () => {
    const even = page(6, (x, y) => (y >= 60 && y < 540 && x === 400 ? 165 : paperLevel));
    found(even);
    let ink = 0;
    for (let y = 70; y < 530; y++) if ([399, 400, 401].some((x) => even.data[y * width + x] < 170)) ink++;
    expect(ink / 460).toBeGreaterThan(0.97);
  });

  test('in a picture stays as it is', () => {
    expect(found(page(6, rule), flat(1))?.data.every((v) => v === 255)).toBe(true);
  });

  test('is whole on the finished page of a photograph that holds little of it', () => {
    const sheet = page(1, (x, y) => (x >= 60 && x < 640 && y === 300 ? 184 + 14 * ((x >> 1) % 2) : paperLevel));
    const along = (options: object) => {
      const { data } = enhance(sheet, 'grey', { dpi, ...options });
      let grey = 0;
      for (let x = 70; x < 630; x++) if (data[300 * width + x] < 200) grey++;
      return grey / 560;
    };
    expect(along({ photoDpi: 100 })).toBeGreaterThan(0.97);
    expect(along({ photoDpi: 200 })).toBeLessThan(0.8);
  });
});

describe('no rules are', () => {
  const none = (even: Raster) => expect(found(even)).toBeNull();

  test.each([1, 5, 12])('bare paper with noise of deviation %i', (deviation) => none(page(deviation)));

  test('lines of print', () =>
    none(
      page(3, (x, y) => {
        const line = y % 34;
        const letter = x % 13;
        // Letters with a foot and a head that nearly touch, words, and a gap after each.
        return x % 90 < 78 && line < 18 && (letter < 3 || (letter < 10 && (line < 3 || line > 14))) ? 60 : paperLevel;
      }),
    ));

  test.each([8, 3])('dashes, %i px apart', (apart) =>
    none(page(4, (x, y) => ((y === 300 || y === 301) && x % (16 + apart) < 16 ? 90 : paperLevel))),
  );

  test('the bars of a bar code', () =>
    none(
      page(3, (x, y) => (y > 200 && y < 340 && x > 150 && x < 550 && [0, 1, 5, 6, 7, 12].includes(x % 16) ? 40 : paperLevel)),
    ));

  test('what is shorter than a centimetre', () =>
    none(page(2, (x, y) => (y === 300 && x > 100 && x < 100 + 7 * mm ? 120 : paperLevel))));

  test('bands and dark pages', () => {
    none(page(2, (_, y) => (y > 200 && y < 260 ? 60 : paperLevel)));
    none(page(2, () => 40));
  });
});

test('a notebook’s pale rules stay as pale as they are', () => {
  const even = page(2, (x, y) => (y % 60 === 30 ? 208 : paperLevel));
  found(even);
  expect(even.data.some((v) => v <= 170)).toBe(false);
});

test.each([
  [1, 1],
  [3, 400],
  [400, 3],
])('a page of %i×%i px has none', (w, h) => {
  expect(findRules(createRaster(w, h, 1), { ...tone, threshold: createPlane(1, 1) }, createPlane(1, 1), dpi)).toBeNull();
});
