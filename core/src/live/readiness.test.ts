import type { Point, Quad, Raster } from '../raster/raster';
import { pagePhoto } from '../testing/pictures';
import { measureFrame } from './readiness';

const quad: Quad = [[60, 50], [300, 54], [296, 420], [56, 416]]; // prettier-ignore
const frame = pagePhoto(360, 480, quad);
const facts = { stillEdgePx: 4000, before: null };
const again = (f: Raster, q: Quad) => ({ stillEdgePx: 4000, before: { quad: q, coarse: measureFrame(f, q, facts).coarse } });

describe('readiness', () => {
  test('a whole, close, well lit page that does not move is ready', () => {
    const { readiness } = measureFrame(frame, quad, again(frame, quad));
    expect(readiness).toEqual({ whole: 1, close: 1, light: 1, still: 1, advice: '' });
  });

  test('a side out of the frame is named', () => {
    const out = quad.map(([x, y]): Point => [x - 80, y]) as unknown as Quad;
    expect(measureFrame(frame, out, facts).readiness).toMatchObject({ whole: 0, advice: 'The left side is cut off' });
  });

  test('too far away for the still’s resolution', () => {
    const far: Quad = [[140, 180], [220, 181], [219, 294], [140, 293]]; // prettier-ignore
    const distant = pagePhoto(360, 480, far);
    const { readiness } = measureFrame(distant, far, { ...again(distant, far), stillEdgePx: 1280 });
    expect(readiness.close).toBeLessThan(0.4);
    expect(readiness.advice).toBe('A little closer');
    // With a sensor of many pixels the same distance is close enough.
    expect(measureFrame(distant, far, { ...again(distant, far), stillEdgePx: 12000 }).readiness.close).toBe(1);
  });

  test('darkness and glare', () => {
    const dim = pagePhoto(360, 480, quad, { desk: [8, 7, 6], paper: [40, 38, 36] });
    expect(measureFrame(dim, quad, again(dim, quad)).readiness).toMatchObject({ advice: 'More light' });
    const glare = pagePhoto(360, 480, quad, { paper: [190, 190, 188] });
    for (let y = 150; y < 210; y++)
      for (let x = 120; x < 190; x++) glare.data.fill(255, (y * 360 + x) * 3, (y * 360 + x) * 3 + 3);
    expect(measureFrame(glare, quad, again(glare, quad)).readiness.advice).toContain('Glare');
  });

  test('motion of the page, or of the print on it', () => {
    const moved = quad.map(([x, y]): Point => [x + 6, y + 3]) as unknown as Quad;
    expect(measureFrame(frame, quad, again(pagePhoto(360, 480, moved), moved)).readiness).toMatchObject({ advice: 'Hold still' });
    expect(
      measureFrame(frame, quad, again(pagePhoto(360, 480, quad, { paper: [120, 118, 110] }), quad)).readiness.still,
    ).toBeLessThan(0.5);
  });

  test('a dark card in good light is not called dark: its print is bright', () => {
    const card = pagePhoto(360, 480, quad, { desk: [90, 88, 84], paper: [24, 40, 46] });
    for (let y = 100; y < 380; y += 24)
      for (let x = 90; x < 260; x++)
        for (let k = 0; k < 5; k++) card.data.fill(225, ((y + k) * 360 + x) * 3, ((y + k) * 360 + x) * 3 + 3);
    expect(measureFrame(card, quad, again(card, quad)).readiness.light).toBe(1);
  });

  test('print that is not sharp is said so, once nothing moves', () => {
    const { readiness } = measureFrame(frame, quad, { ...again(frame, quad), sharp: 0.5 });
    expect(readiness).toMatchObject({ still: 0.5, advice: 'Not sharp yet' });
    expect(measureFrame(frame, quad, { ...again(frame, quad), sharp: 1.3 }).readiness.still).toBe(1);
  });

  test('motion counts by time: the same way in a tenth of a second and in one', () => {
    const moved = quad.map(([x, y]): Point => [x + 4, y]) as unknown as Quad;
    const { before } = again(frame, quad);
    const still = (sinceMs: number) =>
      measureFrame(pagePhoto(360, 480, moved), moved, {
        stillEdgePx: 4000,
        before: { ...before, coarse: { ...before.coarse, data: new Float32Array(0) } },
        sinceMs,
      }).readiness.still;
    // Without a frame to compare with, nothing is known to be still.
    expect(still(90)).toBe(0);
    const corners = (sinceMs: number) => measureFrame(frame, moved, { stillEdgePx: 4000, before, sinceMs }).readiness.still;
    expect(corners(1000)).toBeGreaterThan(corners(90));
  });

  test('no page is told as such', () =>
    expect(measureFrame(frame, null, facts).readiness).toMatchObject({ whole: 0, advice: 'Show the whole page' }));
});
