import { asPolygon, bent, halves, isCurved, middlePart, polygonFor, snapped, withGutter, type Quad } from './quad';

const square: Quad = [[0, 0], [100, 0], [100, 100], [0, 100]]; // prettier-ignore
const close = (quad: Quad, wanted: readonly (readonly number[])[]) =>
  quad.forEach((p, i) => p.forEach((v, k) => expect(v).toBeCloseTo(wanted[i]![k]!, 5)));

test('a side bends in its middle, its ends and the other sides stay', () => {
  const polygon = asPolygon(square, 4);
  expect(polygon).toHaveLength(16);
  const curve = bent(polygon, 0, [0, -8]);
  expect(curve[0]).toEqual([0, 0]);
  expect(curve[2]).toEqual([50, -8]);
  expect(curve[1]).toEqual([25, -6]);
  expect(curve.slice(4)).toEqual(polygon.slice(4));
});

test('a side counts as curved from six thousandths of its length', () => {
  const polygon = (by: number) => bent(asPolygon(square), 2, [0, by]);
  expect(isCurved({ quad: square })).toBe(false);
  expect(isCurved({ quad: square, polygon: polygon(0.4) })).toBe(false);
  expect(isCurved({ quad: square, polygon: polygon(0.8) })).toBe(true);
});

test('a corner near one that the finder saw is taken onto it, one further off is not', () => {
  const seen: Quad = [[3, 4], [103, 0], [100, 104], [0, 300]]; // prettier-ignore
  expect(snapped(square, { kind: 'corner', index: 0 }, [seen], 6)[0]).toEqual([3, 4]);
  expect(snapped(square, { kind: 'corner', index: 0 }, [seen], 4)).toEqual(square);
  expect(snapped(square, { kind: 'side', index: 1 }, [seen], 6).slice(1, 3)).toEqual([[103, 0], [100, 104]]); // prettier-ignore
  // A side goes only with both of its ends.
  expect(snapped(square, { kind: 'side', index: 2 }, [seen], 6)).toEqual(square);
});

test('the halves of a page meet at its middle line and give the whole', () => {
  const [left, right] = halves(square, true);
  close(left, [[0, 0], [50, 0], [50, 100], [0, 100]]); // prettier-ignore
  expect([left[1], left[2]]).toEqual([right[0], right[3]]);
  const [upper] = halves(square, false);
  close(upper, [[0, 0], [100, 0], [100, 50], [0, 50]]); // prettier-ignore
});

test('seen at a slant the far half is the smaller one in the photo', () => {
  const slant: Quad = [[30, 0], [70, 0], [100, 100], [0, 100]]; // prettier-ignore
  const [upper, lower] = halves(slant, false);
  expect(upper[3][1] - upper[0][1]).toBeLessThan(lower[3][1] - lower[0][1]);
});

test('a part is the middle of the page', () => {
  close(middlePart(square), [[20, 20], [80, 20], [80, 80], [20, 80]]); // prettier-ignore
});

test('a curve follows its corners', () => {
  const outline = {
    v: 1 as const,
    quad: square,
    polygon: bent(asPolygon(square), 0, [0, -8]),
    confidence: 1,
    source: 'hand' as const,
  };
  const moved: Quad = [[10, 0], [110, 0], [100, 100], [0, 100]]; // prettier-ignore
  const polygon = polygonFor(outline, moved)!;
  expect(polygon[8]).toEqual([60, -8]);
});

test('the gutter of a spread moves for both of its pages; cards beside each other have none', () => {
  const right: Quad = [[101, 0], [200, 0], [200, 100], [100, 99]]; // prettier-ignore
  const moved: Quad = [[0, 0], [108, 2], [104, 100], [0, 100]]; // prettier-ignore
  expect(withGutter(square, moved, right, 3)).toEqual([[108, 2], [200, 0], [200, 100], [104, 100]]); // prettier-ignore
  // Another side was moved.
  const left: Quad = [[-9, 0], [100, 0], [100, 100], [-9, 100]]; // prettier-ignore
  expect(withGutter(square, left, right, 3)).toBeNull();
  const card = right.map(([x, y]) => [x + 12, y]) as Quad;
  expect(withGutter(square, moved, card, 3)).toBeNull();
});
