import { anchorFor, interleaved } from './order';

const list = ['a', 'b', 'c', 'd', 'e'];

test.each([
  [['b'], 'b', 'd', 'd'],
  [['d'], 'd', 'b', 'a'],
  [['c'], 'c', 'a', null],
  [['b', 'd'], 'b', 'e', 'e'],
  [['b', 'd'], 'd', 'c', 'a'],
  [['a', 'c'], 'c', 'b', null],
])('%j, lifted by %s and dropped on %s, come to stand after %s', (items, lifted, over, after) =>
  expect(anchorFor(list, items, lifted, over)).toBe(after),
);

test.each([
  [
    [1, 3, 5, 6, 4, 2],
    [1, 2, 3, 4, 5, 6],
  ],
  [
    [1, 3, 5, 4, 2],
    [1, 2, 3, 4, 5],
  ],
  [[1], [1]],
])('fronts, then backs from last to first: %j becomes %j', (taken, read) => expect(interleaved(taken)).toEqual(read));
