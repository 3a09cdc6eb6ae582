import { act, renderHook } from '@testing-library/react';
import type { KeyboardEvent } from 'react';
import { useBrush, type Spot } from './useBrush';
import '../testing/words';

const pressed = (key: string, shiftKey = false) => {
  const event = { key, shiftKey, preventDefault: jest.fn(), stopPropagation: jest.fn() };
  return { event, as: event as unknown as KeyboardEvent };
};

function brush(on = true) {
  const strokes: (readonly Spot[])[] = [];
  const left = jest.fn();
  const { result } = renderHook(() => useBrush({ on, width: 400, height: 800, onStroke: (s) => strokes.push(s), onLeave: left }));
  const press = (key: string, shift = false) => {
    const { event, as } = pressed(key, shift);
    act(() => result.current.onKeyDown(as));
    return event;
  };
  return { result, strokes, left, press };
}

test('keys lead the brush: Space begins, arrows draw, Space ends the stroke', () => {
  const { result, strokes, press } = brush();
  press(' ');
  expect(result.current.label).toContain('painting, 50 across, 50 down');
  press('ArrowRight');
  press('ArrowDown', true);
  press('Enter');
  expect(strokes).toEqual([[[0.5, 0.5], [0.52, 0.5], [0.52, 0.55]]]); // prettier-ignore
  expect(result.current.stroke).toBeNull();
  expect(result.current.label).toContain('lifted');
});

test('the brush stays on the page; Escape drops a stroke, and without one leaves', () => {
  const { result, strokes, left, press } = brush();
  for (let i = 0; i < 20; i++) press('ArrowLeft', true);
  expect(result.current.at).toEqual([0, 0.5]);
  press(' ');
  press('ArrowUp');
  press('Escape');
  expect(result.current.stroke).toBeNull();
  expect(strokes).toEqual([]);
  expect(left).not.toHaveBeenCalled();
  press('Escape');
  expect(left).toHaveBeenCalledTimes(1);
});

test('other keys, and all of them while nothing is painted, are left to the page', () => {
  expect(brush().press('Tab').preventDefault).not.toHaveBeenCalled();
  const { press, result } = brush(false);
  expect(press('ArrowLeft').preventDefault).not.toHaveBeenCalled();
  expect(result.current.at).toEqual([0.5, 0.5]);
});

test('a pointer draws points that lie apart, and shows itself', () => {
  const { result, strokes } = brush();
  act(() => result.current.begin([0.1, 0.1]));
  act(() => result.current.goTo([0.101, 0.1]));
  act(() => result.current.goTo([0.2, 0.1]));
  expect(result.current.shown).toBe(false);
  act(() => result.current.end());
  expect(strokes).toEqual([[[0.1, 0.1], [0.2, 0.1]]]); // prettier-ignore
});
