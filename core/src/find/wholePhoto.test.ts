import { createRaster, wholeQuad } from '../raster/raster';
import { noisePicture } from '../testing/pictures';
import { wholeAsRead } from './wholePhoto';

test.each([
  [1, 1],
  [2, 3000],
  [3000, 2],
  [7, 9],
  [24, 24],
  [2600, 30],
])('a photo of %i×%i without a page is taken whole', (width, height) => {
  for (const channels of [1, 3, 4] as const) expect(wholeAsRead(noisePicture(width, height, channels))).toEqual({ quad: wholeQuad({ width, height }) });
}); // prettier-ignore

test('black and white photos too', () => {
  for (const level of [0, 255]) {
    const flat = createRaster(300, 400, 4);
    flat.data.fill(level);
    expect(wholeAsRead(flat)).toEqual({ quad: wholeQuad(flat) });
  }
});
