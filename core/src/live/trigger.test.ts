import type { Signature } from '../inspect/kinship';
import type { Readiness } from './readiness';
import { Trigger } from './trigger';

const full: Readiness = { whole: 1, close: 1, light: 1, still: 1, advice: '' };
const sheet = (seed: number): Signature => {
  let s = seed * 7919;
  const next = () => (s = (Math.imul(s, 1664525) + 1013904223) >>> 0) / 2 ** 31 - 1;
  return {
    blank: false,
    values: Float32Array.from({ length: 768 }, () => next() * 1.7),
    detail: Float32Array.from({ length: 96 * 128 }, () => 1 + next() * 0.3),
  };
};
const blank: Signature = { blank: true, values: new Float32Array(768), detail: new Float32Array(96 * 128) };
type Frame = [Readiness, Signature | null];
const hand: Frame = [{ ...full, still: 0, whole: 0 }, null];
const many = (n: number, frame: Frame) => Array.from({ length: n }, () => frame);

/** Frames at 15 a second; returns at which of them a picture was taken. */
function film(trigger: Trigger, frames: Frame[]): number[] {
  return frames.flatMap(([readiness, signature], i) => {
    if (!trigger.step(readiness, signature, i * 66).take) return [];
    trigger.taken(signature);
    return [i];
  });
}

describe('the page that takes itself', () => {
  test('only after all four have held for a moment, and once however long it lies there', () =>
    expect(film(new Trigger(), [...many(5, [{ ...full, still: 0.4 }, sheet(1)]), ...many(60, [full, sheet(1)])])).toEqual([12]));

  test('by looks as well as by time: whoever looks three times a second sees as much before it takes', () => {
    const trigger = new Trigger();
    const seldom = [0, 333, 666, 999].map((now) => trigger.step(full, sheet(1), now).take);
    expect(seldom).toEqual([false, false, true, true]);
    // Two looks far apart, with a stall between them, are no moment of calm.
    const stalled = new Trigger();
    expect([0, 900].map((now) => stalled.step(full, sheet(1), now).take)).toEqual([false, false]);
  });

  test('a sheet that was seen askew when the shutter went is known by its picture when it lies still', () => {
    const trigger = new Trigger();
    trigger.taken(sheet(1));
    trigger.learn(0, sheet(2));
    trigger.taken(sheet(3));
    expect(film(trigger, many(30, [full, sheet(2)]))).toEqual([]);
    expect(trigger.step(full, sheet(2), 1e5).again).toBe(0);
    // What is to be taken anew is not known by what it was.
    trigger.forget(0);
    trigger.learn(0, sheet(2));
    expect(film(trigger, many(30, [full, sheet(2)]))).toHaveLength(1);
  });

  test('a shake begins the moment anew, a tremor does not', () => {
    const shaken = (still: number): Frame[] => [
      ...many(5, [full, sheet(1)]),
      [{ ...full, still }, sheet(1)],
      ...many(9, [full, sheet(1)]),
    ];
    expect(film(new Trigger(), shaken(0.5))).toEqual([13]);
    expect(film(new Trigger(), shaken(0.7))).toEqual([7]);
  });

  test('the next sheet and a turned page are each taken', () => {
    const frames = [1, 2, 3, 4].flatMap((n) => [...many(15, [full, sheet(n)]), ...many(4, hand)]);
    expect(film(new Trigger(), frames)).toHaveLength(4);
    expect(
      film(
        new Trigger(),
        [1, 2, 3].flatMap((n) => many(15, [full, sheet(n)])),
      ),
    ).toHaveLength(3);
  });

  test('a hand that stays over the sheet for long does not double it', () => {
    const frames = [...many(12, [full, sheet(1)]), ...many(40, hand), ...many(20, [full, sheet(1)])];
    expect(film(new Trigger(), frames)).toHaveLength(1);
  });

  test('a sheet that turns up again later is not taken again, and it is said which it was', () => {
    const trigger = new Trigger();
    film(trigger, [1, 2, 3].flatMap((n) => [...many(15, [full, sheet(n)]), ...many(4, hand)])); // prettier-ignore
    expect(trigger.step(full, sheet(2), 9e4)).toEqual({ take: false, again: 1 });
    expect(film(trigger, many(30, [full, sheet(2)]))).toEqual([]);
  });

  test('a known sheet of which one place is seen askew, now here and now there, is no other copy', () => {
    const seenAskew = (look: number): Signature => {
      const detail = sheet(1).detail.slice();
      const at = 34 + 16 * (look % 2);
      for (let y = 32; y < 44; y++) detail.set(sheet(9).detail.subarray(y * 96 + at, y * 96 + at + 12), y * 96 + at);
      return { ...sheet(1), detail };
    };
    const askew = Array.from({ length: 60 }, (_, look): Frame => [full, seenAskew(look)]);
    expect(film(new Trigger(), [...many(20, [full, sheet(1)]), hand, ...askew])).toEqual([7]);
  });

  describe('another copy of a form, with one field filled in otherwise,', () => {
    const copy: Signature = { ...sheet(1), detail: sheet(1).detail.slice() };
    for (let y = 32; y < 44; y++) copy.detail.set(sheet(9).detail.subarray(y * 96 + 34, y * 96 + 46), y * 96 + 34);

    test('is taken once it is laid, after a longer moment', () => {
      const frames: Frame[] = [...many(20, [full, sheet(1)]), hand, ...many(40, [full, copy])];
      const [first, second, ...more] = film(new Trigger(), frames);
      expect(first).toBe(7);
      expect(second).toBeGreaterThan(21 + 2 * 7);
      expect(more).toEqual([]);
    });

    test('is the same sheet with a finger on it where nothing came between', () =>
      expect(film(new Trigger(), [...many(20, [full, sheet(1)]), ...many(60, [full, copy])])).toEqual([7]));
  });

  test('blank backs: one after another sheet is taken, the same one not twice', () => {
    const frames: Frame[] = [
      ...many(12, [full, blank]),
      ...many(20, [full, blank]),
      ...many(12, [full, sheet(1)]),
      ...many(12, [full, blank]),
    ];
    expect(film(new Trigger(), frames)).toHaveLength(3);
  });

  test('what was taken by hand is not taken again by itself, unless it is to be taken anew', () => {
    const trigger = new Trigger();
    trigger.taken(sheet(5));
    expect(film(trigger, many(30, [full, sheet(5)]))).toEqual([]);
    trigger.forget(0);
    expect(film(trigger, many(30, [full, sheet(5)]))).toHaveLength(1);
  });
});
