import { openCv } from '../testing/opencv';
import { random } from '../testing/pictures';
import { marksOf, partFrom } from './marks';

test('marks are OpenCV’s 8-connected components with their boxes and areas', async () => {
  const cv = await openCv();
  const [width, height] = [61, 47];
  const next = random(3);
  const mask = Uint8Array.from({ length: width * height }, () => (next() < 0.33 ? 1 : 0));
  const [labels, stats, centroids] = [new cv.Mat(), new cv.Mat(), new cv.Mat()];
  const count = cv.connectedComponentsWithStats(cv.matFromArray(height, width, cv.CV_8UC1, [...mask]), labels, stats, centroids, 8);
  const theirs = Array.from({ length: count - 1 }, (_, i) => {
    const [x0, y0, w, h, area] = [...stats.data32S.slice((i + 1) * 5, (i + 2) * 5)] as [number, number, number, number, number];
    return { x0, y0, x1: x0 + w - 1, y1: y0 + h - 1, area };
  });
  const inOrder = (a: (typeof theirs)[number], b: (typeof theirs)[number]) => a.y0 - b.y0 || a.x0 - b.x0 || a.area - b.area || a.x1 - b.x1;
  expect(theirs.length).toBeGreaterThan(40);
  expect(marksOf(mask, width, height).sort(inOrder)).toEqual(theirs.sort(inOrder));
}, 60_000); // prettier-ignore

test('an empty mask has no marks, a full one is one', () => {
  expect(marksOf(new Uint8Array(12), 4, 3)).toEqual([]);
  expect(marksOf(new Uint8Array(12).fill(1), 4, 3)).toEqual([{ x0: 0, y0: 0, x1: 3, y1: 2, area: 12 }]);
});

test('a part hangs together by its sides, not its corners, and does not run round the border', () => {
  const on = Uint8Array.from([1, 1, 0, 1, 0, 0, 1, 0, 1, 0, 0, 0]);
  const seen = new Uint8Array(12);
  expect(partFrom(on, seen, 4, 3, 0)).toEqual([0, 1]);
  expect(partFrom(on, seen, 4, 3, 3)).toEqual([3]);
  expect([...seen]).toEqual([1, 1, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0]);
});
