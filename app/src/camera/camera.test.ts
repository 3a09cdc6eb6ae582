import type { Quad, Readiness, Signature } from '@libretto/core';
import { CameraError } from './camera';
import { openDevice } from './device';
import { SteadyOutline } from './steady';
import { Trigger } from './trigger';

const full: Readiness = { whole: 1, close: 1, light: 1, still: 1, advice: '' };
const sheet = (seed: number): Signature => {
  let s = seed * 7919;
  return {
    blank: false,
    values: Float32Array.from({ length: 768 }, () => ((s = (Math.imul(s, 1664525) + 1013904223) >>> 0) / 2 ** 31 - 1) * 1.7),
  };
};

/** Frames at 15 a second; returns at which of them a picture was taken. */
function film(trigger: Trigger, frames: [Readiness, Signature | null][]): number[] {
  return frames.flatMap(([readiness, signature], i) => {
    if (!trigger.step(readiness, signature, i * 66)) return [];
    trigger.taken(signature);
    return [i];
  });
}
const many = (n: number, frame: [Readiness, Signature | null]) => Array.from({ length: n }, () => frame);

describe('the page that takes itself', () => {
  test('only after all four have held for a moment, and once however long it lies there', () => {
    const taken = film(new Trigger(), [...many(5, [{ ...full, still: 0.4 }, sheet(1)]), ...many(60, [full, sheet(1)])]);
    expect(taken).toEqual([12]);
  });

  test('a shake begins the moment anew', () => {
    expect(
      film(new Trigger(), [...many(5, [full, sheet(1)]), [{ ...full, still: 0.9 }, sheet(1)], ...many(9, [full, sheet(1)])]),
    ).toEqual([13]);
  });

  test('the next sheet, a turned page and the first sheet again are each taken', () => {
    const hand: [Readiness, Signature | null] = [{ ...full, still: 0, whole: 0 }, null];
    const taken = film(
      new Trigger(),
      [1, 2, 3, 1].flatMap((n) => [...many(15, [full, sheet(n)]), ...many(4, hand)]),
    );
    expect(taken).toHaveLength(4);
  });

  test('a hand that passes over the same sheet, or a frame without outline, does not double it', () => {
    const taken = film(new Trigger(), [
      ...many(12, [full, sheet(1)]),
      ...many(2, [full, null] as [Readiness, null]),
      ...many(20, [full, sheet(1)]),
    ]);
    expect(taken).toHaveLength(1);
  });

  test('what was taken by hand is not taken again by itself', () => {
    const trigger = new Trigger();
    trigger.taken(sheet(5));
    expect(film(trigger, many(30, [full, sheet(5)]))).toEqual([]);
  });
});

describe('the outline on the live picture', () => {
  const at = (x: number): Quad => [[x, 0.1], [x + 0.5, 0.1], [x + 0.5, 0.8], [x, 0.8]]; // prettier-ignore

  test('noise is smoothed', () => {
    const steady = new SteadyOutline();
    let worst = 0;
    for (let i = 0; i < 60; i++) {
      const shown = steady.next(at(0.2 + (i % 2 ? 0.004 : -0.004)))!;
      if (i > 5) worst = Math.max(worst, Math.abs(shown[0][0] - 0.2));
    }
    expect(worst).toBeLessThan(0.003);
  });

  test('one stray frame neither moves it nor takes it away; three do', () => {
    const steady = new SteadyOutline();
    steady.next(at(0.2));
    expect(steady.next(at(0.45))![0][0]).toBe(0.2);
    expect(steady.next(null)![0][0]).toBe(0.2);
    for (let i = 0; i < 3; i++) steady.next(at(0.45));
    expect(steady.next(at(0.45))![0][0]).toBeCloseTo(0.45, 6);
    for (let i = 0; i < 3; i++) steady.next(null);
    expect(steady.next(null)).toBeNull();
  });
});

describe('what is in the way of a camera', () => {
  const secure = (value: boolean) => Object.defineProperty(window, 'isSecureContext', { value, configurable: true });
  const devices = (getUserMedia: unknown) =>
    Object.defineProperty(navigator, 'mediaDevices', { value: getUserMedia && { getUserMedia }, configurable: true });

  test.each([
    ['NotAllowedError', 'refused'],
    ['NotFoundError', 'none'],
    ['NotReadableError', 'taken'],
    ['TypeError', 'fault'],
  ])('%s is told as "%s"', async (name, fault) => {
    secure(true);
    devices(() => Promise.reject(Object.assign(new Error(name), { name })));
    await expect(openDevice(null)).rejects.toMatchObject({ fault });
  });

  test('an insecure address and a browser without cameras', async () => {
    secure(false);
    await expect(openDevice(null)).rejects.toMatchObject({ fault: 'insecure' });
    secure(true);
    devices(undefined);
    await expect(openDevice(null)).rejects.toBeInstanceOf(CameraError);
  });
});
