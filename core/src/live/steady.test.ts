import type { Quad } from '../raster/raster';
import { SteadyOutline } from './steady';

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
