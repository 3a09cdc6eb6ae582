import { CalmReadiness } from './calm';
import type { Readiness } from './readiness';

const seen = (advice: string, part: Partial<Readiness> = {}): Readiness => ({
  whole: 1,
  close: 1,
  light: 1,
  still: 1,
  advice,
  ...part,
});
const run = (calm: CalmReadiness, frames: [atMs: number, readiness: Readiness][]) => frames.map(([at, r]) => calm.next(r, at));

describe('readiness as people see it', () => {
  test('the first is shown at once', () => expect(new CalmReadiness().next(seen('Hold still'), 0).advice).toBe('Hold still'));

  test('advice that comes for a frame or two is not shown', () => {
    const calm = new CalmReadiness();
    const shown = run(calm, [[0, seen('A little closer')], [1000, seen('Hold still')], [1050, seen('A little closer')], [1100, seen('Hold still')], [1150, seen('A little closer')]]); // prettier-ignore
    expect(shown.map((r) => r.advice)).toEqual(Array(5).fill('A little closer'));
  });

  test('what has been shown stays long enough to be read, then gives way', () => {
    const calm = new CalmReadiness();
    const frames = Array.from({ length: 30 }, (_, i): [number, Readiness] => [
      i * 50,
      i < 2 ? seen('More light') : seen('Hold still'),
    ]);
    const shown = run(calm, frames).map((r) => r.advice);
    expect(shown.lastIndexOf('More light') * 50).toBeGreaterThanOrEqual(850);
    expect(shown.at(-1)).toBe('Hold still');
  });

  test('that there is nothing left to say is not held back', () => {
    const calm = new CalmReadiness();
    const shown = run(calm, [[0, seen('Hold still')], [50, seen('')], [420, seen('')]]); // prettier-ignore
    expect(shown[2]!.advice).toBe('');
  });

  test('a full bar stays full in a tremor, and falls when it is meant', () => {
    const calm = new CalmReadiness();
    const [, tremor, fallen] = run(calm, [[0, seen('')], [50, seen('', { still: 0.85 })], [100, seen('', { still: 0.2 })]]); // prettier-ignore
    expect(tremor!.still).toBe(1);
    expect(fallen!.still).toBeLessThan(0.7);
  });
});
