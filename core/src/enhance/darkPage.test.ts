import { linear } from '../raster/colour';
import { createRaster, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { enhance } from './enhance';
import { estimateLight } from './light';

const [width, height] = [600, 380];
const ground = [30, 36, 66] as const;
const writing = (x: number, y: number) => y > 60 && y < 320 && y % 50 < 26 && x > 50 && x < 330 && x % 16 < 5;
const disc = (x: number, y: number) => Math.hypot(x - 470, y - 130) < 60;

/** What of linear light a lamp adds at a place. */
type Glare = (x: number, y: number) => number;
const none: Glare = () => 0;
const bump: Glare = (x, y) => 0.3 * Math.exp(-((x - 380) ** 2 + (y - 210) ** 2) / (2 * 170 ** 2));

const toSrgb = (v: number) => 255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055);

/** A dark card with bright writing and a yellow disc, under a warm lamp whose glare adds to what is printed; noise of a few levels. */
function card(glare: Glare, field: (x: number, y: number) => readonly number[] | null = () => null): Raster {
  const next = random(4);
  const page = createRaster(width, height, 3);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p += 3) {
      const colour = field(x, y) ?? (writing(x, y) ? [232, 232, 228] : disc(x, y) ? [228, 180, 60] : ground);
      const light = glare(x, y);
      for (let c = 0; c < 3; c++)
        page.data[p + c] = toSrgb(Math.min(1, linear[colour[c]] + light * [1.1, 1, 0.85][c])) + 3 * (next() - 0.5);
    }
  return page;
}

const meanOf = ({ data, width: w, channels }: Raster, x0: number, y0: number, x1: number, y1: number, c = 0) => {
  let sum = 0;
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++) sum += data[(y * w + x) * channels + c];
  return sum / ((x1 - x0) * (y1 - y0));
};

describe('a dark page', () => {
  test('in glare is as it is without: ground, writing and field', () => {
    const [clear, glaring] = [none, bump].map((glare) => enhance(card(glare), 'even-light'));
    const raw = card(bump);
    for (const [x, y] of [
      [20, 20],
      [380, 210],
      [380, 340],
      [570, 360],
    ] as const)
      for (let c = 0; c < 3; c++)
        expect(Math.abs(meanOf(glaring, x, y, x + 10, y + 10, c) - meanOf(clear, x, y, x + 10, y + 10, c))).toBeLessThan(30);
    // In the photo the ground's place under the lamp is more than a hundred levels brighter than its corner.
    expect(meanOf(raw, 380, 210, 390, 220) - meanOf(raw, 20, 20, 30, 30)).toBeGreaterThan(100);
    expect(meanOf(glaring, 450, 110, 490, 150) - meanOf(glaring, 450, 110, 490, 150, 2)).toBeGreaterThan(60);
  });

  test('as it should be is hardly changed', () => {
    const page = card(none);
    const { veil } = estimateLight(page).dark!;
    expect(Math.max(...veil.data)).toBeLessThan(0.005);
    const out = enhance(page, 'even-light');
    for (let c = 0; c < 3; c++) expect(Math.abs(meanOf(out, 20, 20, 60, 40, c) - ground[c])).toBeLessThan(15);
  });

  test('keeps a green picture that fades into its ground: that is no lamp’s colour', () => {
    const leaf = (x: number, y: number) => {
      const t = Math.max(0, Math.min(1, (x - 340) / 200)) * (y > 60 && y < 320 ? 1 : 0);
      return t ? ground.map((v, c) => v + t * ([90, 210, 80][c] - v)) : null;
    };
    const page = card(none, (x, y) => leaf(x, y)?.map(Math.round) ?? null);
    const out = enhance(page, 'even-light');
    expect(Math.max(...estimateLight(page).dark!.veil.data)).toBeLessThan(0.02);
    expect(meanOf(out, 540, 180, 560, 200, 1)).toBeGreaterThan(180);
  });

  test.each([
    ['without glare', none],
    ['in glare', bump],
  ])('in Ink is white on black %s, its fields are dots', (_, glare) => {
    const out = enhance(card(glare), 'ink', { dpi: 300 });
    expect([...new Set(out.data)].sort((a, b) => a - b)).toEqual([0, 255]);
    let [wrong, all] = [0, 0];
    for (let y = 6; y < height - 6; y++)
      for (let x = 6; x < width - 6; x++) {
        if (Math.hypot(x - 470, y - 130) < 75) continue;
        // A stroke's own edge may lie a pixel off.
        const near = [writing(x - 1, y), writing(x + 1, y), writing(x, y - 1), writing(x, y + 1)];
        if (near.some((v) => v !== writing(x, y))) continue;
        all++;
        if (out.data[y * width + x] !== (writing(x, y) ? 255 : 0)) wrong++;
      }
    expect(wrong / all).toBeLessThan(0.002);
    const dots = meanOf(out, 440, 100, 500, 160) / 255;
    expect(dots).toBeGreaterThan(0.3);
    expect(dots).toBeLessThan(0.85);
  });
});
