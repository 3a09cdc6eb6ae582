import { wordsOnPage } from './broughtWords';
import { isUnder } from './markDrawing';
import { wordsOfRuns, type TextRun } from './pdfWords';

// The matrices of PDF 32000-1, 8.3.3: a page of 600×800 points shown at 2 px a point, its y axis upwards.
const viewport = [2, 0, 0, -2, 0, 1600];
const styles = { f: { ascent: 0.8, descent: -0.2 } };
const run = (str: string, transform: number[], width: number): TextRun => ({ str, transform, width, fontName: 'f' });

test('a run is its words, each a share of its width, from its descenders to its ascenders', () => {
  // Nine letters of 10 points at (100, 700), 90 points wide.
  expect(wordsOfRuns([run('oak frame', [10, 0, 0, 10, 100, 700], 90)], styles, viewport)).toEqual([
    ['oak', 200, 184, 60, 20],
    ['frame', 280, 184, 100, 20],
  ]);
});

test('turned by a quarter it stands upright in the picture', () => {
  const [[text, x, y, width, height]] = wordsOfRuns([run('oak', [0, 10, -10, 0, 100, 700], 30)], styles, viewport) as [[string, number, number, number, number]]; // prettier-ignore
  expect([text, x, y, width, height]).toEqual(['oak', 184, 140, 20, 60]);
});

test('blanks are no words', () => {
  expect(wordsOfRuns([run('  ', [10, 0, 0, 10, 0, 0], 10), run('', [10, 0, 0, 10, 0, 0], 0)], styles, viewport)).toEqual([]);
});

// The page is the middle half of a photo of 1024×1024.
const toPage = ([x, y]: readonly [number, number]): [number, number] => [(x - 256) / 512, (y - 256) / 512];
const view = { width: 2048, height: 2048, pxPerMm: 10, toPage };

test('on a page that is a part of the photo, what is cut by its border does not stand on it', () => {
  const brought = [['in', 320, 320, 128, 32], ['cut', 192, 320, 128, 32], ['out', 10, 10, 50, 20]] as never; // prettier-ignore
  expect(wordsOnPage(brought, view)).toEqual([{ text: 'in', box: { x: 256, y: 256, width: 512, height: 128 } }]);
});

test('a cover is over what it touches; one that keeps its inside, over what is not wholly within', () => {
  const cover = { kind: 'cover', id: 'cover-1', from: [320, 320], to: [448, 352], fill: 'black' } as const;
  const [x, y, width, height] = [256, 256, 512, 128];
  const under = (dx: number, outside = false) => isUnder({ x: x + dx, y, width, height }, { ...cover, from: [...cover.from], to: [...cover.to], outside }, view); // prettier-ignore
  expect([under(0), under(500), under(520)]).toEqual([true, true, false]);
  expect([under(0, true), under(1, true)]).toEqual([false, true]);
});
