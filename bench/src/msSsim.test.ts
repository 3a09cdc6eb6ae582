import type { Plane } from '@libretto/core';
import { msSsim } from './msSsim';

const picture = (value: (x: number, y: number) => number): Plane => {
  const data = new Float32Array(192 * 192);
  for (let y = 0; y < 192; y++) for (let x = 0; x < 192; x++) data[y * 192 + x] = value(x, y);
  return { width: 192, height: 192, data };
};
const print = (dx: number, gain = 1) => picture((x, y) => gain * (y % 16 < 5 && ((x + dx) * 7) % 31 < 17 ? 40 : 220));

test('the same picture is 1, another is far from it (Wang et al. 2003)', () => {
  expect(msSsim(print(0), print(0))).toBeCloseTo(1, 6);
  expect(
    msSsim(
      print(0),
      picture(() => 190),
    ),
  ).toBeLessThan(0.3);
});

test('a shift costs more the further it goes; a little less light costs next to nothing', () => {
  const [one, three] = [msSsim(print(0), print(1)), msSsim(print(0), print(3))];
  expect(one).toBeGreaterThan(three);
  expect(msSsim(print(0), print(0, 0.95))).toBeGreaterThan(0.98);
});
