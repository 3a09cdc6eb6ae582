import { act, renderHook } from '@testing-library/react';
import type { FocusEvent, KeyboardEvent, PointerEvent } from 'react';
import { asPolygon, type Quad } from './quad';
import { useHandles, type Handle } from './useHandles';

const square: Quad = [[100, 100], [500, 100], [500, 700], [100, 700]]; // prettier-ignore
const photo = { width: 600, height: 800 };

/** Handles at half the photo's size on a stage that begins at 10, 20. */
function hands({ seen = [] as Quad[], polygon = null as [number, number][] | null } = {}) {
  const box = { current: { getBoundingClientRect: () => ({ left: 10, top: 20 }) } as HTMLDivElement };
  const told = { drafts: [] as Quad[], done: [] as Quad[], bends: [] as [readonly (readonly number[])[], boolean][] };
  const { result, rerender } = renderHook(
    (quad: Quad) =>
      useHandles({
        box,
        scale: 0.5,
        photo,
        quad,
        polygon,
        seen,
        onDraft: (q) => told.drafts.push(q),
        onDone: (q) => told.done.push(q),
        onBend: (p, done) => told.bends.push([p, done]),
      }),
    { initialProps: square },
  );
  const event = (x: number, y: number, altKey = false) =>
    ({ clientX: x, clientY: y, altKey, pointerId: 1, stopPropagation: () => {}, currentTarget: { setPointerCapture: () => {} } }) as unknown as PointerEvent<HTMLDivElement>; // prettier-ignore
  const drag = (handle: Handle, from: [number, number], to: [number, number], altKey = false) => {
    act(() => result.current.on(handle).onPointerDown(event(...from)));
    act(() => result.current.pull(event(...to, altKey)));
  };
  const press = (handle: Handle, key: string, shiftKey = false) => {
    const prevented = jest.fn();
    act(() => result.current.on(handle).onKeyDown({ key, shiftKey, preventDefault: prevented, stopPropagation: () => {} } as unknown as KeyboardEvent)); // prettier-ignore
    return prevented;
  };
  return { result, rerender, told, drag, press };
}

const corner = (index: number): Handle => ({ kind: 'corner', index });
const side = (index: number): Handle => ({ kind: 'side', index });
const curve = (index: number): Handle => ({ kind: 'curve', index });

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

test('a corner follows the finger at the photo’s scale; let go, it is the outline', () => {
  const { result, told, drag } = hands();
  drag(corner(0), [60, 70], [65, 80]);
  expect(told.drafts.at(-1)![0]).toEqual([110, 120]);
  expect(result.current.active).toEqual(corner(0));
  expect(result.current.finger).toEqual([55, 60]);
  act(() => result.current.letGo());
  expect(told.done).toEqual([told.drafts.at(-1)]);
  expect(result.current.dragging).toBe(false);
});

test('a side moves parallel to itself', () => {
  const { told, drag } = hands();
  drag(side(1), [260, 220], [250, 240]);
  expect(told.drafts.at(-1)).toEqual([[100, 100], [480, 100], [480, 700], [100, 700]]); // prettier-ignore
});

test('a tap that moves nothing is no step', () => {
  const { result, told } = hands();
  act(() => result.current.on(corner(2)).onPointerDown({ clientX: 1, clientY: 1, pointerId: 1, stopPropagation: () => {}, currentTarget: { setPointerCapture: () => {} } } as unknown as PointerEvent<HTMLDivElement>)); // prettier-ignore
  act(() => result.current.letGo());
  expect(told).toEqual({ drafts: [], done: [], bends: [] });
});

test('near what the finder saw a corner snaps, with Alt it does not', () => {
  const seen: Quad[] = [[[112, 108], [500, 100], [500, 700], [100, 700]]]; // prettier-ignore
  const first = hands({ seen });
  first.drag(corner(0), [60, 70], [64, 72]);
  expect(first.told.drafts.at(-1)![0]).toEqual([112, 108]);
  const second = hands({ seen });
  second.drag(corner(0), [60, 70], [64, 72], true);
  expect(second.told.drafts.at(-1)![0]).toEqual([108, 104]);
});

test('no drag folds the outline over or takes it far out of the photo', () => {
  const { told, drag } = hands();
  drag(corner(0), [60, 70], [400, 500]);
  expect(told.drafts.at(-1)).toEqual(square);
  drag(corner(0), [60, 70], [-2000, -2000]);
  // A quarter of the longer side at most.
  expect(told.drafts.at(-1)![0]).toEqual([-200, -200]);
});

test('arrow keys nudge by one, with Shift by ten; a run of them is one step', () => {
  const { told, press, rerender } = hands();
  expect(press(corner(2), 'ArrowLeft')).toHaveBeenCalled();
  rerender(told.drafts.at(-1)!);
  press(corner(2), 'ArrowUp', true);
  expect(told.drafts.at(-1)![2]).toEqual([499, 690]);
  expect(told.done).toEqual([]);
  act(() => void jest.advanceTimersByTime(800));
  expect(told.done).toHaveLength(1);
  expect(told.done[0]![2]).toEqual([499, 690]);
  expect(press(corner(2), 'Enter')).not.toHaveBeenCalled();
});

test('a handle that is left settles its nudges at once', () => {
  const { result, told, press } = hands();
  act(() => result.current.on(side(0)).onFocus());
  expect(result.current.active).toEqual(side(0));
  press(side(0), 'ArrowDown');
  act(() => (result.current.on(side(0)).onBlur as (e?: FocusEvent) => void)());
  expect(told.done).toEqual([[[100, 101], [500, 101], [500, 700], [100, 700]]]); // prettier-ignore
  expect(result.current.active).toBeNull();
});

test('a side bends by its curve handle so that it passes under the finger', () => {
  const { told, drag } = hands();
  drag(curve(0), [210, 70], [210, 76]);
  const [polygon, done] = told.bends.at(-1)!;
  expect(done).toBe(false);
  const straight = asPolygon(square);
  // At three quarters of the side: 6 px of the stage are 12 of the photo.
  expect(polygon[12]![1]! - straight[12]![1]).toBeCloseTo(12, 6);
  expect(polygon[0]).toEqual(straight[0]);
});

test('keys bend it too', () => {
  const { told, press } = hands();
  press(curve(2), 'ArrowDown', true);
  const [polygon, done] = told.bends.at(-1)!;
  expect(done).toBe(true);
  expect(polygon[40]![1]).toBeCloseTo(710, 6);
});
