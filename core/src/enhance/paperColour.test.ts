import { createRaster, type Raster } from '../raster/raster';
import { random, type Colour } from '../testing/pictures';
import { chooseFilter } from './auto';
import { enhance } from './enhance';
import { gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { estimateLight, withoutInk } from './light';
import { printedPlaces } from './printed';
import { groundOf } from './paperColour';

/** A page of 283×400 px by its colour at a place, with a little noise. */
function page(colour: (x: number, y: number) => Colour): Raster {
  const made = createRaster(283, 400, 3);
  const next = random(5);
  for (let y = 0; y < 400; y++) for (let x = 0; x < 283; x++) made.data.set(colour(x, y).map((v) => v + (next() - 0.5) * 5), (y * 283 + x) * 3); // prettier-ignore
  return made;
}
const print = (x: number, y: number) => y % 12 < 3 && (x * 13) % 29 < 15;
const label = (x: number, y: number) => x > 120 && x < 250 && y > 180 && y < 260;
const kraft: Colour = [176, 138, 96];
const envelope = page((x, y) => (label(x, y) ? (print(x, y) && x > 130 && x < 240 ? [40, 40, 42] : [236, 235, 231]) : kraft));
const at = ({ data, width }: Raster, x: number, y: number) => [...data.slice((y * width + x) * 3, (y * width + x) * 3 + 3)];

test('white is what is less colourful and no darker: the label of a brown envelope, which stays brown', () => {
  const ground = groundOf(envelope);
  expect(Math.hypot(...ground.paper)).toBeLessThan(0.06);
  expect(chooseFilter(envelope).filter).toBe('even-light');
  const made = enhance(envelope, 'even-light', { dpi: 40 });
  expect(Math.min(...at(made, 124, 184))).toBeGreaterThan(240);
  const [r, g, b] = at(made, 40, 60) as [number, number, number];
  expect(r / b).toBeCloseTo(kraft[0] / kraft[2], 0);
  expect(r).toBeLessThan(225);
  expect(r).toBeGreaterThan(g);
});

test('sunlight beside shadow is brighter by more than it is whiter: the paper is what most of the page is', () => {
  const lit = page((x, y) => (print(x, y) ? [30, 30, 32] : x < 40 ? [252, 246, 234] : [120, 126, 138]));
  const smooth = gaussian(lumaPlane(lit), 1.2);
  const printed = printedPlaces(smooth, withoutInk(smooth), groundOf(lit));
  expect(printed.reduce((sum, v) => sum + v, 0)).toBeLessThan(0.05 * printed.length);
});

test('woods and water of a map are printed, a plain page under a warm lamp has none, nor has a noisy one', () => {
  const map = page((x, y) => (x < 24 || y < 24 || x > 258 || y > 375 ? [250, 250, 248] : y < 150 ? [196, 222, 180] : y < 260 ? [246, 240, 222] : [180, 214, 238])); // prettier-ignore
  const { data } = estimateLight(map).pictures;
  expect([data[80 * 283 + 140]! > 0.9, data[330 * 283 + 140]! > 0.9, data[8 * 283 + 140]! > 0.5]).toEqual([true, true, false]);
  for (const noise of [4, 60]) {
    const next = random(2);
    const plain = page((x, y) => (print(x, y) ? [52, 48, 40] : [240, 222, 196]).map((v) => (v * (1 - x / 600)) + (next() - 0.5) * noise) as unknown as Colour); // prettier-ignore
    expect(estimateLight(plain).pictures.data.some((v) => v > 0.5)).toBe(false);
  }
});
