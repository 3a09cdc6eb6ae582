import type { Point, Quad, Raster } from '../raster/raster';
import { pagePhoto, random } from '../testing/pictures';
import { measureFrame } from './readiness';
import { likeness, pageSignature } from './signature';

const quad: Quad = [[60, 50], [300, 54], [296, 420], [56, 416]]; // prettier-ignore
const frame = pagePhoto(360, 480, quad);
const facts = { stillEdgePx: 4000, before: null };
const again = (f: Raster, q: Quad) => ({ stillEdgePx: 4000, before: { quad: q, luma: measureFrame(f, q, facts).luma } });

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

  test('no page is told as such', () =>
    expect(measureFrame(frame, null, facts).readiness).toMatchObject({ whole: 0, advice: 'Show the whole page' }));
});

describe('which page it is', () => {
  const printed = (seed: number, light = 1): Raster => {
    const page = pagePhoto(360, 480, quad, { seed });
    const next = random(seed);
    for (let k = 0; k < 14; k++) {
      const [x0, y0] = [80 + next() * 150, 80 + next() * 290];
      for (let y = y0 | 0; y < y0 + 26; y++)
        for (let x = x0 | 0; x < x0 + 60; x++) page.data.fill(70, (y * 360 + x) * 3, (y * 360 + x) * 3 + 3);
    }
    for (let i = 0; i < page.data.length; i++) page.data[i] *= light * (0.75 + 0.25 * (((i / 3) % 360) / 360));
    return page;
  };

  test('the same sheet in other light and a little aside is the same, another is not', () => {
    const aside = quad.map(([x, y]): Point => [x + 2, y - 2]) as unknown as Quad;
    const one = pageSignature(printed(3), quad);
    expect(likeness(one, pageSignature(printed(3, 0.7), aside))).toBeGreaterThan(0.85);
    for (let seed = 4; seed < 12; seed++) expect(likeness(one, pageSignature(printed(seed), quad))).toBeLessThan(0.75);
  });

  test('blank pages are alike, and unlike printed ones', () => {
    const blank: Raster = { width: 360, height: 480, channels: 3, data: new Uint8Array(360 * 480 * 3).fill(230) };
    const empty = pageSignature(blank, quad);
    expect(empty.blank).toBe(true);
    expect(likeness(empty, pageSignature(blank, quad))).toBe(1);
    expect(likeness(empty, pageSignature(printed(3), quad))).toBe(0);
  });
});
