import { createRaster, type Raster } from '@libretto/core';
import { framesIn } from './frames';
import { layoutOf } from './layout';

const perMm = 8;
type Place = readonly [x: number, y: number];

/** A white A5 page on which strokes of a pen are drawn through places, mm. */
function drawnOn(strokes: readonly (readonly Place[])[], thickMm = 0.5): Raster {
  const page = createRaster(148 * perMm, 210 * perMm, 1);
  page.data.fill(255);
  const r = (thickMm * perMm) / 2;
  for (const stroke of strokes)
    for (let i = 1; i < stroke.length; i++) {
      const [a, b] = [stroke[i - 1]!, stroke[i]!];
      const steps = Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) * perMm);
      for (let k = 0; k <= steps; k++) {
        const [x, y] = [0, 1].map((c) => (a[c]! + ((b[c]! - a[c]!) * k) / steps) * perMm) as [number, number];
        for (let v = Math.floor(y - r); v <= y + r; v++)
          for (let u = Math.floor(x - r); u <= x + r; u++)
            if (page.data[v * page.width + u] !== undefined) page.data[v * page.width + u] = 40;
      }
    }
  return page;
}
const framesOf = (page: Raster) => framesIn(layoutOf(page, 148), 148);

/** By hand: no side is straight, and the pen ends a little beside where it began. */
const box = (x: number, y: number, w: number, h: number): Place[] => [
  [x, y + 0.8], [x + w / 3, y], [x + (2 * w) / 3, y + 1.1], [x + w, y + 0.3], [x + w + 0.9, y + h / 2], [x + w - 0.5, y + h],
  [x + w / 2, y + h - 0.9], [x + 0.7, y + h + 0.4], [x - 0.6, y + h / 2], [x + 0.2, y + 1],
]; // prettier-ignore
/** Letters, no more than up and down. */
const writing = (x: number, y: number, letters: number): Place[][] =>
  Array.from({ length: letters }, (_, i) => [[x + 4 * i, y + 4], [x + 4 * i + 1, y], [x + 4 * i + 2, y + 4]] as Place[]); // prettier-ignore

test('a box drawn by hand round a line is found where it is', () => {
  const [frame, ...others] = framesOf(drawnOn([box(30, 25, 80, 12), ...writing(36, 29, 15), ...writing(20, 60, 25), ...writing(20, 70, 20)])); // prettier-ignore
  expect(others).toEqual([]);
  const { x, y, width, height } = frame!;
  for (const [is, should] of [[x, 29.4], [y, 25], [width, 81.5], [height, 12.6]]) expect(Math.abs(is! / perMm - should!)).toBeLessThan(1.2); // prettier-ignore
});

test('a line underneath, a bracket, writing alone, a crossed-out line, a large frame and the fields of a form are none', () => {
  const under = [...writing(30, 29, 15), [[28, 36], [95, 36.5]] as Place[]]; // prettier-ignore
  const open = [...writing(36, 29, 15), box(30, 25, 80, 12).slice(0, 7)];
  const crossed = [box(30, 25, 80, 12), ...Array.from({ length: 12 }, (_, i) => [[32 + 6 * i, 26], [40 + 6 * i, 36]] as Place[])]; // prettier-ignore
  const large = [box(15, 20, 115, 80), ...writing(30, 40, 15)];
  const form = [0, 1, 2, 3].map((i) => box(30, 30 + 25 * i, 80, 12));
  for (const strokes of [under, open, writing(20, 40, 25), crossed, large, form]) expect(framesOf(drawnOn(strokes))).toEqual([]);
});
