import type { Mark } from '@libretto/model';

type Point = readonly [number, number];

/** Photo px and shares of the page, one to the other. */
export interface Ways {
  toPage: (point: Point) => Point;
  toPhoto: (share: Point) => Point;
}

/** A mark with all its places moved on the page; notes are written larger or smaller by `size`. */
function placed(mark: Mark, { toPage, toPhoto }: Ways, move: (share: Point) => Point, size = 1): Mark {
  const to = (point: readonly number[]) => [...toPhoto(move(toPage([point[0]!, point[1]!]))), ...point.slice(2)] as never;
  if ('points' in mark) return { ...mark, points: mark.points.map(to) };
  if ('text' in mark)
    return { ...mark, at: to(mark.at), along: to(mark.along), sizePt: Math.max(4, Math.min(96, mark.sizePt * size)) };
  return { ...mark, from: to(mark.from), to: to(mark.to) };
}

/** @param by shares of the page. */
export const shifted = (mark: Mark, ways: Ways, [dx, dy]: Point): Mark => placed(mark, ways, ([x, y]) => [x + dx, y + dy]);

/** What keeps its shape however it is pulled. */
const keepsShape = (mark: Mark) => 'points' in mark || 'text' in mark;
const least = 0.05;

/**
 * Marks pulled larger or smaller by a corner of what holds them: the opposite corner stays. What was drawn or written by hand keeps its shape.
 *
 * @param anchor the corner that stays, @param corner where the other was, @param now where it is pulled to; shares of the page.
 * @param ratio of the page, width to height.
 */
export function resized(marks: readonly Mark[], ways: Ways, { anchor, corner, now, ratio }: { anchor: Point; corner: Point; now: Point; ratio: number }): Mark[] {
  const span = [corner[0] - anchor[0], corner[1] - anchor[1]] as const;
  const pulled = [now[0] - anchor[0], now[1] - anchor[1]] as const;
  const along = (v: number, of: number) => (Math.abs(of) < 1e-6 ? 1 : Math.max(least, v / of));
  const free: Point = [along(pulled[0], span[0]), along(pulled[1], span[1])];
  const length = ([x, y]: Point) => Math.hypot(x * ratio, y);
  const even = Math.max(least, (pulled[0] * span[0] * ratio ** 2 + pulled[1] * span[1]) / Math.max(1e-9, length(span) ** 2));
  const [fx, fy] = marks.some(keepsShape) ? [even, even] : free;
  return marks.map((mark) =>
    placed(mark, ways, ([x, y]) => [anchor[0] + (x - anchor[0]) * fx, anchor[1] + (y - anchor[1]) * fy], fx),
  );
} // prettier-ignore
