import { createPlane, createRaster, type Raster } from '../raster/raster';
import { finish, type FlatPage } from '../recipe/render';
import { asPhotographed, asShown, type Turn } from '../rectify/turn';
import { touchedUp } from './touches';

const size = { width: 60, height: 90 };

test('a place and its place on the turned and mirrored page are each other’s inverse', () => {
  for (const turn of [0, 90, 180, 270] as const)
    for (const mirror of [false, true]) {
      const [u, v] = asPhotographed(asShown([0.2, 0.7], turn, mirror), turn, mirror);
      expect([u, v]).toEqual([expect.closeTo(0.2, 9), expect.closeTo(0.7, 9)]);
    }
  // A quarter turn clockwise takes the top left corner to the top right.
  expect(asShown([0, 0], 90)).toEqual([1, 0]);
});

test('a stroke is as wide as it is said, later ones go over earlier ones, and none leave what was found as it is', () => {
  expect(touchedUp(null, [], size)).toBeNull();
  const fill = touchedUp(null, [{ kind: 'fill', points: [[0.2, 0.5], [0.8, 0.5]], radius: 0.05 }], size)!; // prettier-ignore
  const at = (x: number, y: number) => fill.mask.data[y * 60 + x];
  expect([at(30, 45), at(30, 41), at(30, 39), at(5, 45)]).toEqual([1, 1, 0, 0]);
  const found = { mask: createPlane(60, 90), places: 2 };
  found.mask.data.fill(1);
  const kept = touchedUp(found, [{ kind: 'keep', points: [[0.5, 0.5]], radius: 0.1 }], size)!;
  expect([kept.mask.data[45 * 60 + 30], kept.mask.data[0], kept.places]).toEqual([0, 1, 2]);
  expect(found.mask.data[45 * 60 + 30]).toBe(1);
});

test.each([0, 90] as const)('what is painted over is filled with paper on the finished page, turned by %d° too', (turn: Turn) => {
  const [width, height] = turn ? [594, 420] : [420, 594];
  const image: Raster = createRaster(width, height, 3);
  image.data.fill(225);
  // A blot at a quarter of the page as photographed.
  const [u, v] = asShown([0.25, 0.25], turn);
  for (let y = -9; y <= 9; y++)
    for (let x = -9; x <= 9; x++)
      for (let c = 0; c < 3; c++) image.data[((Math.round(v * height) + y) * width + Math.round(u * width) + x) * 3 + c] = 30;
  const flat: FlatPage = { image, widthMm: 148, heightMm: 210, sizeName: undefined as never, dpi: 72, photoDpi: 72 };
  const blot = (recipe: object) => {
    const page = finish(flat, { filter: 'grey', turn, ...recipe }).image;
    return page.data[Math.round(v * height) * width + Math.round(u * width)];
  };
  expect(blot({})).toBeLessThan(60);
  expect(blot({ touches: [{ kind: 'fill', points: [[0.25, 0.25]], radius: 0.05 }] })).toBeGreaterThan(245);
});
