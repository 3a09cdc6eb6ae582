import type { BroughtWord } from '../store/files';

interface View {
  width: number;
  height: number;
  /** Photo px to shares of the page. */
  toPage: (point: [number, number]) => readonly number[];
}

/** Words that a file brought along, where they stand on the page as it is now, in its px; those that are not wholly on it are left out. */
export function wordsOnPage(brought: readonly BroughtWord[], { width, height, toPage }: View) {
  return brought.flatMap(([text, x, y, w, h]) => {
    const corners = [[x, y], [x + w, y], [x + w, y + h], [x, y + h]].map((p) => toPage(p as [number, number])); // prettier-ignore
    const [left, top] = [Math.min(...corners.map((p) => p[0]!)), Math.min(...corners.map((p) => p[1]!))];
    const [right, bottom] = [Math.max(...corners.map((p) => p[0]!)), Math.max(...corners.map((p) => p[1]!))];
    if (left < 0 || top < 0 || right > 1 || bottom > 1) return [];
    return [{ text, box: { x: left * width, y: top * height, width: (right - left) * width, height: (bottom - top) * height } }];
  });
}
