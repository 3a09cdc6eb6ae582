import { noisePicture } from '../testing/pictures';
import { crop, within } from './crop';
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

test.each([1, 2])(
  'a grid read through a part of its picture, enlarged %i times, has the same values there to the last bit',
  (times) => {
    const grid = createPlane(40, 30);
    for (let j = 0; j < 30; j++)
      for (let i = 0; i < 40; i++) grid.data[j * 40 + i] = 100 + 40 * Math.sin(i / 9) + 30 * Math.cos(j / 7);
    const box = { x: 333, y: 210, width: 310, height: 190 };
    const whole = new GridRows(grid, 1000 * times, 750 * times);
    const part = new GridRows(within(grid, { width: 1000, height: 750 }, box), box.width * times, box.height * times);
    let off = 0;
    for (let y = 0; y < box.height * times; y++) {
      const wanted = whole.row(box.y * times + y).subarray(box.x * times);
      off += part.row(y).reduce((sum, v, x) => sum + Number(v !== wanted[x]), 0);
    }
    expect(off).toBe(0);
  },
);
