import { createRaster, type Point, type Quad } from '../raster/raster';
import { flatSurface, fitSurface } from './surface';
import { sidesOf, surfaceOf } from './surfaceOf';
import { dewarp } from './dewarp';

const view = { width: 3000, height: 4000 };

/**
 * An A4 sheet bent along its width by `angle(s)`, tilted, before a pinhole camera with one radial distortion term: written out here from the
 * camera's definition, apart from the code under test.
 */
function camera(angle: (s: number) => number, { tilt = 0.35, turn = 0.1, focal = 3100, lens = 0 } = {}) {
  const half = Math.hypot(view.width, view.height) / 2;
  return (u: number, v: number): Point => {
    let x = 0;
    let z = 0;
    const n = 400;
    for (let i = 0; i < Math.round(u * n); i++) {
      x += Math.cos(angle((i + 0.5) / n - 0.5)) * (210 / n);
      z += Math.sin(angle((i + 0.5) / n - 0.5)) * (210 / n);
    }
    let [px, py, pz] = [x - 105, (v - 0.5) * 297, z];
    [py, pz] = [py * Math.cos(tilt) - pz * Math.sin(tilt), py * Math.sin(tilt) + pz * Math.cos(tilt)];
    [px, py] = [px * Math.cos(turn) - py * Math.sin(turn), px * Math.sin(turn) + py * Math.cos(turn)];
    const depth = 330 + pz;
    const [dx, dy] = [(focal * px) / depth, (focal * py) / depth];
    const bow = 1 + (lens * (dx * dx + dy * dy)) / (half * half);
    return [1499.5 + dx * bow, 1999.5 + dy * bow];
  };
}

const outlineOf = (see: (u: number, v: number) => Point, n = 16): Point[] => [
  ...Array.from({ length: n }, (_, i) => see(i / n, 0)),
  ...Array.from({ length: n }, (_, i) => see(1, i / n)),
  ...Array.from({ length: n }, (_, i) => see(1 - i / n, 1)),
  ...Array.from({ length: n }, (_, i) => see(0, 1 - i / n)),
];

const worst = (a: (u: number, v: number) => Point, b: (u: number, v: number) => Point) => {
  let most = 0;
  for (let u = 0; u <= 1; u += 0.1)
    for (let v = 0; v <= 1; v += 0.1) most = Math.max(most, Math.hypot(a(u, v)[0] - b(u, v)[0], a(u, v)[1] - b(u, v)[1]));
  return most;
};

describe('the surface of a page from its outline', () => {
  test.each([
    ['an arch', (s: number) => -1.4 * s],
    ['a wave', (s: number) => 1.2 * s - 9 * s ** 3],
    ['a book’s page', (s: number) => 0.9 * Math.exp(-6 * (s + 0.5)) - 0.25],
  ])('%s is found to a few pixels of 4000, and its true proportions', (_, angle) => {
    const see = camera(angle);
    const surface = surfaceOf(outlineOf(see), view);
    expect(surface.bend).toBe('width');
    expect(worst(surface.toPhoto, see)).toBeLessThan(16);
    expect(Math.abs(surface.ratio / (210 / 297) - 1)).toBeLessThan(0.05);
    // Corners alone are far off there.
    const quad = [see(0, 0), see(1, 0), see(1, 1), see(0, 1)] as unknown as Quad;
    expect(worst(flatSurface(quad), see)).toBeGreaterThan(30);
  });

  test('bent along its height it is the same, turned', () => {
    const across = camera((s) => -1.2 * s);
    const see = (u: number, v: number) => across(v, 1 - u);
    const surface = surfaceOf(outlineOf(see), view);
    expect(surface.bend).toBe('height');
    expect(worst(surface.toPhoto, see)).toBeLessThan(16);
  });

  test.each([0.35, -0.6])(
    'a sheet that curls oblique to its edges (%s rad) is found as closely, with the focal length',
    (oblique) => {
      // A small page cut obliquely out of the sheet that the camera bends along its width.
      const across = camera((s) => -1.1 * s);
      const see = (u: number, v: number): Point => {
        const [x, y] = [(u - 0.5) * 110, (v - 0.5) * 110 * Math.SQRT2];
        const s = Math.cos(oblique) * x + Math.sin(oblique) * y;
        const t = Math.cos(oblique) * y - Math.sin(oblique) * x;
        return across(s / 210 + 0.5, t / 297 + 0.5);
      };
      const surface = surfaceOf(outlineOf(see), view);
      expect(worst(surface.toPhoto, see)).toBeLessThan(16);
      expect(Math.abs(surface.ratio * Math.SQRT2 - 1)).toBeLessThan(0.05);
    },
  );

  test('sides that were followed wrongly do not bend a flat page', () => {
    const see = camera(() => 0);
    // The right side was lost to a shadow beside it for a while.
    const outline = outlineOf(see).map(([x, y], i): Point => [x + (i > 19 && i < 26 ? 14 : 0), y]);
    const surface = surfaceOf(outline, view);
    expect(surface.bend).toBe('flat');
    expect(worst(surface.toPhoto, see)).toBeLessThan(4);
  });

  test('nor is what was followed beside a side taken for the lens', () => {
    const see = camera(() => 0);
    // Across another sheet's shadow, and off towards it at the end, px of 4000.
    const off = [0, 3, 7, 7, 7, 4, 2, 3, 3, 4, 2, 1, -9, -15, -6, -21];
    const beside = outlineOf(see).map(([x, y], i): Point => [x + (i >= 48 ? off[i - 48] : 0), y]);
    expect(worst(surfaceOf(beside, view).toPhoto, see)).toBeLessThan(1);
    expect(worst(fitSurface(sidesOf(beside), view, 'flat').toPhoto, see)).toBeGreaterThan(3);
  });

  test('a flat sheet stays flat, and the bow of the lens is taken out', () => {
    const see = camera(() => 0, { lens: 0.005 });
    const surface = surfaceOf(outlineOf(see), view);
    expect(surface.bend).toBe('flat');
    expect(worst(surface.toPhoto, see)).toBeLessThan(1.5);
    const straight = camera(() => 0);
    expect(worst(surfaceOf(outlineOf(straight), view).toPhoto, straight)).toBeLessThan(0.6);
  });

  test('a folded corner does not pull the rest along', () => {
    const see = camera(() => 0);
    const outline = outlineOf(see).map((p, i): Point => (i === 1 || i === 63 ? [p[0] + 40, p[1] + 40] : p));
    expect(worst(fitSurface(sidesOf(outline), view, 'flat').toPhoto, see)).toBeLessThan(4);
  });

  test('an outline with an odd number of points is refused', () => {
    expect(() => sidesOf(outlineOf(camera(() => 0)).slice(1))).toThrow('received 63 points');
  });
});

test('unrolled, a mark on the page stands where it stood on the paper, in every turn', () => {
  const photo = createRaster(60, 40, 1);
  photo.data[10 * 60 + 20] = 255;
  const surface = {
    ratio: 1.5,
    toPhoto: (u: number, v: number): Point => [u * 60 - 0.5, v * 40 - 0.5],
    rmsPx: 0,
    focalPx: 60,
    lens: 0,
    bend: 'flat' as const,
  };
  expect([...dewarp(photo, surface, { width: 60, height: 40 }).data]).toEqual([...photo.data]);
  expect(dewarp(photo, surface, { width: 40, height: 60 }, 90).data[20 * 40 + 29]).toBe(255);
  expect(dewarp(photo, surface, { width: 60, height: 40 }, 180).data[29 * 60 + 39]).toBe(255);
  expect(dewarp(photo, surface, { width: 40, height: 60 }, 270).data[39 * 40 + 10]).toBe(255);
});

describe('sides that no sheet has', () => {
  const wavy = (u: number, v: number): Point => [800 + 1300 * u, 600 + 2000 * v + (v < 0.5 ? 90 * Math.sin(3 * Math.PI * u) : 0)];
  const outline = outlineOf(wavy);

  test('are followed where they were set by hand or read off the lines', () => {
    for (const from of ['hand', 'lines'] as const) {
      const { toPhoto, bend } = surfaceOf(outline, view, from);
      expect(bend).toBe('ruled');
      for (const u of [0.2, 0.5, 0.7]) expect(Math.abs(toPhoto(u, 0)[1] - wavy(u, 0)[1])).toBeLessThan(4);
      expect(Math.abs(toPhoto(0.5, 1)[1] - 2600)).toBeLessThan(0.1);
      // Half-way down half of it is left.
      expect(Math.abs(toPhoto(0.5, 0.5)[1] - (1600 + 45 * Math.sin(1.5 * Math.PI)))).toBeLessThan(4);
    }
  });

  test('and taken as straight where they were traced', () => {
    const { toPhoto } = surfaceOf(outline, view);
    for (const u of [0.2, 0.5, 0.7]) expect(Math.abs(toPhoto(u, 0)[1] - 600)).toBeLessThan(4);
  });

  test('a sheet that bends as sheets do is a bent sheet also where it was set by hand', () => {
    const see = camera((s: number) => -1.4 * s);
    expect(surfaceOf(outlineOf(see), view, 'hand').bend).toBe('width');
  });
});
