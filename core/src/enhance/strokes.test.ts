import { createRaster, type Raster } from '../raster/raster';
import { chooseFilter } from './auto';
import { estimateLight } from './light';
import { strokesOn } from './strokes';

type Colour = readonly [number, number, number];
const red: Colour = [190, 40, 44];
const blue: Colour = [40, 70, 180];
const black: Colour = [34, 34, 38];

/** Rows of upright strokes, each row in a colour of its own, `tall` px high on white. */
function written(colours: readonly Colour[], tall: number, width = 900, height = 600): Raster {
  const page = createRaster(width, height, 3);
  page.data.fill(228);
  const thick = Math.max(3, Math.round(tall / 6));
  colours.forEach((colour, row) => {
    const top = Math.round(40 + row * tall * 2.2);
    for (let x = 60; x < width - 60; x += thick * 4)
      for (let y = top; y < Math.min(height - 30, top + tall); y++)
        for (let k = 0; k < thick; k++) page.data.set(colour, (y * width + x + k) * 3);
  });
  return page;
}

test('pens, their share and the height of what is written are told', () => {
  const page = written([red, blue, black], 30);
  const strokes = strokesOn(page, estimateLight(page));
  expect(strokes.hues).toBe(2);
  expect(strokes.colouredShare).toBeCloseTo(2 / 3, 1);
  // Thirty of six hundred px.
  expect(strokes.height).toBeCloseTo(0.05, 2);
  const plain = written([black, black], 30);
  expect(strokesOn(plain, estimateLight(plain))).toMatchObject({ coloured: 0, hues: 0, colouredShare: 0 });
});

test('one ink is one pen, also where its hue lies between two colours’ names', () => {
  const browns: Colour[] = [[90, 52, 18], [110, 52, 22], [100, 66, 16]]; // prettier-ignore
  const page = written(browns, 30);
  expect(strokesOn(page, estimateLight(page)).hues).toBe(1);
  expect(chooseFilter(page).filter).toBe('even-light');
});

test('three pens may write smaller than two', () => {
  const green: Colour = [30, 120, 60];
  expect(chooseFilter(written([red, blue, green, black], 14)).filter).toBe('board');
  expect(chooseFilter(written([red, blue, red, black], 14)).filter).toBe('even-light');
});

test('large pens in several colours are a board; small ones, or one colour, are a sheet', () => {
  expect(chooseFilter(written([red, blue, black], 30)).filter).toBe('board');
  expect(chooseFilter(written([red, blue, black, red, blue, black], 10)).filter).toBe('even-light');
  expect(chooseFilter(written([blue, black, blue], 30)).filter).toBe('even-light');
  expect(chooseFilter(written([black, black, black], 30)).filter).toBe('grey');
});
