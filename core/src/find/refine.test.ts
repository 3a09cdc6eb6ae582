import type { Point } from '../raster/raster';
import { random } from '../testing/pictures';
import { evaluate, offsetAt, pointOn, smoothPath, traceSide, type TraceOptions } from './refine';
import { sampledBy } from './sampler';

const a: Point = [10, 50];
const b: Point = [310, 50];
const options: TraceOptions = { reachPx: 12, samples: 90, degree: 4, agreePx: 1, sign: 1 };

/** A picture that is bright below a curve, with an edge about a pixel wide. */
const below = (edge: (x: number) => number, noise = 0, seed = 1) => {
  const next = random(seed);
  return sampledBy((x, y) => 20 + 60 / (1 + Math.exp((edge(x) - y) / 0.5)) + noise * (next() - 0.5));
};
const bow = (x: number) => 50 + 6 * Math.sin(((x - 10) / 300) * Math.PI);

describe('traceSide', () => {
  test('follows a bowed side to a third of a pixel, and says how bowed it is', () => {
    const side = traceSide(below(bow), a, b, options)!;
    for (const t of [0.05, 0.3, 0.5, 0.8, 0.95]) {
      const [x, y] = pointOn(side, t);
      expect(Math.abs(y - bow(x))).toBeLessThan(0.33);
    }
    expect(side.agreement).toBeGreaterThan(0.95);
    expect(side.bow).toBeCloseTo(6 / 300, 2);
    expect(side.level).toBeGreaterThan(5);
  });

  test('a straight line does not agree with it', () => {
    expect(traceSide(below(bow), a, b, { ...options, degree: 1 })!.agreement).toBeLessThan(0.6);
  });

  test('noise moves it by little', () => {
    for (const seed of [1, 2, 3]) {
      const side = traceSide(below(bow, 16, seed), a, b, options)!;
      const off = side.path.map(({ t, o }) => Math.abs(50 + o - bow(10 + 300 * t))).sort((p, q) => p - q);
      expect(off[off.length >> 1]).toBeLessThan(0.6);
      const [x, y] = pointOn(side, 0.5);
      expect(Math.abs(y - bow(x))).toBeLessThan(0.5);
    }
  });

  test('an edge that goes the other way is not the one that is looked for', () => {
    // Bright from 44 to 56: the lower edge falls.
    const strip = sampledBy((_, y) => 20 + 60 / (1 + Math.exp((44 - y) / 0.5)) - 60 / (1 + Math.exp((56 - y) / 0.5)));
    expect(pointOn(traceSide(strip, a, b, { ...options, degree: 1 })!, 0.5)[1]).toBeCloseTo(44, 0);
    expect(pointOn(traceSide(strip, a, b, { ...options, degree: 1, sign: -1 })!, 0.5)[1]).toBeCloseTo(56, 0);
  });

  test('held at its ends it may not wander off there', () => {
    const slanted = (x: number) => 50 + 9 * (1 - (x - 10) / 300);
    const free = traceSide(below(slanted), a, b, { ...options, degree: 1 })!;
    expect(offsetAt(free, 0.02)).toBeGreaterThan(8);
    const held = traceSide(below(slanted), a, b, { ...options, degree: 1, endsPx: 1 })!;
    expect(held.agreement).toBeLessThan(free.agreement);
  });

  test('looked for about a curve, a narrow band is enough', () => {
    const narrow = { ...options, reachPx: 2 };
    const along = traceSide(below(bow), a, b, { ...narrow, around: (t) => bow(10 + 300 * t) - 50 + 0.7 })!;
    expect(along.agreement).toBeGreaterThan(0.95);
    expect(Math.abs(pointOn(along, 0.5)[1] - 56)).toBeLessThan(0.2);
    expect(traceSide(below(bow), a, b, narrow)!.agreement).toBeLessThan(0.7);
  });

  test('what is too short, or not in the picture, is no side', () => {
    expect(traceSide(below(bow), [10, 50], [16, 50], options)).toBeNull();
    const outside = sampledBy((x, y) => (x > 60 ? NaN : 20 + y));
    expect(traceSide(outside, a, b, options)).toBeNull();
  });
});

test('a smooth path leaves out single strays and goes on beyond its ends as it ends', () => {
  const path = Array.from({ length: 41 }, (_, i) => ({ t: i / 40, o: 2 + 4 * (i / 40) + (i === 20 ? 9 : 0) }));
  const curve = smoothPath({ a, b, coefficients: [0], path, agreement: 1, level: 1, bow: 0 });
  for (const t of [0.1, 0.3, 0.5, 0.9]) expect(Math.abs(curve(t) - 2 - 4 * t)).toBeLessThan(0.1);
  for (const t of [-0.1, 1.1]) expect(Math.abs(curve(t) - 2 - 4 * t)).toBeLessThan(0.15);
});

test('points lie on the right of the chord by their offset; polynomials by Horner’s rule', () => {
  const side = { a: [0, 0] as Point, b: [0, 100] as Point, coefficients: [3, 0, 2] };
  // Down the picture the right hand points to its left.
  expect(pointOn(side, 0)).toEqual([-3, 0]);
  expect(pointOn(side, 0.5)).toEqual([-3.5, 50]);
  expect(evaluate([1, -2, 3], 2)).toBe(1 - 4 + 12);
});
