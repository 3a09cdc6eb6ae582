import { createRaster, type Point, type Quad, type Raster } from '../raster/raster';
import { random } from '../testing/pictures';
import { fitSides, fromTopLeft, meet, traceFinely } from './fit';
import { sight } from './findPages';
import { pointOn } from './refine';

const encode = (linear: number) => 255 * (linear <= 0.0031308 ? 12.92 * linear : 1.055 * linear ** (1 / 2.4) - 0.055);

const turn = (4 * Math.PI) / 180;
const [c, s] = [Math.cos(turn), Math.sin(turn)];
/** A point of the turned sheet, in the photo. */
const inPhoto = (x: number, y: number): Point => [180 + c * (x - 180) - s * (y - 220), 220 + s * (x - 180) + c * (y - 220)];

/** A sheet, turned by 4°, as a lens blurs it: light (not sRGB) mixed across its edges by a Gaussian of `sigma` px. */
function blurredSheet(width: number, height: number, [x0, y0, x1, y1]: readonly number[], sigma: number, noise = 1): Raster {
  const photo = createRaster(width, height, 3);
  const next = random(31);
  // The normal distribution's integral by the logistic curve that is nearest to it.
  const cover = (d: number) => 1 / (1 + Math.exp((-1.702 * d) / sigma));
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const u = 180 + c * (x - 180) + s * (y - 220);
      const w = 220 - s * (x - 180) + c * (y - 220);
      const inside = cover(u - x0) * cover(x1 - u) * cover(w - y0) * cover(y1 - w);
      const v = encode(0.05 * (1 - inside) + 0.8 * inside);
      for (let k = 0; k < 3; k++) photo.data[p++] = v + (next() - 0.5) * 2 * noise;
    }
  return photo;
}

const box = [60.4, 50.2, 300.7, 380.5] as const;
const photo = blurredSheet(360, 440, box, 1.6);
const options = { reachPx: 6, samples: 80, degree: 1, agreePx: 1 };
const seen = { channel: 0, sign: 1 } as const;

test('an edge is placed where the light is half way, to a tenth of a pixel', () => {
  const side = traceFinely(photo, seen, inPhoto(62, 52), inPhoto(298, 49), options)!;
  // How far a point lies below the sheet's upper side, across it.
  const below = ([x, y]: Point) => 220 - s * (x - 180) + c * (y - 220) - box[1];
  for (const t of [0.1, 0.5, 0.9]) expect(Math.abs(below(pointOn(side, t)))).toBeLessThan(0.1);
  expect(side.agreement).toBeGreaterThan(0.95);
});

test('a candidate seen on the small picture is fitted on the photo', () => {
  const small = sight(photo, { workingEdgePx: 220 });
  const truth = [inPhoto(box[0], box[1]), inPhoto(box[2], box[1]), inPhoto(box[2], box[3]), inPhoto(box[0], box[3])];
  const far = (quad: readonly Point[]) =>
    Math.max(...truth.map(([x, y]) => Math.min(...quad.map((p) => Math.hypot(p[0] - x, p[1] - y)))));
  const up = (c: (typeof small.candidates)[number]) => c.corners.map(([x, y]): Point => [(x + 0.5) / small.scale - 0.5, (y + 0.5) / small.scale - 0.5]); // prettier-ignore
  const candidate = small.candidates.reduce((a, b) => (far(up(b)) < far(up(a)) ? b : a));
  const { quad, evidence } = fitSides(photo, photo, candidate, small);
  expect(far(quad)).toBeLessThan(0.4);
  expect(far(quad)).toBeLessThan(far(up(candidate)));
  expect(evidence).toEqual(Array(4).fill({ channel: 0, sign: 1, level: expect.any(Number) }));
});

test('a side that was seen by the sheet’s own shadow is fitted on the sheet', () => {
  // White on a pale desk: the shadow, 2 px wide, darkens gently outside and ends sharply at the paper.
  const shaded = createRaster(360, 440, 3);
  const next = random(7);
  for (let y = 0, p = 0; y < 440; y++)
    for (let x = 0; x < 360; x++) {
      const out = Math.max(60 - x, x - 300, 50 - y, y - 380);
      const v = out < 0 ? 246 : 230 - 6 * Math.max(0, 1 - out / 2);
      for (let k = 0; k < 3; k++) shaded.data[p++] = v + (next() - 0.5) * 2;
    }
  const seenSmall = sight(shaded, { workingEdgePx: 440 });
  const corners: Quad = [[58.5, 48.5], [301.5, 48.5], [301.5, 381.5], [58.5, 381.5]]; // prettier-ignore
  // The lines along the shadow's outer edge: light, growing darker inwards.
  const sides = corners.map(([x, y], i) => {
    const [nx, ny] = [[0, 1], [-1, 0], [0, -1], [1, 0]][i]!; // prettier-ignore
    const line = { nx, ny, offset: nx! * x + ny! * y, frame: false };
    seenSmall.supports.push({ line } as never);
    return { line: seenSmall.supports.length - 1, group: 1 };
  });
  const { quad, evidence } = fitSides(shaded, shaded, { corners, sides } as never, seenSmall);
  expect(evidence?.map((side) => side?.sign)).toEqual([1, 1, 1, 1]);
  const truth = [[60.5, 50.5], [299.5, 50.5], [299.5, 379.5], [60.5, 379.5]]; // prettier-ignore
  quad.forEach(([x, y], i) => expect(Math.hypot(x - truth[i]![0]!, y - truth[i]![1]!)).toBeLessThan(0.5));
});

test('two chords meet where they cross; nearly parallel ones do not', () => {
  expect(meet([[0, 0], [10, 0]], [[4, -5], [4, 5]])).toEqual([4, 0]); // prettier-ignore
  expect(meet([[0, 0], [10, 0]], [[0, 3], [10, 3.5]])).toBeNull(); // prettier-ignore
});

test('corners begin at the end of the left side, however they come in', () => {
  const quad: Quad = [[10, 12], [90, 8], [94, 110], [6, 114]]; // prettier-ignore
  for (let k = 0; k < 4; k++) expect(fromTopLeft([0, 1, 2, 3].map((i) => quad[(i + k) % 4]))).toEqual(quad);
  // A sheet that lies turned by nearly a quarter begins where its side runs most to the right.
  expect(fromTopLeft([[50, 0], [100, 90], [50, 100], [0, 20]])[0]).toEqual([0, 20]); // prettier-ignore
});
