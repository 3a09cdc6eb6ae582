import { createPlane, createRaster, wholeQuad, type Point, type Quad, type Raster } from '../raster/raster';
import { finish, flatten } from '../recipe/render';
import { pageMap } from '../rectify/pageMap';
import { flatPage } from '../testing/pictures';
import { touchedUp } from './touches';

const size = { width: 60, height: 90 };
/** A page that is its own photo of 600×900 px. */
const page = {
  map: pageMap({ quad: wholeQuad({ width: 600, height: 900 }), turn: 0, widthMm: 100, heightMm: 150 }),
  widthMm: 100,
  heightMm: 150,
};

test('a stroke is as wide as it is said, later ones go over earlier ones, and none leave what was found as it is', () => {
  expect(touchedUp(null, [], size, page)).toBeNull();
  const fill = touchedUp(null, [{ kind: 'fill', points: [[120, 450], [480, 450]], radius: 45 }], size, page)!; // prettier-ignore
  const at = (x: number, y: number) => fill.mask.data[y * 60 + x];
  expect([at(30, 45), at(30, 41), at(30, 39), at(5, 45)]).toEqual([1, 1, 0, 0]);
  const found = { mask: createPlane(60, 90), places: 2 };
  found.mask.data.fill(1);
  const kept = touchedUp(found, [{ kind: 'keep', points: [[300, 450]], radius: 90 }], size, page)!;
  expect([kept.mask.data[45 * 60 + 30], kept.mask.data[0], kept.places]).toEqual([0, 1, 2]);
  expect(found.mask.data[45 * 60 + 30]).toBe(1);
});

describe('a stroke stays on the print', () => {
  const blotAt: Point = [330, 260];
  /** A grey sheet that fills most of the photo, with a blot. */
  function blotted(): Raster {
    const photo = createRaster(640, 800, 3);
    photo.data.fill(225);
    for (let y = -9; y <= 9; y++) for (let x = -9; x <= 9; x++) photo.data.fill(30, ((blotAt[1] + y) * 640 + blotAt[0] + x) * 3, ((blotAt[1] + y) * 640 + blotAt[0] + x + 1) * 3); // prettier-ignore
    return photo;
  }
  const quads: Quad[] = [
    [[80, 90], [560, 90], [560, 760], [80, 760]],
    [[120, 60], [600, 130], [540, 780], [60, 740]],
  ]; // prettier-ignore
  const recipes = quads
    .flatMap((quad) => ([0, 90, 180, 270] as const).flatMap((turn) => [false, true].map((mirror) => ({ quad, turn, mirror }))))
    // Each quad, turn and mirror in some; all sixteen take half a minute.
    .filter((_, i) => i % 3 === 0);

  test.each(recipes)('after corners moved, turned and mirrored: %j', (recipe) => {
    const flat = flatten(blotted(), recipe, { dpi: 72 });
    const shade = (touches: object[]) => {
      const { image } = finish(flat, { filter: 'grey', touches: touches as never });
      const [u, v] = flat.map.toPage(blotAt);
      return image.data[Math.floor(v * image.height) * image.width + Math.floor(u * image.width)];
    };
    expect(shade([])).toBeLessThan(90);
    expect(shade([{ kind: 'fill', points: [blotAt], radius: 26 }])).toBeGreaterThan(240);
  });
});

test('what is painted over is filled with paper in Original too, as bright as the paper round it', () => {
  const image = createRaster(420, 594, 3);
  image.data.fill(190);
  for (let y = 140; y < 160; y++) image.data.fill(20, (y * 420 + 100) * 3, (y * 420 + 130) * 3);
  const flat = flatPage({ image, widthMm: 148, heightMm: 210, sizeName: 'a5', dpi: 72, photoDpi: 72 });
  const { data } = finish(flat, { filter: 'original', touches: [{ kind: 'fill', points: [[115, 150]], radius: 30 }] }).image;
  expect(data[(150 * 420 + 115) * 3]).toBeGreaterThan(183);
});
