import { printedSheet } from '../testing/pictures';
import { estimateLight } from './light';
import { pictureAreas } from './pictureAreas';

const size = { widthMm: 210, heightMm: 297 };

test('a printed picture is found where it lies, and print and a small stamp are none', () => {
  const [x0, y0, x1, y1] = [100, 300, 420, 520];
  const sheet = printedSheet(600, 848, (x, y) => {
    if (x >= x0 && x < x1 && y >= y0 && y < y1) return [60 + 90 * Math.sin(x / 23) ** 2, 70 + 60 * Math.cos(y / 31) ** 2, 120];
    // Nothing is printed close to it.
    if (x >= x0 - 24 && x < x1 + 24 && y >= y0 - 24 && y < y1 + 24) return [246, 246, 246];
    return x >= 500 && x < 525 && y >= 700 && y < 725 ? [180, 40, 40] : null;
  });
  const [picture, ...others] = pictureAreas({ copy: sheet, light: estimateLight(sheet) }, size);
  expect(others).toEqual([]);
  const mm = 210 / 600;
  const off = [picture!.x - x0 * mm, picture!.y - y0 * mm, picture!.x + picture!.width - x1 * mm, picture!.y + picture!.height - y1 * mm]; // prettier-ignore
  expect(Math.max(...off.map(Math.abs))).toBeLessThan(3);
});

test('a picture that is partly as white as paper is taken as far as its frame', () => {
  const [x0, y0, x1, y1] = [100, 300, 500, 560];
  const sheet = printedSheet(600, 848, (x, y) => {
    if (x < x0 - 24 || x >= x1 + 24 || y < y0 - 24 || y >= y1 + 24) return null;
    if (x < x0 || x >= x1 || y < y0 || y >= y1) return [246, 246, 246];
    if (x < x0 + 3 || x >= x1 - 3 || y < y0 + 3 || y >= y1 - 3) return [20, 20, 20];
    return x < 190 ? [246, 246, 246] : [60 + 90 * Math.sin(x / 23) ** 2, 70 + 60 * Math.cos(y / 31) ** 2, 120];
  });
  const [picture] = pictureAreas({ copy: sheet, light: estimateLight(sheet) }, size);
  expect(Math.abs(picture!.x - x0 * (210 / 600))).toBeLessThan(3);
});

test('a page of print has none', () => {
  const sheet = printedSheet(600, 848);
  expect(pictureAreas({ copy: sheet, light: estimateLight(sheet) }, size)).toEqual([]);
});
