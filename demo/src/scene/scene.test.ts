import { createRaster } from '@libretto/core';
import { shots, usualCamera, usualLight } from '../photographs';
import { photograph } from './photograph';
import { pinhole } from './pinhole';
import type { LaidSheet, Scene } from './scene';
import { noise, random } from './noise';

const white = createRaster(60, 80, 3);
white.data.fill(255);
// The top left quarter is red, so that turning and mirroring show.
for (let y = 0; y < 40; y++) for (let x = 0; x < 30; x++) white.data.set([220, 20, 20], (y * 60 + x) * 3);

const sheet: LaidSheet = {
  id: 'sheet',
  picture: white,
  widthMm: 150,
  heightMm: 200,
  xMm: 0,
  yMm: 0,
  angle: 8,
  bend: { kind: 'flat' },
};
const scene: Scene = {
  desk: 'slate',
  sheets: [sheet],
  camera: { ...usualCamera, distance: 330, roll: 5 },
  light: usualLight,
  noise: 2,
  seed: 4,
};

const at = (photo: ReturnType<typeof photograph>['photo'], x: number, y: number) =>
  Array.from(
    photo.data.slice((Math.round(y) * photo.width + Math.round(x)) * 3, (Math.round(y) * photo.width + Math.round(x)) * 3 + 3),
  );

test('the camera sees a point where its own ray through that pixel meets it', () => {
  const camera = pinhole({ ...usualCamera, tilt: 30, azimuth: 200, roll: 40 }, 300, 400);
  const ray = new Float64Array(3);
  camera.ray(77, 310, ray);
  const t = (12 - camera.eye[2]) / ray[2]!;
  const [x, y] = camera.see(camera.eye[0] + ray[0]! * t, camera.eye[1] + ray[1]! * t, 12);
  expect(x).toBeCloseTo(77, 6);
  expect(y).toBeCloseTo(310, 6);
});

test('the truth lies on the paper’s edge in the picture, top left is top left, nothing is mirrored', () => {
  const { photo, pages } = photograph(scene, 300, 400);
  const [a, b, c, d] = pages[0]!.quad;
  const mix = (u: number, v: number) =>
    [0, 1].map((k) => (a![k]! * (1 - u) + b![k]! * u) * (1 - v) + (d![k]! * (1 - u) + c![k]! * u) * v);
  const red = at(photo, mix(0.2, 0.2)[0]!, mix(0.2, 0.2)[1]!);
  expect(red[0]! - red[1]!).toBeGreaterThan(60);
  const paper = at(photo, mix(0.8, 0.8)[0]!, mix(0.8, 0.8)[1]!);
  expect(Math.min(...paper)).toBeGreaterThan(120);
  for (const [u, v] of [[-0.06, 0.5], [1.06, 0.5], [0.5, -0.06], [0.5, 1.06]]) expect(Math.max(...at(photo, mix(u!, v!)[0]!, mix(u!, v!)[1]!))).toBeLessThan(120); // prettier-ignore
  expect(a![0]).toBeLessThan(b![0]);
  expect(a![1]).toBeLessThan(d![1]);
});

test('a book’s pages meet at the gutter, and its long edges are curved', () => {
  const book: LaidSheet = { ...sheet, widthMm: 300, spread: true, angle: 0, bend: { kind: 'book', heightMm: 20, reachMm: 40 } };
  const { pages } = photograph({ ...scene, sheets: [book], camera: { ...usualCamera, tilt: 25, distance: 420 } }, 200, 150);
  expect(pages.map((p) => p.id)).toEqual(['sheet-left', 'sheet-right']);
  expect(pages[0]!.quad[1]).toEqual(pages[1]!.quad[0]);
  const top = pages[0]!.polygon.slice(0, 20);
  const [a, b] = [pages[0]!.quad[0]!, pages[0]!.quad[1]!];
  const bow = Math.max(
    ...top.map(
      (p) => Math.abs((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / Math.hypot(b[0] - a[0], b[1] - a[1]),
    ),
  );
  expect(bow).toBeGreaterThan(1);
});

test('the same seed gives the same picture', () => {
  const first = photograph(scene, 60, 80).photo.data;
  expect(Buffer.compare(Buffer.from(first), Buffer.from(photograph(scene, 60, 80).photo.data))).toBe(0);
  expect(Buffer.compare(Buffer.from(first), Buffer.from(photograph({ ...scene, seed: 5 }, 60, 80).photo.data))).not.toBe(0);
  const values = Array.from(
    { length: 400 },
    (
      (next) => () =>
        next()
    )(random(3)),
  );
  expect(Math.abs(values.reduce((s, v) => s + v, 0) / 400 - 0.5)).toBeLessThan(0.06);
  for (let i = 0; i < 50; i++) expect(noise(i * 0.37, i * 0.71, 2)).toBeGreaterThanOrEqual(0);
});

test('the demo’s shots are all different, and some are on the shelf from the start', () => {
  expect(new Set(shots.map((s) => s.file)).size).toBe(shots.length);
  expect(shots.filter((s) => s.onShelf).length).toBeGreaterThanOrEqual(3);
  expect(shots.filter((s) => !s.onShelf).length).toBeGreaterThanOrEqual(3);
});
