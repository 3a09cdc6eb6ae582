import type { Mark } from '@libretto/model';
import { resized, shifted } from './markChanges';

/** A page of 1000 × 2000 photo px. */
const ways = {
  toPage: ([x, y]: readonly [number, number]) => [x / 1000, y / 2000] as const,
  toPhoto: ([u, v]: readonly [number, number]) => [u * 1000, v * 2000] as const,
};
const box: Mark = { kind: 'box', id: 'mark-1', from: [100, 200], to: [300, 600], widthMm: 0.8, colour: 'red' };
const ink: Mark = { kind: 'ink', id: 'mark-2', points: [[100, 200, 0.5], [300, 400]], widthMm: 0.8, colour: 'ink' }; // prettier-ignore
const note: Mark = { kind: 'note', id: 'mark-3', at: [100, 200], along: [140, 200], text: 'Oak', sizePt: 14, colour: 'blue' };

const rounded = (mark: Mark | undefined) =>
  JSON.parse(JSON.stringify(mark, (_, v) => (typeof v === 'number' ? +v.toFixed(3) : v)));

test('a shift moves all places of a mark, and leaves a pen’s pressure', () => {
  expect(rounded(shifted(box, ways, [0.1, 0.05]))).toMatchObject({ from: [200, 300], to: [400, 700] });
  expect(rounded(shifted(ink, ways, [0.1, 0]))).toMatchObject({ points: [[200, 200, 0.5], [400, 400]] }); // prettier-ignore
  expect(rounded(shifted(note, ways, [0, 0.1]))).toMatchObject({ at: [100, 400], along: [140, 400], sizePt: 14 });
});

const pull = (marks: Mark[], now: [number, number]) => resized(marks, ways, { anchor: [0.1, 0.1], corner: [0.3, 0.3], now, ratio: 0.5 }); // prettier-ignore

test('a shape is pulled freely, its far corner stays', () => {
  expect(rounded(pull([box], [0.5, 0.2])[0])).toMatchObject({ from: [100, 200], to: [500, 400] });
});

test('what is drawn or written by hand keeps its shape', () => {
  // Along its diagonal twice as far.
  const [drawn] = pull([ink], [0.5, 0.5]);
  expect(rounded(drawn)).toMatchObject({ points: [[100, 200, 0.5], [500, 600]] }); // prettier-ignore
  expect(rounded(pull([note], [0.5, 0.5])[0])).toMatchObject({ at: [100, 200], along: [180, 200], sizePt: 28 });
  // Pulled across only, as far as that leads along it.
  const [across] = pull([ink], [0.5, 0.3]) as [Mark & { points: number[][] }];
  const [, [x, y]] = across.points as [number[], [number, number]];
  expect((x - 100) / 200).toBeCloseTo((y - 200) / 200, 6);
});

test('nothing is pulled through its other corner, nor larger than it can be written', () => {
  expect(rounded(pull([box], [-1, -1])[0])).toMatchObject({ from: [100, 200], to: [110, 220] });
  expect(pull([note], [9, 9])[0]).toMatchObject({ sizePt: 96 });
});
