import { createRaster, wholeQuad, type Raster } from '../raster/raster';
import { homography } from '../rectify/homography';
import { warp } from '../rectify/warp';
import { noisePicture, printedSheet } from '../testing/pictures';
import { textSkew, skewSeenFrom } from './skew';
import { skewToTakeOut, wholeAsRead } from '../find/wholePhoto';
import { rotatedQuad } from '../rectify/rotated';
import { rectify } from '../rectify/rectify';

/** The sheet turned clockwise by so many degrees within its own frame. */
function leaning(sheet: Raster, degrees: number): Raster {
  const quad = rotatedQuad(wholeQuad(sheet), -degrees, sheet.width / sheet.height);
  return warp(sheet, homography([...wholeQuad(sheet)], [...quad]), sheet.width, sheet.height);
}

const sheet = printedSheet(500, 700);

test.each([-13.2, -4.4, 0.8, 2.5, 11.1])('print that leans by %p° is measured to a fifth of a degree', (degrees) => {
  const { degrees: seen, strength } = textSkew(leaning(sheet, degrees));
  expect(seen).toBeGreaterThan(degrees - 0.2);
  expect(seen).toBeLessThan(degrees + 0.2);
  expect(strength).toBeGreaterThan(skewSeenFrom);
});

test('a page on its side is measured by its upright lines', () => {
  const { width, height } = sheet;
  const onSide = rectify(sheet, wholeQuad(sheet), { width: height, height: width }, 90);
  expect(textSkew(leaning(onSide, 5)).degrees).toBeCloseTo(5, 0);
});

test('noise and an empty page have no lines to straighten by', () => {
  const empty = createRaster(400, 500, 3);
  empty.data.fill(236);
  expect(textSkew(empty)).toEqual({ degrees: 0, strength: 0 });
  expect(textSkew(noisePicture(400, 300, 3)).strength).toBeLessThan(skewSeenFrom);
  expect(skewToTakeOut(empty)).toBe(0);
});

test('what leans by less than a third of a degree, or by more than fifteen, is left', () => {
  expect(skewToTakeOut(leaning(sheet, 0.15))).toBe(0);
  expect(Math.abs(skewToTakeOut(leaning(sheet, 24)))).toBeLessThan(14.6);
  expect(skewToTakeOut(leaning(sheet, 3))).toBeCloseTo(3, 0);
});

test('a photo whose print does not tell the way up stays as it is', () => {
  expect(wholeAsRead(leaning(sheet, 6))).toEqual({ quad: wholeQuad(sheet) });
});
