import { createRaster } from '../raster/raster';
import { turnedPage, turnedView, viewCells } from './glyphs';
import { unpack } from './unpack';
import { turnOf, textOrientation } from './textOrientation';
import { hidden, inputWeights, outputWeights } from './weights';

test('packed weights come back as RFC 4648 has them', () => {
  const bytes = Int8Array.from({ length: 200 }, (_, i) => ((i * 37) % 255) - 127);
  expect([...unpack(Buffer.from(bytes.buffer).toString('base64'), 0.5)]).toEqual([...bytes].map((b) => b * 0.5));
  // The standard's own test vectors, section 10.
  expect([...unpack('Zm9vYmFy', 1)]).toEqual([...'foobar'].map((c) => c.charCodeAt(0)));
  expect([...unpack('Zm8=', 1)]).toEqual([102, 111]);
  expect([inputWeights.length, outputWeights.length]).toEqual([hidden * 401, hidden * 4 + 4]);
});

test('views and pages are turned clockwise', () => {
  const view = new Float32Array(viewCells * viewCells);
  view[2] = 1;
  expect(turnedView(view)[2 * viewCells + viewCells - 1]).toBe(1);
  let round: Float32Array = view;
  for (let k = 0; k < 4; k++) round = turnedView(round);
  expect(round).toEqual(view);
  const page = createRaster(3, 2, 1);
  page.data[0] = 9;
  const turned = turnedPage(page, 1);
  expect([turned.width, turned.height, turned.data[1]]).toEqual([2, 3, 9]);
});

test('an empty page has no way up, and probabilities add up to one', () => {
  const empty = createRaster(300, 400, 3);
  empty.data.fill(240);
  expect(textOrientation([empty]).confidence).toBe(0);
  expect(turnOf(new Float32Array(400)).reduce((s, p) => s + p, 0)).toBeCloseTo(1, 6);
});
