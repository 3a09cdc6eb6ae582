import { createRaster, type Raster } from '../raster/raster';
import { noisePicture } from '../testing/pictures';
import { layersOf, type Layers } from './layers';

const dpi = 300;
/** White paper with a tinted box, black and red strokes, pale strokes, and a dark block too wide for a stroke. */
function letter(): Raster {
  const page = createRaster(900, 700, 3);
  page.data.fill(255);
  const rect = (x0: number, y0: number, x1: number, y1: number, colour: readonly number[]) => {
    for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) page.data.set(colour, (y * 900 + x) * 3);
  };
  rect(500, 60, 860, 300, [250, 228, 190]);
  rect(560, 420, 840, 660, [40, 60, 120]);
  for (let i = 0; i < 12; i++) {
    rect(60 + i * 30, 80, 66 + i * 30, 140, [20, 20, 24]);
    rect(60 + i * 30, 200, 64 + i * 30, 260, [190, 30, 40]);
    rect(520 + i * 26, 120, 525 + i * 26, 180, [20, 20, 24]);
    rect(60 + i * 30, 320, 64 + i * 30, 380, [205, 205, 205]);
  }
  return page;
}

/** The three over each other again, at the page's own dots. */
function over({ mask, background, ink }: Layers): Raster {
  const out = createRaster(mask.width, mask.height, 3);
  for (let y = 0, i = 0; y < mask.height; y++)
    for (let x = 0; x < mask.width; x++, i++) {
      const from = mask.data[i] ? background : ink;
      const at = Math.min(from.height - 1, Math.floor((y * from.height) / mask.height)) * from.width + Math.min(from.width - 1, Math.floor((x * from.width) / mask.width)); // prettier-ignore
      for (let c = 0; c < 3; c++) out.data[i * 3 + c] = from.data[at * 3 + c];
    }
  return out;
}

test('ink is parted from what lies under it, each stroke with its own colour, and all of it together is the page', () => {
  const page = letter();
  const layers = layersOf(page, dpi)!;
  const at = (x: number, y: number) => layers.mask.data[y * 900 + x];
  // Strokes in black, red and grey, on white and on the tint; the block is no stroke.
  expect([at(63, 100), at(62, 220), at(62, 350), at(522, 150)]).toEqual([0, 0, 0, 0]);
  expect([at(75, 100), at(505, 70), at(700, 540), at(860, 690)]).toEqual([255, 255, 255, 255]);
  expect([layers.background.width, layers.ink.width]).toEqual([300, 75]);
  const again = over(layers);
  const apart = Array.from(page.data, (v, i) => Math.abs(v - again.data[i]));
  // Only the block's own edge is not told in full dots.
  expect(apart.reduce((sum, v) => sum + v, 0) / apart.length).toBeLessThan(0.4);
  const exact = apart.filter((v) => v <= 4).length / apart.length;
  expect(exact).toBeGreaterThan(0.99);
});

test('under print the paper goes on', () => {
  const { background } = layersOf(letter(), dpi)!;
  for (const [x, y] of [[21, 36], [174, 50]] as const) {
    const i = (y * background.width + x) * 3;
    expect(Math.min(...background.data.slice(i, i + 3))).toBeGreaterThan(185);
  }
}); // prettier-ignore

test('grey pages stay grey, a bare one has no ink, a dark one is not parted', () => {
  const bare = createRaster(300, 200, 1);
  bare.data.fill(250);
  const layers = layersOf(bare, 150)!;
  expect([layers.background.channels, layers.mask.data.every((v) => v === 255)]).toEqual([1, true]);
  bare.data.fill(40);
  expect(layersOf(bare, 150)).toBeNull();
  expect(() => layersOf(noisePicture(40, 30, 3), 300)).not.toThrow();
});
