import type { Point, Quad, Raster } from '../raster/raster';
import { pagePhoto, random } from '../testing/pictures';
import { kinship, likeness } from './kinship';
import { pageSignature } from './signature';

const quad: Quad = [[60, 50], [300, 54], [296, 420], [56, 416]]; // prettier-ignore

/** A form: a frame, a heading and ruled rows that all copies share; in each row words that only this copy has. */
const form = (seed: number, light = 1): Raster => {
  const page = pagePhoto(360, 480, quad, { seed: 5 });
  const noise = random(seed * 31 + 7);
  const words = random(seed);
  const draw = (x0: number, y0: number, w: number, h: number, level: number) => {
    for (let y = y0 | 0; y < y0 + h; y++)
      for (let x = x0 | 0; x < x0 + w; x++) page.data.fill(level, (y * 360 + x) * 3, (y * 360 + x) * 3 + 3);
  };
  draw(66, 62, 224, 342, 232);
  draw(80, 76, 120, 14, 60);
  for (let row = 0; row < 13; row++) {
    draw(76, 112 + row * 22, 206, 2, 90);
    for (let x = 80; x < 270;) {
      const w = 8 + words() * 26;
      if (words() < 0.7) draw(x, 118 + row * 22, Math.min(w, 278 - x), 9, 70);
      x += w + 5 + words() * 16;
    }
  }
  for (let i = 0; i < page.data.length; i++)
    page.data[i] = page.data[i] * light * (0.8 + 0.2 * (((i / 3) % 360) / 360)) + (noise() - 0.5) * 8;
  return page;
};
const aside = quad.map(([x, y]): Point => [x + 2, y - 2]) as unknown as Quad;

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

describe('whether it is the same sheet', () => {
  test('in other light, a little aside', () =>
    expect(kinship(pageSignature(form(3), quad), pageSignature(form(3, 0.75), aside))).toBe('same'));

  test('with a finger on it, it may be another copy, but no other sheet', () => {
    const finger = form(3, 0.7);
    for (let y = 330; y < 420; y++) for (let x = 60; x < 130; x++) finger.data.set([190, 140, 120], (y * 360 + x) * 3);
    expect(kinship(pageSignature(form(3), quad), pageSignature(finger, quad))).not.toBe('other');
  });

  test('two filled-in copies of one form are two sheets', () => {
    const one = pageSignature(form(3), quad);
    for (let seed = 10; seed < 20; seed++) expect(kinship(one, pageSignature(form(seed), aside))).not.toBe('same');
  });

  test('so are two that differ in one line only', () => {
    const one = pageSignature(form(3), quad);
    const other = form(3);
    const line = form(12);
    for (let y = 226; y < 240; y++) other.data.set(line.data.subarray(y * 1080, (y + 1) * 1080), y * 1080);
    expect(kinship(one, pageSignature(other, aside))).toBe('copy');
  });
});
