import { firstChoice, toolOf } from '../page/markTools';
import { belong, keepSignature, keptSignature, signatureMarks, signatureOf } from './signature';

const strokes = [[[10, 20], [110, 70]], [[60, 20, 0.5], [60, 45, 0.7]]] as never; // prettier-ignore

test('a signature is kept in a box of its own, and is gone when it is deleted', () => {
  const signature = signatureOf(strokes)!;
  expect(signature).toEqual({ height: 0.5, strokes: [[[0, 0], [1, 0.5]], [[0.5, 0, 0.5], [0.5, 0.25, 0.7]]] }); // prettier-ignore
  expect(signatureOf([])).toBeNull();
  expect(signatureOf([[[5, 5]]])).toBeNull();
  keepSignature(signature);
  expect(keptSignature()).toEqual(signature);
  localStorage.setItem('libretto-signature', '{damaged');
  expect(keptSignature()).toBeNull();
  keepSignature(null);
  expect(keptSignature()).toBeNull();
});

test('it is put on the page by its middle, as wide as it was chosen, as strokes that belong together', () => {
  let n = 0;
  // Two photo px a mm, the page's corner at 100, 200.
  const marks = signatureMarks(signatureOf(strokes)!, [50, 80], { widthMm: 40, colour: 'blue' }, ([x, y]) => [100 + 2 * x, 200 + 2 * y], () => `id-${n++}`); // prettier-ignore
  expect(marks).toMatchObject([
    { kind: 'ink', colour: 'blue', points: [[160, 340], [240, 380]] },
    { kind: 'ink', colour: 'blue', points: [[200, 340, 0.5], [200, 360, 0.7]] },
  ]); // prettier-ignore
  expect(belong(marks[0]!, marks[1]!)).toBe(true);
  expect(belong(marks[0]!, { ...marks[1]!, group: 'other' } as never)).toBe(false);
  expect(belong({ kind: 'cover' } as never, { kind: 'cover', id: 'x' } as never)).toBe(false);
});

test('without a signature the tool asks for it first', () => {
  const choice = { ...firstChoice, id: 'note', writes: 'signature' } as const;
  expect(toolOf(choice)).toMatchObject({ kind: 'note', writes: 'signature' });
  expect(toolOf(choice, { height: 0.5, strokes })).toMatchObject({ kind: 'signature', widthMm: 45 });
});
