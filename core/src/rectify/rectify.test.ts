import { createRaster, type Point, type Quad, type Raster } from '../raster/raster';
import { openCv, type OpenCv } from '../testing/opencv';
import { flatten } from '../recipe/render';
import { noisePicture } from '../testing/pictures';
import { homography, project, type Homography } from './homography';
import { namedSizes, pageSize } from './pageSize';
import { focalPx } from './focal';
import { trueRatio } from './proportions';
import { effectiveDpi, rectify } from './rectify';
import { warp } from './warp';

let cv: OpenCv;
beforeAll(async () => {
  cv = await openCv();
}, 60_000);

const skewed: Quad = [[31, 12], [181, 34], [160, 143], [12, 120]]; // prettier-ignore
const upright: Point[] = [[0, 0], [99, 0], [99, 79], [0, 79]]; // prettier-ignore

describe('homography', () => {
  test('agrees with OpenCV getPerspectiveTransform', () => {
    const from = cv.matFromArray(4, 1, cv.CV_32FC2, upright.flat());
    const to = cv.matFromArray(4, 1, cv.CV_32FC2, skewed.flat());
    const theirs = cv.getPerspectiveTransform(from, to).data64F;
    const ours = homography(upright, skewed);
    for (let i = 0; i < 9; i++) expect(ours[i] / ours[8]).toBeCloseTo(theirs[i] / theirs[8], 6);
  });

  test('takes the corners exactly, far from the origin too', () => {
    const far = skewed.map(([x, y]): Point => [x * 40 + 9000, y * 40 - 7000]);
    const h = homography(upright, far);
    upright.forEach((p, i) => project(h, p).forEach((v, k) => expect(v).toBeCloseTo(far[i][k], 5)));
  });

  test('corners on one line are refused', () => {
    expect(() => homography(upright, [[0, 0], [5, 5], [9, 9], [0, 4]])).toThrow('one line'); // prettier-ignore
    expect(() => homography(upright.slice(1), upright)).toThrow('received 3 and 4');
  });
});

/** Bilinear sampling in full precision: the exact reference. */
function exactWarp(photo: Raster, h: Homography, width: number, height: number): number[] {
  const out: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [px, py] = project(h, [x, y]);
      const sx = Math.max(0, Math.min(photo.width - 1, px));
      const sy = Math.max(0, Math.min(photo.height - 1, py));
      const x0 = Math.min(photo.width - 2, Math.floor(sx));
      const y0 = Math.min(photo.height - 2, Math.floor(sy));
      for (let c = 0; c < photo.channels; c++) {
        const at = (i: number, j: number) => photo.data[((y0 + j) * photo.width + x0 + i) * photo.channels + c];
        const top = at(0, 0) * (1 - (sx - x0)) + at(1, 0) * (sx - x0);
        const bottom = at(0, 1) * (1 - (sx - x0)) + at(1, 1) * (sx - x0);
        out.push(top * (1 - (sy - y0)) + bottom * (sy - y0));
      }
    }
  return out;
}

describe('warp', () => {
  const photo = noisePicture(200, 160, 3, 3);
  const h = homography(upright, skewed);

  test('is within one level of exact bilinear sampling', () => {
    const ours = warp(photo, h, 100, 80);
    const exact = exactWarp(photo, h, 100, 80);
    exact.forEach((v, i) => expect(Math.abs(ours.data[i] - v)).toBeLessThanOrEqual(1));
  });

  test('agrees with OpenCV warpPerspective within its 1/32 px rounding', () => {
    const ours = warp(photo, h, 100, 80);
    const from = cv.matFromArray(160, 200, cv.CV_8UC3, photo.data);
    const matrix = cv.matFromArray(3, 3, cv.CV_64FC1, [...h]);
    const to = new cv.Mat();
    cv.warpPerspective(from, to, matrix, new cv.Size(100, 80), cv.INTER_LINEAR | cv.WARP_INVERSE_MAP, cv.BORDER_REPLICATE);
    let sum = 0;
    let worst = 0;
    for (let i = 0; i < ours.data.length; i++) {
      const d = Math.abs(ours.data[i] - to.data[i]);
      sum += d;
      worst = Math.max(worst, d);
    }
    // White noise changes by up to 255 a pixel, so 1/64 px of rounding in each direction makes at most 8 levels.
    expect(worst).toBeLessThanOrEqual(8);
    expect(sum / ours.data.length).toBeLessThan(1.2);
  });

  test('a grey photo gives a grey page and RGBA gives RGB', () => {
    expect(warp(noisePicture(20, 20, 1), h, 5, 5).channels).toBe(1);
    expect(warp(noisePicture(20, 20, 4), h, 5, 5).channels).toBe(3);
  });
});

describe('rectify', () => {
  test('the whole photo at its own size is the photo', () => {
    const photo = noisePicture(40, 30, 3);
    const whole: Quad = [[-0.5, -0.5], [39.5, -0.5], [39.5, 29.5], [-0.5, 29.5]]; // prettier-ignore
    expect([...rectify(photo, whole, { width: 40, height: 30 }).data]).toEqual([...photo.data]);
  });

  test('a quarter turn clockwise brings the bottom-left corner to the top left', () => {
    const photo = createRaster(20, 10, 1);
    for (let y = 5; y < 10; y++) for (let x = 0; x < 10; x++) photo.data[y * 20 + x] = 255;
    const whole: Quad = [[-0.5, -0.5], [19.5, -0.5], [19.5, 9.5], [-0.5, 9.5]]; // prettier-ignore
    const turned = rectify(photo, whole, { width: 10, height: 20 }, 90);
    expect(turned.data[2 * 10 + 2]).toBe(255);
    expect(turned.data[2 * 10 + 8]).toBe(0);
    expect(turned.data[18 * 10 + 2]).toBe(0);
  });

  test('shrinking is filtered: a fine chequer becomes even grey, not a moiré', () => {
    const photo = createRaster(400, 400, 1);
    for (let i = 0; i < photo.data.length; i++) photo.data[i] = ((i % 400) ^ Math.floor(i / 400)) & 1 ? 255 : 0;
    const whole: Quad = [[-0.5, -0.5], [399.5, -0.5], [399.5, 399.5], [-0.5, 399.5]]; // prettier-ignore
    const small = rectify(photo, whole, { width: 60, height: 60 }).data;
    for (const v of small) expect(Math.abs(v - 127.5)).toBeLessThan(12);
  });

  test('a page without pixels is refused', () => {
    expect(() => rectify(noisePicture(4, 4, 1), skewed, { width: 0, height: 3 })).toThrow('0×3');
  });

  test('effective resolution: an inch of paper across 300 px', () => {
    const quad: Quad = [[0, 0], [300, 0], [300, 600], [0, 600]]; // prettier-ignore
    expect(effectiveDpi(quad, 25.4, 50.8)).toBeCloseTo(300, 6);
  });
});

/** A flat rectangle seen by a pinhole camera with focal length f (px), turned about x and y. */
function view(
  widthMm: number,
  heightMm: number,
  tiltX: number,
  tiltY: number,
  f: number,
  size: { width: number; height: number },
): Quad {
  const points: Point[] = [[-1, -1], [1, -1], [1, 1], [-1, 1]]; // prettier-ignore
  return points.map(([sx, sy]): Point => {
    const x = (sx * widthMm) / 2;
    const y = (sy * heightMm) / 2;
    const y1 = y * Math.cos(tiltX);
    const z1 = y * Math.sin(tiltX);
    const x2 = x * Math.cos(tiltY) + z1 * Math.sin(tiltY);
    const z2 = -x * Math.sin(tiltY) + z1 * Math.cos(tiltY) + 420;
    return [(size.width - 1) / 2 + (f * x2) / z2, (size.height - 1) / 2 + (f * y1) / z2];
  }) as unknown as Quad;
}

describe('true proportions (Zhang and He 2007)', () => {
  const size = { width: 3000, height: 4000 };
  test.each([
    [210, 297, 0.4, 0.25],
    [297, 210, -0.35, 0.3],
    [80, 250, 0.3, -0.4],
    [210, 297, 0.15, 0.1],
  ])('a %i × %i mm page tilted by %f and %f', (w, h, tiltX, tiltY) => {
    const quad = view(w, h, tiltX, tiltY, 3100, size);
    expect(trueRatio(quad, { ...size, focalPx: 3100 })).toBeCloseTo(w / h, 3);
    expect(Math.abs(trueRatio(quad, size) / (w / h) - 1)).toBeLessThan(0.02);
  });

  test.each([20, 28, 40])('tilted by %i° about one side only, it takes the lens to tell', (degrees) => {
    const quad = view(210, 297, (degrees * Math.PI) / 180, 0, 2000, size);
    expect(trueRatio(quad, { ...size, focalPx: 2000 })).toBeCloseTo(210 / 297, 3);
    expect(Math.abs(trueRatio(quad, size) / (210 / 297) - 1)).toBeGreaterThan(0.01);
  });

  test('a focal length of 35 mm film in pixels, by the diagonal of the frame', () => {
    // A lens as long as the frame's diagonal sees the diagonal at 2 · atan(½) = 53.13° (CIPA DCG-001 compares by the diagonal).
    const px = focalPx(Math.hypot(36, 24), 4000, 3000);
    expect((2 * Math.atan(2500 / px) * 180) / Math.PI).toBeCloseTo(53.13, 2);
    expect(focalPx(26, 3000, 4000)).toBeCloseTo(focalPx(26, 4000, 3000), 9);
  });

  test('a page is made with the proportions that the lens tells', () => {
    const photo = createRaster(size.width / 10, size.height / 10, 1);
    const small = view(210, 297, 0.6, 0, 2000, size).map(([x, y]): Point => [(x + 0.5) / 10 - 0.5, (y + 0.5) / 10 - 0.5]) as unknown as Quad; // prettier-ignore
    const focal35mm = 2000 / focalPx(1, size.width, size.height);
    const known = flatten(photo, { quad: small, turn: 0 }, { focal35mm });
    expect(known.sizeName).toBe('a4');
    const guessed = flatten(photo, { quad: small, turn: 0 });
    expect(guessed.widthMm / guessed.heightMm).not.toBeCloseTo(known.widthMm / known.heightMm, 2);
  });

  test('seen straight from above, the ratio of the sides', () => {
    expect(trueRatio(view(210, 297, 0, 0, 3100, size), size)).toBeCloseTo(210 / 297, 6);
  });
});

describe('page sizes', () => {
  const size = (id: string) => namedSizes.find((s) => s.id === id)!;
  test('ISO 216: A4 is A0 (1 m², sides 1 : √2) halved four times, rounded down to mm', () => {
    let [short, long] = [841, 1189];
    expect((short * long) / 1e6).toBeCloseTo(1, 2);
    for (const id of ['a1', 'a2', 'a3', 'a4', 'a5', 'a6']) {
      [short, long] = [Math.floor(long / 2), short];
      if (namedSizes.some((s) => s.id === id)) expect([size(id).widthMm, size(id).heightMm]).toEqual([short, long]);
    }
  });

  test('ANSI Letter and Legal in inches, ISO/IEC 7810 ID-1', () => {
    for (const [id, inches] of [
      ['letter', 11],
      ['legal', 14],
    ] as const) {
      expect(size(id).widthMm).toBeCloseTo(8.5 * 25.4, 6);
      expect(size(id).heightMm).toBeCloseTo(inches * 25.4, 6);
    }
    expect(size('id1')).toMatchObject({ widthMm: 85.6, heightMm: 53.98 });
  });

  test.each([
    [210 / 297, true, 'a4', 210, 297],
    [297 / 210, true, 'a4', 297, 210],
    [8.5 / 11, true, 'letter', 215.9, 279.4],
    [8.5 / 14, true, 'legal', 215.9, 355.6],
    [85 / 55, false, 'card-eu', 85, 55],
    [85.6 / 53.98, false, 'id1', 85.6, 53.98],
    [54 / 85.6, false, 'id1', 53.98, 85.6],
  ])('proportions %f, alone %p, are %s', (ratio, alone, name, widthMm, heightMm) => {
    expect(pageSize(ratio, alone)).toEqual({ name, widthMm, heightMm });
  });

  test('a long strip is a till roll of 80 mm, an unknown shape fits inside A4', () => {
    expect(pageSize(80 / 240, true)).toEqual({ name: null, widthMm: 80, heightMm: 240 });
    const square = pageSize(1.02, true);
    expect(square.name).toBeNull();
    expect(square.widthMm / square.heightMm).toBeCloseTo(1.02, 2);
    expect(Math.max(square.widthMm, square.heightMm)).toBeLessThanOrEqual(297);
    expect(() => pageSize(NaN, true)).toThrow('NaN');
  });
});
