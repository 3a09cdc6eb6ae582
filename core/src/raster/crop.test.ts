import { noisePicture } from '../testing/pictures';
import { crop, cropGrid } from './crop';
import { GridRows } from './gridRows';
import { createPlane } from './raster';

test.each([1, 3, 4] as const)('a part of a picture is its pixels, %i channels', (channels) => {
  const picture = noisePicture(23, 17, channels);
  const part = crop(picture, { x: 5, y: 4, width: 9, height: 6 });
  expect([part.width, part.height, part.channels]).toEqual([9, 6, channels]);
  for (const [x, y] of [
    [0, 0],
    [8, 5],
    [3, 2],
  ])
    // prettier-ignore
    for (let c = 0; c < channels; c++)
      expect(part.data[(y * 9 + x) * channels + c]).toBe(picture.data[((y + 4) * 23 + x + 5) * channels + c]);
});

test('the part of a smooth grid reads as the whole grid does there', () => {
  const grid = createPlane(40, 30);
  for (let j = 0; j < 30; j++)
    for (let i = 0; i < 40; i++) grid.data[j * 40 + i] = 100 + 40 * Math.sin(i / 9) + 30 * Math.cos(j / 7);
  const box = { x: 333, y: 210, width: 310, height: 190 };
  const whole = new GridRows(grid, 1000, 750);
  const part = new GridRows(cropGrid(grid, { width: 1000, height: 750 }, box), box.width, box.height);
  for (const y of [20, 95, 170]) {
    const wanted = whole.row(box.y + y).slice(box.x, box.x + box.width);
    const row = part.row(y);
    for (let x = 20; x < 290; x += 30) expect(Math.abs(row[x] - wanted[x])).toBeLessThan(1.5);
  }
});
