import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { finish } from '../recipe/render';
import { edgels, gradient } from '../find/gradient';
import { boxMean, gaussian, gaussianPicture } from '../raster/blur';
import { createPlane, createRaster, type Plane, type Point, type Quad, type Raster } from '../raster/raster';
import { resizeArea } from '../raster/resize';
import { homography } from '../rectify/homography';
import { warp } from '../rectify/warp';
import { dewarp } from '../rectify/dewarp';
import { unsharp } from '../enhance/adjust';
import { estimateLight } from '../enhance/light';
import { localThreshold } from '../enhance/localThreshold';
import { dilate, erode } from '../enhance/morphology';
import { sauvola } from '../enhance/sauvola';
import { flatPage, noisePicture, random } from '../testing/pictures';
import { kernelModule } from './module';
import { simd, withoutSimd } from './simd';

function noisePlane(width: number, height: number, seed = 1): Plane {
  const roll = random(seed);
  const plane = createPlane(width, height);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = roll() * 255;
  return plane;
}

/** A page with print, a coloured field, a photograph and a shadow across it. */
function printedPage(width: number, height: number): Raster {
  const roll = random(7);
  const page = createRaster(width, height, 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const light = (0.62 + (0.38 * x) / width) * (1 - 0.2 * (y / height) ** 2);
      let colour = [238, 232, 220];
      if (x % 9 < 3 && y % 14 < 8 && y < height * 0.6) colour = [40, 38, 44];
      if (y > height * 0.65 && y < height * 0.75) colour = [200, 40, 50];
      if (y > height * 0.8 && x < width / 2) colour = [60 + (y % 90), 80 + (x % 100), 70];
      for (let c = 0; c < 3; c++) page.data[(y * width + x) * 3 + c] = colour[c] * light + (roll() - 0.5) * 8;
    }
  return page;
}

const levels = (a: ArrayLike<number>, b: ArrayLike<number>) => {
  expect(a.length).toBe(b.length);
  let most = 0;
  for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
  return most;
};

/** What the kernels make of it beside what their plain twins make of it. */
function both<T extends { data: ArrayLike<number> }>(make: () => T): number {
  return levels(make().data, withoutSimd(make).data);
}

test('nothing is read behind the photo, where half a row before its last one rounds to that one', () => {
  const kernels = simd()!;
  // A photo whose last row ends right before the memory's end (the band and what is spare come after it): whatever is read a row further on traps.
  const width = 21_845;
  const height = 3;
  const [from] = kernels.layout(3 * width * height);
  const end = kernels.bytes.byteLength - 64;
  const at = end - 3 * width * height;
  expect(at).toBeGreaterThan(from);
  kernels.bytes.fill(200, at, end);
  const row = [1, 0, width / 2, 0, 0, height - 1, 0, 0, 1];
  expect(() => kernels.run.warpRows(at, width, height, 3, 0, from, 4, 0, 1, ...row)).not.toThrow();
  expect([...kernels.bytes.slice(from, from + 12)]).toEqual(Array(12).fill(200));
});

test('where memory does not suffice for the kernels, their plain twins do the work', () => {
  const picture = noisePicture(40, 30, 3);
  const usual = gaussianPicture(picture, 1).data;
  const grow = jest.spyOn(WebAssembly.Memory.prototype, 'grow').mockImplementation(() => {
    throw new RangeError('WebAssembly.Memory.grow(): Maximum memory size exceeded');
  });
  try {
    const large = noisePicture(1500, 1200, 3);
    expect(resizeArea(large, 750, 600).data).toHaveLength(3 * 750 * 600);
    expect(grow).toHaveBeenCalled();
    expect(levels(gaussianPicture(picture, 1).data, usual)).toBe(0);
  } finally {
    grow.mockRestore();
  }
});

test('this machine has the kernels, and they are what their source compiles to', () => {
  expect(simd()).not.toBeNull();
  expect(withoutSimd(simd)).toBeNull();
  const build = path.join(__dirname, '../../assembly/build.mjs');
  expect(execFileSync(process.execPath, [build, '--print'], { encoding: 'utf8' }).trim()).toBe(kernelModule);
}, 60_000);

describe('kernels and their plain twins agree', () => {
  test.each([
    [4, 640, 480, 97, 71],
    [3, 401, 303, 400, 302],
    [4, 33, 900, 5, 7],
    [3, 35, 35, 1, 1],
    [4, 90, 60, 30, 20],
    [4, 90, 62, 45, 31],
  ] as const)('area shrink of %i channels, %i×%i to %i×%i', (channels, w, h, width, height) => {
    const photo = noisePicture(w, h, channels);
    expect(both(() => resizeArea(photo, width, height))).toBeLessThanOrEqual(1);
  });

  test.each([3, 4] as const)('warp of %i channels, corners outside the photo too', (channels) => {
    const photo = noisePicture(150, 110, channels);
    const page: [number, number][] = [[-0.5, -0.5], [100.5, -0.5], [100.5, 130.5], [-0.5, 130.5]]; // prettier-ignore
    const seen: [number, number][] = [[-12, 9], [140, -3], [161, 104], [20, 118]]; // prettier-ignore
    for (const sampling of ['bilinear', 'cubic'] as const)
      expect(both(() => warp(photo, homography(page, seen), 101, 131, sampling))).toBeLessThanOrEqual(1);
  });

  test('warp of a part of the photo: only the rows between which it lies are looked at', () => {
    const photo = noisePicture(90, 400, 4);
    const page: [number, number][] = [[0, 0], [60, 0], [60, 40], [0, 40]]; // prettier-ignore
    for (const top of [-30, 0, 170, 340, 399])
      for (const tilt of [0, 9]) {
        const seen: [number, number][] = [[5, top], [80, top + tilt], [70, top + 60], [10, top + 50 + tilt]]; // prettier-ignore
        expect(both(() => warp(photo, homography(page, seen), 61, 41))).toBeLessThanOrEqual(1);
      }
    // With a horizon in the page.
    expect(both(() => warp(photo, [1, 0, 0, 0, 1, 0, 0, 0.05, -1], 61, 41))).toBeLessThanOrEqual(1);
  });

  test('warp of a photo that is larger than what is held at a time: upright, turned and lying on its side', () => {
    const large = noisePicture(2100, 1900, 3);
    const sheet = [[0, 0], [331, 0], [331, 301], [0, 301]] as unknown as Quad; // prettier-ignore
    for (const degrees of [0, 7, 90]) {
      const turn = ([x, y]: Point): Point => {
        const [s, c] = [Math.sin((degrees * Math.PI) / 180), Math.cos((degrees * Math.PI) / 180)];
        return [1050 + (x - 1050) * c - (y - 950) * s, 950 + (x - 1050) * s + (y - 950) * c];
      };
      const seen = ([[150, 100], [1950, 130], [1900, 1800], [170, 1790]] as Point[]).map(turn) as unknown as Quad; // prettier-ignore
      expect(both(() => warp(large, homography(sheet, seen), 331, 301))).toBeLessThanOrEqual(1);
    }
  });

  test('dewarp', () => {
    const photo = noisePicture(150, 110, 4);
    const surface = {
      ratio: 0.7,
      rmsPx: 0,
      focalPx: 200,
      lens: 0,
      bend: 'flat' as const,
      toPhoto: (u: number, v: number) => [5 + 139 * u, 8 + 99 * v + 9 * Math.sin(3 * u)] as const,
    };
    expect(both(() => dewarp(photo, surface, { width: 131, height: 97 }))).toBeLessThanOrEqual(1);
  });

  test.each([0.7, 1, 1.4, 9])('Gaussian of σ %f', (sigma) => {
    const plane = noisePlane(123, 57);
    expect(both(() => gaussian(plane, sigma))).toBeLessThan(0.01);
  });

  test.each([1, 6, 40])('mean and extremes over radius %i', (radius) => {
    const plane = noisePlane(77, 53);
    expect(both(() => boxMean(plane, radius))).toBeLessThan(0.01);
    expect(both(() => dilate(plane, radius))).toBe(0);
    expect(both(() => erode(plane, radius))).toBe(0);
  });

  test('Sauvola, bit by bit; local threshold', () => {
    const grey = noisePicture(131, 140, 1);
    for (const window of [15, 61, 255]) expect(both(() => sauvola(grey, { window }))).toBe(0);
    for (const [width, height] of [
      [1, 1],
      [3, 5],
      [31, 2],
      [64, 63],
      [134, 67],
    ] as const)
      // prettier-ignore
      for (const limits of [{}, { least: 60, most: 190 }])
        expect(both(() => sauvola(noisePicture(width, height, 1), { window: 31, ...limits }))).toBe(0);
    expect(both(() => localThreshold(grey, { dpi: 300, least: 40, most: 200 }))).toBeLessThan(0.01);
  });

  test.each([1, 3] as const)('unsharp and softening, %i channels', (channels) => {
    const page = noisePicture(103, 61, channels);
    expect(both(() => unsharp(page, 1.2, 0.8))).toBeLessThanOrEqual(1);
    for (const sigma of [0.4, 1.1, 3.3]) expect(both(() => gaussianPicture(page, sigma))).toBe(0);
  });

  test.each(['even-light', 'grey', 'board', 'ink', 'picture'] as const)('%s of a whole page', (filter) => {
    const image = printedPage(411, 563);
    const flat = flatPage({ image, widthMm: 35, heightMm: 48, sizeName: undefined as never, dpi: 300, photoDpi: 300 });
    // One light for both: its own kernels have their own tests.
    const light = estimateLight(image);
    expect(light.dark).toBeNull();
    const made = () => {
      const page = finish(flat, { filter }).image;
      // A picture's dots may lie otherwise; how dark it is may not.
      return filter === 'ink' ? resizeArea(page, page.width >> 4, page.height >> 4) : page;
    };
    const tolerance = filter === 'ink' ? 8 : 1;
    const [a, b] = [made(), withoutSimd(made)];
    let different = 0;
    for (let i = 0; i < a.data.length; i++) if (Math.abs(a.data[i] - b.data[i]) > tolerance) different++;
    // A level beside a threshold may fall on its other side.
    expect(different / a.data.length).toBeLessThan(0.002);
  });
});

test('halving RGB by four pixels at a time is the mean of two by two, also at odd widths', () => {
  for (const [width, height] of [[8, 6], [26, 10], [62, 4]] as const) {
    const source = noisePicture(width, height, 3, width);
    expect(both(() => resizeArea(source, width / 2, height / 2))).toBeLessThanOrEqual(1);
  }
}); // prettier-ignore

test('Sobel derivatives of a plane are its plain twin’s, with an empty border', () => {
  for (const [width, height] of [[5, 4], [33, 60], [70, 101]] as const) {
    const plane = noisePlane(width, height, height);
    const ours = gradient(plane, 3, 0.1);
    const plain = withoutSimd(() => gradient(plane, 3, 0.1));
    for (const name of ['gx', 'gy', 'magnitude'] as const) expect(levels(ours[name], plain[name])).toBeLessThan(1e-3);
    expect(ours.floor).toBeCloseTo(plain.floor, 2);
    // Of one gradient: the kernel only compares.
    const [points, plainly] = [edgels(ours), withoutSimd(() => edgels(ours))];
    expect(points.count).toBe(plainly.count);
    expect([...points.x, ...points.y, ...points.angle]).toEqual([...plainly.x, ...plainly.y, ...plainly.angle]);
    if (width > 50) expect(points.count).toBeGreaterThan(100);
    for (let x = 0; x < width; x++) expect([ours.gx[x], ours.magnitude[(height - 1) * width + x]]).toEqual([0, 0]);
    for (let y = 0; y < height; y++) expect([ours.gy[y * width], ours.magnitude[y * width + width - 1]]).toEqual([0, 0]);
  }
}); // prettier-ignore
