import type { Point, Quad } from '../raster/raster';
import { pagePhoto } from '../testing/pictures';
import { LiveEye } from './eye';
import { followPage, LiveFinder } from './follow';

const at = (dx: number, dy: number): Quad => [[50 + dx, 40 + dy], [190 + dx, 44 + dy], [186 + dx, 250 + dy], [46 + dx, 246 + dy]]; // prettier-ignore
const shot = (quad: Quad | null, seed = 7) => pagePhoto(240, 300, quad, { seed });
const off = (a: readonly Point[], b: readonly Point[]) =>
  Math.max(...a.map((p, i) => Math.hypot(p[0] - b[i]![0], p[1] - b[i]![1])));
const found = () => new LiveFinder().next(shot(at(0, 0)))!;

describe('following an outline from frame to frame', () => {
  test('it goes along with a page that moves a little', () => {
    const next = followPage(shot(at(3, -2), 9), found());
    expect(off(next!.quad, at(3, -2))).toBeLessThan(1.5);
  });

  test('it is given up when the page is gone, or a side is', () => {
    const outline = found();
    expect(followPage(shot(null), outline)).toBeNull();
    const covered = shot(at(0, 0));
    for (let y = 0; y < 300; y++) for (let x = 150; x < 240; x++) covered.data.set([150, 110, 90], (y * 240 + x) * 3);
    expect(followPage(covered, outline)).toBeNull();
  });

  test('an outline that was never seen along its sides cannot be followed', () => {
    expect(followPage(shot(at(0, 0)), { quad: at(0, 0), confidence: 1 })).toBeNull();
  });
});

test('the live finder finds, follows, loses and finds again', () => {
  const finder = new LiveFinder();
  expect(finder.next(shot(null))).toBeNull();
  expect(off(finder.next(shot(at(0, 0)))!.quad, at(0, 0))).toBeLessThan(2);
  for (let k = 1; k <= 4; k++) expect(off(finder.next(shot(at(2 * k, k), k))!.quad, at(2 * k, k))).toBeLessThan(2);
  expect(finder.next(shot(null))).toBeNull();
  expect(off(finder.next(shot(at(-10, 20)))!.quad, at(-10, 20))).toBeLessThan(2);
}, 30_000);

test('what is followed gives way to another outline that is found again in the same place', () => {
  const finder = new LiveFinder();
  // A card is found first; then the sheet is laid under it.
  const card: Quad = [[90, 90], [150, 92], [149, 132], [89, 130]]; // prettier-ignore
  const cardOnly = pagePhoto(240, 300, card, { paper: [214, 190, 120] });
  expect(off(finder.next(cardOnly)!.quad, card)).toBeLessThan(3);
  const both = pagePhoto(240, 300, at(0, 0));
  for (let y = 86; y < 136; y++) for (let x = 86; x < 154; x++) both.data.set(cardOnly.data.subarray((y * 240 + x) * 3, (y * 240 + x) * 3 + 3), (y * 240 + x) * 3); // prettier-ignore
  let quad: Quad = card;
  for (let k = 0; k < 40; k++) quad = finder.next(both)!.quad;
  expect(off(quad, at(0, 0))).toBeLessThan(3);
}, 30_000);

test('the eye tells outlines in shares, where to look for sharpness, and when nothing moves', () => {
  const eye = new LiveEye();
  eye.look(shot(at(0, 0)), null, 3000, 0);
  // The same picture again within a camera's pace is the same picture, not a page that lies still.
  expect(eye.look(shot(at(0, 0)), null, 3000, 90).readiness.still).toBe(0);
  const sight = eye.look(shot(at(0, 0)), null, 3000, 300);
  expect(
    off(
      sight.quad!.map(([x, y]): Point => [x * 240 - 0.5, y * 300 - 0.5]),
      at(0, 0),
    ),
  ).toBeLessThan(2);
  expect(sight.readiness).toMatchObject({ whole: 1, still: 1 });
  const [u, v] = eye.detailAt!;
  expect(u > 0.2 && u < 0.8 && v > 0.14 && v < 0.84).toBe(true);
  expect(eye.look(shot(null), null, 3000, 390)).toMatchObject({ quad: null, signature: null });
  expect(eye.detailAt).toBeNull();
}, 30_000);
