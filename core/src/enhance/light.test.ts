import { createRaster, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { estimateLight, type Light } from './light';

type Colour = readonly [number, number, number];
interface Sheet {
  paper?: Colour;
  lamp?: Colour;
  /** Light at a place, 0..1. */
  shade?: (x: number, y: number) => number;
  paint?: (x: number, y: number) => Colour | null;
}
const [width, height] = [400, 560];

function sheet({ paper = [246, 246, 246], lamp = [1, 1, 1], shade = () => 0.9, paint = () => null }: Sheet = {}): Raster {
  const next = random(6);
  const page = createRaster(width, height, 3);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const print = x > 40 && x < 360 && y > 40 && y < 520 && y % 16 < 3 && (x * 13) % 29 < 17;
      const colour = paint(x, y) ?? (print ? ([40, 40, 40] as const) : paper);
      for (let c = 0; c < 3; c++) page.data[p++] = colour[c] * lamp[c] * shade(x, y) + (next() - 0.5) * 4;
    }
  return page;
}

const paperAt = ({ paper }: Light, x: number, y: number) =>
  paper.data[Math.floor((y / height) * paper.height) * paper.width + Math.floor((x / width) * paper.width)];

const pictureAt = ({ pictures }: Light, x: number, y: number) =>
  pictures.data[Math.floor((y / height) * pictures.height) * pictures.width + Math.floor((x / width) * pictures.width)];

/** Share of the page that is taken for pictures. */
const pictured = ({ pictures }: Light) => pictures.data.reduce((sum, v) => sum + v, 0) / pictures.data.length;

test('paper is as bright as the light that falls on it, under its print too', () => {
  const shade = (x: number) => 0.95 - 0.5 * (x / width);
  const light = estimateLight(sheet({ shade }));
  for (const x of [30, 200, 370]) expect(Math.abs(paperAt(light, x, 280) / (246 * shade(x)) - 1)).toBeLessThan(0.05);
  expect([light.dark, light.tint, light.coloured]).toEqual([null, 1, 0]);
});

test('under a coloured field and a picture the light is that round them', () => {
  const field = (x: number, y: number): Colour | null => (x > 120 && x < 280 && y > 200 && y < 340 ? [180, 40, 46] : null);
  const light = estimateLight(sheet({ paint: field }));
  expect(Math.abs(paperAt(light, 200, 270) / (246 * 0.9) - 1)).toBeLessThan(0.05);
  expect(light.coloured).toBeGreaterThan(0.06);
  expect(light.coloured).toBeLessThan(0.15);
  expect(pictureAt(light, 200, 270)).toBeGreaterThan(0.95);
  expect(pictureAt(light, 60, 60)).toBeLessThan(0.05);
});

test('what lamps can account for is light, what lies further off their line is paper’s own colour', () => {
  const tintOf = (lamp: Colour, paper?: Colour) => estimateLight(sheet({ lamp, ...(paper && { paper }) })).tint;
  // Warm lamp, blue sky, and lamps a little green or pink.
  for (const lamp of [[1, 0.9, 0.7], [0.84, 0.93, 1], [0.9, 1, 0.95], [1, 0.92, 0.97]] as const) expect(tintOf(lamp)).toBe(1); // prettier-ignore
  // Pastel copy paper, in white and in warm light.
  for (const paper of [
    [250, 203, 208],
    [205, 236, 206],
  ] as const)
    for (const lamp of [
      [1, 1, 1],
      [1, 0.94, 0.83],
    ] as const)
      expect(tintOf(lamp, paper)).toBeGreaterThan(1.02);
});

test('pink paper is as pink as it is, in daylight and under a warm lamp', () => {
  const paper: Colour = [247, 208, 208];
  for (const lamp of [
    [1, 1, 1],
    [1, 0.95, 0.87],
    [1, 0.94, 0.83],
  ] as const) {
    const { own } = estimateLight(sheet({ lamp, paper }));
    expect(Math.abs(Math.log(own[0] / own[1]) - Math.log(paper[0] / paper[1]))).toBeLessThan(0.04);
    expect(Math.abs(Math.log(own[2] / own[1]))).toBeLessThan(0.04);
  }
});

test('balanced, white paper is neutral and as bright as before', () => {
  const { balance } = estimateLight(sheet({ lamp: [1, 0.9, 0.7] }));
  const [r, g, b] = [1, 0.9, 0.7].map((v, c) => v * balance[c]);
  expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(0.02);
  expect(0.299 * r + 0.587 * g + 0.114 * b).toBeCloseTo(0.299 + 0.587 * 0.9 + 0.114 * 0.7, 1);
});

test('a slide is dark, its light is not divided out', () => {
  const slide = sheet({ paper: [30, 34, 60], paint: (x, y) => (y % 60 < 8 && x > 60 && x < 300 ? [235, 235, 235] : null) });
  const light = estimateLight(slide);
  expect(light.dark).not.toBeNull();
  expect(light.balance).toEqual([1, 1, 1]);
  expect(light.dark!.high).toBeGreaterThan(light.dark!.low + 100);
});

test('a dark card stays dark where glare lies on most of it; paper in glare stays paper', () => {
  const glare = (x: number, y: number) => 30 + 110 * Math.exp(-((x - 200) ** 2 + (y - 280) ** 2) / (2 * 230 ** 2));
  const written = (x: number, y: number) => y % 60 < 12 && x > 60 && x < 300 && x % 14 < 9;
  const under =
    (ink: number, ground: number) =>
    (x: number, y: number): Colour => {
      const v = Math.min(255, (written(x, y) ? ink : ground) + glare(x, y));
      return [v, v, v];
    };
  expect(estimateLight(sheet({ paint: under(225, 45) })).dark).not.toBeNull();
  expect(estimateLight(sheet({ paint: under(45, 150) })).dark).toBeNull();
});

describe('grey pictures', () => {
  const bottom = 200;
  /** Stones: tones from dark to as bright as paper, in all directions. */
  const stones = (x: number, y: number) =>
    150 + 55 * Math.sin(x / 9 + 2 * Math.sin(y / 17)) + 50 * Math.sin(y / 8 + 1.5 * Math.sin(x / 21));
  const picture = (x: number, y: number): Colour | null => {
    const v = stones(x, y);
    return y < bottom ? [v, v, v] : null;
  };

  test('are pictures up to the edges of the page, and what is below them is not', () => {
    const light = estimateLight(sheet({ paint: picture }));
    for (const [x, y] of [[8, 8], [200, 100], [390, 180]] as const) expect(pictureAt(light, x, y)).toBeGreaterThan(0.9); // prettier-ignore
    for (const [x, y] of [[60, 240], [200, 300], [350, 500]] as const) expect(pictureAt(light, x, y)).toBeLessThan(0.05); // prettier-ignore
    expect(Math.abs(paperAt(light, 200, 300) / (246 * 0.9) - 1)).toBeLessThan(0.05);
  });

  test('a glare in one belongs to it, though nothing is seen there', () => {
    const glare = (x: number, y: number): Colour | null => (Math.hypot(x - 150, y - 90) < 45 ? [255, 255, 255] : picture(x, y));
    expect(pictureAt(estimateLight(sheet({ paint: glare })), 150, 90)).toBeGreaterThan(0.9);
  });

  test('shadows with hard edges are none, nor is what noise does to a dim page', () => {
    const shadows = (x: number, y: number) => (x + 0.6 * y > 330 && x - 0.3 * y < 180 ? 0.5 : 0.9);
    expect(pictured(estimateLight(sheet({ shade: shadows })))).toBeLessThan(0.01);
    const next = random(3);
    const dim = sheet({ shade: () => 0.2 });
    for (let i = 0; i < dim.data.length; i++) dim.data[i] += (next() + next() - 1) * 30;
    expect(pictured(estimateLight(dim))).toBeLessThan(0.01);
  });
});

describe('coloured pictures', () => {
  const red: Colour = [190, 60, 40];
  const inside = (x: number, y: number) => x > 60 && x < 340 && y > 60 && y < 300;

  test('take in a pale corner of their rectangle', () => {
    const paint = (x: number, y: number): Colour | null => (inside(x, y) ? (x + y < 200 ? [240, 205, 195] : red) : null);
    expect(pictureAt(estimateLight(sheet({ paint })), 75, 75)).toBeGreaterThan(0.9);
  });

  test('leave out what is written in one, and paper that shows at its corner', () => {
    const panel = (x: number, y: number): Colour | null =>
      inside(x, y) && !(x > 120 && x < 240 && y > 120 && y < 220) ? red : null;
    expect(pictureAt(estimateLight(sheet({ paint: panel })), 180, 170)).toBeLessThan(0.1);
    const cut = (x: number, y: number): Colour | null => (inside(x, y) ? (x + y < 200 ? [246, 246, 246] : red) : null);
    expect(pictureAt(estimateLight(sheet({ paint: cut })), 75, 75)).toBeLessThan(0.1);
  });
});
