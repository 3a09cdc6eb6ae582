import { act, renderHook } from '@testing-library/react';
import { useSelection } from './useSelection';

const all = ['a', 'b', 'c', 'd', 'e'];

test('what is chosen stands in the order of the list, whatever was chosen first', () => {
  const { result } = renderHook(() => useSelection(all));
  expect([result.current.on, result.current.ids]).toEqual([false, []]);
  act(() => result.current.toggle('d'));
  act(() => result.current.toggle('b'));
  expect([result.current.on, result.current.ids]).toEqual([true, ['b', 'd']]);
  act(() => result.current.toggle('d'));
  expect([result.current.ids, result.current.has('d')]).toEqual([['b'], false]);
  act(() => result.current.end());
  expect([result.current.on, result.current.ids]).toEqual([false, []]);
});

test('reaching takes all from the one chosen last, in either direction', () => {
  const { result } = renderHook(() => useSelection(all));
  act(() => result.current.reach('d'));
  expect(result.current.ids).toEqual(['d']);
  act(() => result.current.reach('b'));
  expect(result.current.ids).toEqual(['b', 'c', 'd']);
  act(() => result.current.reach('a'));
  expect(result.current.ids).toEqual(['a', 'b', 'c', 'd']);
});

test('what leaves the list is no longer chosen', () => {
  const { result, rerender } = renderHook(({ list }) => useSelection(list), { initialProps: { list: all } });
  act(() => result.current.set(all));
  rerender({ list: ['a', 'e'] });
  expect(result.current.ids).toEqual(['a', 'e']);
});
