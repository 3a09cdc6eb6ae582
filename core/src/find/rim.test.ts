import { labPlanes } from '../raster/colour';
import { createRaster, type Point } from '../raster/raster';
import { rimOf } from './rim';

const corners: Point[] = [[120, 90], [520, 90], [520, 390], [120, 390]]; // prettier-ignore

/** A pale field on a grey ground, with a frame or rounded corners. */
function seen({ frame = 0, round = 0, shadow = 0 }: { frame?: number; round?: number; shadow?: number }) {
  const photo = createRaster(640, 480, 3);
  for (let y = 0, p = 0; y < 480; y++)
    for (let x = 0; x < 640; x++, p += 3) {
      const [dx, dy] = [Math.max(120 - x, x - 520), Math.max(90 - y, y - 390)];
      const corner = round && dx > -round && dy > -round ? Math.hypot(dx + round, dy + round) - round : Math.max(dx, dy);
      const dark = corner > 0 && (corner < frame || (dy > 0 && dy < shadow && dx < 0));
      photo.data.fill(corner <= 0 ? 235 : dark ? 30 : 150, p, p + 3);
    }
  return rimOf(corners, labPlanes(photo));
}

test('a screen has a dark rim on all sides, a sheet a shadow on one, and neither has rounded corners', () => {
  const [screen, sheet, bare] = [seen({ frame: 14 }), seen({ shadow: 14 }), seen({})];
  expect(screen.least).toBeGreaterThan(35);
  expect(sheet.most).toBeGreaterThan(35);
  expect(sheet.least).toBeLessThan(2);
  expect(bare.most).toBeLessThan(2);
  for (const { rounded } of [sheet, bare]) expect(rounded).toBeLessThan(0.1);
});

test('a basin is rounded', () => expect(seen({ round: 40 }).rounded).toBeGreaterThan(0.8));

test('what lies beyond the picture tells nothing', () => {
  const photo = createRaster(640, 480, 3);
  photo.data.fill(200);
  const outside: Point[] = [[-40, -40], [700, -40], [700, 520], [-40, 520]]; // prettier-ignore
  expect(rimOf(outside, labPlanes(photo))).toEqual({ mean: 0, least: 0, most: 0, rounded: 0 });
});
