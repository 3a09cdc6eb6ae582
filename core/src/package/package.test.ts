import { noisePicture, pagePhoto } from '../testing/pictures';
import type { Quad } from '../raster/raster';
import { analysePage, findPages, finish, finishWindow, flatten, inspectPage, render } from './index';

const quad: Quad = [[60, 50], [330, 60], [325, 420], [50, 410]]; // prettier-ignore
const photo = pagePhoto(400, 480, quad);
const shape = { quad, turn: 0 } as const;

test('the steps one after the other are render in one', () => {
  const flat = flatten(photo, shape);
  const analysis = analysePage(flat);
  const page = finish(flat, { filter: 'grey' }, analysis);
  expect(page.image.data).toEqual(render(photo, { ...shape, filter: 'grey' }).image.data);
  const box = { x: 20, y: 30, width: 40, height: 20 };
  const window = finishWindow(flat, { filter: 'grey' }, analysis, box);
  expect([window.width, window.height]).toEqual([40, 20]);
  expect(inspectPage(photo, quad, flat).findings.map((f) => f.id)).not.toContain('cut-off');
});

test.each<[string, () => unknown, string]>([
  ['an option that is not there', () => findPages(photo, { workingEdge: 480 } as never), 'findPages: there is no option "workingEdge"; there are workingEdgePx, '],
  ['a number out of range', () => findPages(photo, { leastConfidence: 2 }), 'findPages: option "leastConfidence" is a number from 0 to 1, received 2'],
  ['a word instead of a number', () => flatten(photo, shape, { dpi: '300' as never }), 'flatten: option "dpi" is a number of at least 1, received "300"'],
  ['not a number', () => flatten(photo, shape, { dpi: NaN }), 'option "dpi"'],
  ['three corners', () => flatten(photo, { ...shape, quad: quad.slice(1) as never }), 'flatten: option "quad" is four corners [x, y] in photo pixels, or null'],
  ['a turn between', () => flatten(photo, { quad, turn: 45 as never }), 'flatten: option "turn" is one of 0, 90, 180, 270, received 45'],
  ['nothing said of the turn', () => flatten(photo, { quad } as never), 'flatten: option "turn" is missing'],
  ['an unknown filter', () => render(photo, { ...shape, filter: 'nice' as never }), 'render: option "filter" is one of auto, original, '],
  ['an adjustment too far', () => finish(flatten(photo, shape), { filter: 'grey', adjust: { contrast: 3 } }), 'finish: option "adjust" is an object of brightness, '],
  ['options that are none', () => findPages(photo, 7 as never), 'findPages: options are an object, received 7'],
  ['samples that do not fit', () => findPages({ ...noisePicture(30, 30, 3), width: 31 }), 'needs 2790 samples, received 2700'],
])('%s is refused by its name', (_what, act, said) => {
  expect(act).toThrow(said);
}); // prettier-ignore

test('options that are left out, or undefined, are as they are by themselves', () => {
  expect(findPages(photo, { at: undefined, most: undefined } as never)).toEqual(findPages(photo));
});
