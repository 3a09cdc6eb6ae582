import { openCv, type OpenCv } from '../testing/opencv';
import { noisePicture } from '../testing/pictures';
import { boxMean, gaussian } from './blur';
import { labOf, labPlanes, lumaPlane } from './colour';
import { assertRaster, createPlane, createRaster } from './raster';
import { resizeArea, shrinkGreyBy, shrinkToEdge } from './resize';

let cv: OpenCv;
beforeAll(async () => {
  cv = await openCv();
}, 60_000);

describe('rasters', () => {
  test('a raster whose data does not fit is refused with what was received', () => {
    expect(() => assertRaster({ width: 4, height: 4, channels: 3, data: new Uint8Array(5) })).toThrow(
      '4×4 raster of 3 channels needs 48 samples, received 5',
    );
    expect(() => assertRaster({ width: 0, height: 4, channels: 1, data: new Uint8Array(0) })).toThrow('0×4');
  });
});

describe('area resize', () => {
  test.each([
    [97, 61, 40, 25],
    [120, 80, 30, 20],
    [50, 50, 49, 7],
  ])('agrees with OpenCV INTER_AREA within a level, %i×%i to %i×%i', (w, h, tw, th) => {
    const source = noisePicture(w, h, 3);
    const ours = resizeArea(source, tw, th);
    const from = cv.matFromArray(h, w, cv.CV_8UC3, source.data);
    const to = new cv.Mat();
    cv.resize(from, to, new cv.Size(tw, th), 0, 0, cv.INTER_AREA);
    let worst = 0;
    for (let i = 0; i < ours.data.length; i++) worst = Math.max(worst, Math.abs(ours.data[i] - to.data[i]));
    expect(worst).toBeLessThanOrEqual(1);
    from.delete();
    to.delete();
  });

  test('whole steps of grey agree with the general way; what remains at the ends is left out', () => {
    const source = noisePicture(32, 21, 1);
    const whole = { width: 30, height: 21, channels: 1 as const, data: new Uint8Array(30 * 21) };
    for (let y = 0; y < 21; y++) whole.data.set(source.data.subarray(y * 32, y * 32 + 30), y * 30);
    const ours = shrinkGreyBy(source, 3);
    const general = resizeArea(whole, 10, 7);
    expect(ours).toMatchObject({ width: 10, height: 7, channels: 1 });
    expect(ours.data.every((v, i) => Math.abs(v - general.data[i]) <= 1)).toBe(true);
    expect(shrinkGreyBy(source, 1)).toBe(source);
  });

  test('what is small enough comes back as it is', () => {
    const source = noisePicture(30, 20, 1);
    expect(shrinkToEdge(source, 30)).toBe(source);
    expect(shrinkToEdge(source, 15)).toMatchObject({ width: 15, height: 10, channels: 1 });
  });

  test('alpha is dropped', () => {
    expect(resizeArea(noisePicture(8, 8, 4), 4, 4).channels).toBe(3);
  });
});

describe('colour', () => {
  // CIE L*a*b* (D65) of sRGB primaries as published by B. Lindbloom's colour calculator, from memory; two decimals.
  test.each([
    [
      [255, 0, 0],
      [53.24, 80.09, 67.2],
    ],
    [
      [0, 255, 0],
      [87.73, -86.18, 83.18],
    ],
    [
      [0, 0, 255],
      [32.3, 79.19, -107.86],
    ],
    [
      [255, 255, 255],
      [100, 0, 0],
    ],
    [
      [119, 119, 119],
      [50.03, 0, 0],
    ],
  ])('Lab of %p', (rgb, lab) => {
    const planes = labPlanes({ width: 1, height: 1, channels: 3, data: Uint8Array.from(rgb) });
    planes.forEach((plane, k) => expect(Math.abs(plane.data[0] - lab[k])).toBeLessThan(0.15));
    lab.forEach((value, k) => expect(Math.abs(labOf(rgb[0], rgb[1], rgb[2], k) - value)).toBeLessThan(0.15));
  });

  test('luma by ITU-R BT.601', () => {
    expect(lumaPlane({ width: 1, height: 1, channels: 3, data: Uint8Array.from([200, 100, 50]) }).data[0]).toBeCloseTo(
      0.299 * 200 + 58.7 + 5.7,
      3,
    );
  });
});

describe('blur', () => {
  test('box mean agrees with a naive loop, borders included', () => {
    const plane = createPlane(13, 9);
    plane.data.set(noisePicture(13, 9, 1).data);
    const ours = boxMean(plane, 3);
    for (let y = 0; y < 9; y++)
      for (let x = 0; x < 13; x++) {
        let sum = 0;
        let n = 0;
        for (let j = Math.max(0, y - 3); j <= Math.min(8, y + 3); j++)
          for (let i = Math.max(0, x - 3); i <= Math.min(12, x + 3); i++) {
            sum += plane.data[j * 13 + i];
            n++;
          }
        expect(ours.data[y * 13 + x]).toBeCloseTo(sum / n, 3);
      }
  });

  test('a Gaussian keeps the mean of an even plane and spreads a point by its variance', () => {
    const plane = createPlane(41, 41);
    plane.data[20 * 41 + 20] = 1;
    const out = gaussian(plane, 2).data;
    let sum = 0;
    let variance = 0;
    for (let y = 0; y < 41; y++)
      for (let x = 0; x < 41; x++) {
        sum += out[y * 41 + x];
        variance += out[y * 41 + x] * (x - 20) ** 2;
      }
    expect(sum).toBeCloseTo(1, 4);
    expect(variance).toBeGreaterThan(3.7);
    expect(variance).toBeLessThan(4.1);
  });

  test('windows wider than the picture are allowed', () => {
    const plane = createPlane(3, 2);
    plane.data.fill(5);
    expect([...boxMean(plane, 9).data]).toEqual([5, 5, 5, 5, 5, 5]);
    expect(gaussian(plane, 8).data[0]).toBeCloseTo(5, 4);
    expect(createRaster(2, 2, 1).data).toHaveLength(4);
  });
});
