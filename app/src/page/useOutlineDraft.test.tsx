import { act, renderHook } from '@testing-library/react';
import type { Outline } from '@libretto/model';
import { useOutlineDraft } from './useOutlineDraft';

const outline = (x: number): Outline => ({ v: 1, quad: [[x, 0], [100, 0], [100, 100], [0, 100]], confidence: 1, source: 'hand' }); // prettier-ignore

function hand() {
  const { result, rerender } = renderHook((stored: Outline) => useOutlineDraft(stored), { initialProps: outline(0) });
  return {
    shown: () => result.current[0].quad[0][0],
    draw: (x: number) => act(() => result.current[1](outline(x))),
    send: (x: number) => act(() => result.current[2](outline(x))),
    comes: (x: number) => rerender(outline(x)),
  };
}

test('what the hand has moved meanwhile stays when what it sent comes back from the store', () => {
  const { shown, draw, send, comes } = hand();
  draw(10);
  send(10);
  draw(11);
  comes(10);
  expect(shown()).toBe(11);
  send(11);
  comes(11);
  expect(shown()).toBe(11);
});

test('what comes from elsewhere ends a draft, for good', () => {
  const { shown, draw, send, comes } = hand();
  draw(10);
  send(10);
  draw(11);
  comes(40);
  expect(shown()).toBe(40);
  comes(10);
  expect(shown()).toBe(10);
});
