import { sumOfTrees, sumsOfTrees, unpackTrees } from './trees';

/** Bytes of a tree of depth 2: its nodes, then its leaves as 16 bit integers. */
const tree = (nodes: number[], leaves: number[]) => [...nodes, ...new Uint8Array(Int16Array.from(leaves).buffer)];

test('each tree leads to one of its leaves, cut by cut; their leaves and the base are added up', () => {
  const bytes = [
    ...tree([0, 0, 1, 0, 1, 1], [10, 20, 30, -40]),
    // All go on to the left where nothing is worth a cut.
    ...tree([1, 2, 1, 2, 1, 2], [100, 0, 0, 0]),
  ];
  const trees = unpackTrees(2, 0.5, ['0', '-1 1'], Buffer.from(bytes).toString('base64'), 0.1);
  const sum = (...numbers: number[]) => +sumOfTrees(trees, numbers).toFixed(4);
  expect(sum(-1, -2)).toBe(0.5 + 1 + 10);
  // At a cut it goes left.
  expect(sum(0, -1)).toBe(0.5 + 1 + 10);
  expect(sum(0, 0)).toBe(0.5 + 2 + 10);
  expect(sum(1, 1)).toBe(0.5 + 3 + 10);
  expect(sum(1, 2)).toBe(0.5 - 4 + 10);
  // Row by row, four at a time and what is left over.
  const rows = [-1, -2, 0, -1, 0, 0, 1, 1, 1, 2, -1, -2, 1, 2];
  const one = Array.from({ length: 7 }, (_, i) => sumOfTrees(trees, rows.slice(2 * i, 2 * i + 2)));
  expect([...sumsOfTrees(trees, new Float32Array(rows), 2)]).toEqual(one);
});
