import { openCv } from '../testing/opencv';
import { random } from '../testing/pictures';
import type { Edgels } from './gradient';
import { cross, frameLines, houghLines, sameLine, type Line } from './lines';

/** Edge points along lines `nx·x + ny·y = c`, a little beside them, and some that lie anywhere. */
function pointsOn(lines: readonly (readonly [degrees: number, c: number])[], width: number, height: number, strays = 0): Edgels {
  const next = random(21);
  const [x, y, angle]: number[][] = [[], [], []];
  for (const [degrees, c] of lines) {
    const a = (degrees * Math.PI) / 180;
    for (let t = -width; t < width; t++) {
      const px = Math.cos(a) * c - Math.sin(a) * t;
      const py = Math.sin(a) * c + Math.cos(a) * t;
      if (px < 2 || py < 2 || px > width - 3 || py > height - 3) continue;
      const off = (next() - 0.5) * 0.6;
      x.push(px + Math.cos(a) * off);
      y.push(py + Math.sin(a) * off);
      angle.push(a + (next() - 0.5) * 0.08);
    }
  }
  for (let i = 0; i < strays; i++) {
    x.push(next() * width);
    y.push(next() * height);
    angle.push((next() - 0.5) * 2 * Math.PI);
  }
  const count = x.length;
  return { count, x: Float32Array.from(x), y: Float32Array.from(y), angle: Float32Array.from(angle), weight: new Float32Array(count).fill(0.8) }; // prettier-ignore
}

const degreesOf = (l: Line) => (Math.atan2(l.ny, l.nx) * 180) / Math.PI;

test('lines are found among strays, to a quarter of a degree and half a pixel', () => {
  const truth = [[12, 80], [100, 60], [-4, 210]] as const; // prettier-ignore
  const found = houghLines(pointsOn(truth, 300, 220, 1500), 300, 220, 6);
  for (const [degrees, c] of truth) {
    const best = found.find((l) => Math.abs(degreesOf(l) - degrees) < 0.25 && Math.abs(l.c - c) < 0.5);
    expect(best).toBeDefined();
  }
  // The true ones have the most votes.
  expect(found.slice(0, 3).every((l) => truth.some(([d]) => Math.abs(degreesOf(l) - d) < 0.25))).toBe(true);
});

test('the same lines as OpenCV’s standard Hough transform finds', async () => {
  const cv = await openCv();
  const [width, height] = [200, 160];
  const points = pointsOn([[30, 90], [115, 20]], width, height); // prettier-ignore
  const picture = new Uint8Array(width * height);
  for (let i = 0; i < points.count; i++) picture[Math.round(points.y[i]) * width + Math.round(points.x[i])] = 255;
  const lines = new cv.Mat();
  cv.HoughLines(cv.matFromArray(height, width, cv.CV_8UC1, picture), lines, 1, Math.PI / 180, 60);
  const theirs = Array.from({ length: lines.rows }, (_, i) => [lines.data32F[2 * i], lines.data32F[2 * i + 1]]);
  expect(theirs.length).toBeGreaterThanOrEqual(2);
  const ours = houghLines(points, width, height, 4).slice(0, 2);
  for (const l of ours) {
    // Theirs have no sign: rho may be negative.
    const near = theirs.some(([rho, theta]) => {
      const dot = l.nx * Math.cos(theta) + l.ny * Math.sin(theta);
      return Math.abs(dot) > Math.cos((1.5 * Math.PI) / 180) && Math.abs(rho * Math.sign(dot) - l.c) < 2;
    });
    expect(near).toBe(true);
  }
}, 60_000);

test('both sides of a dark stroke are two lines: they look away from each other', () => {
  const found = houghLines(pointsOn([[0, 100], [180, -106]], 220, 160), 220, 160, 4); // prettier-ignore
  expect(found.slice(0, 2).map((l) => Math.round(l.nx)).sort()).toEqual([-1, 1]); // prettier-ignore
  expect(sameLine(found[0], found[1], 0.1, 10, 220, 160)).toBe(false);
  expect(sameLine(found[0], found[1], 0.1, 10, 220, 160, true)).toBe(true);
});

test('lines are the same where they run together in the picture, whatever they do outside', () => {
  const a: Line = { nx: 1, ny: 0, c: 50, votes: 1 };
  const turned = (degrees: number, c: number): Line => ({ nx: Math.cos((degrees * Math.PI) / 180), ny: Math.sin((degrees * Math.PI) / 180), c, votes: 1 }); // prettier-ignore
  expect(sameLine(a, { ...a, c: 52 }, 0.05, 3, 100, 80)).toBe(true);
  expect(sameLine(a, { ...a, c: 54 }, 0.05, 3, 100, 80)).toBe(false);
  expect(sameLine(a, turned(8, 50), 0.05, 30, 100, 80)).toBe(false);
});

test('lines cross where both equations hold; nearly parallel ones do not', () => {
  const a: Line = { nx: 0.6, ny: 0.8, c: 50, votes: 1 };
  const b: Line = { nx: 1, ny: 0, c: 30, votes: 1 };
  const [x, y] = cross(a, b)!;
  expect(0.6 * x + 0.8 * y).toBeCloseTo(50, 9);
  expect(x).toBeCloseTo(30, 9);
  expect(cross(a, { nx: 0.62, ny: 0.785, c: 10, votes: 1 })).toBeNull();
});

test('the picture’s own borders are lines that nobody saw', () => {
  expect(frameLines(40, 30).map(({ nx, ny, c, votes, frame }) => [nx, ny, c, votes, frame])).toEqual([
    [1, 0, 0, 0, true],
    [0, 1, 0, 0, true],
    [1, 0, 39, 0, true],
    [0, 1, 29, 0, true],
  ]);
});

test('nothing to see, no lines', () => {
  expect(houghLines(pointsOn([], 60, 50), 60, 50, 5)).toEqual([]);
});
