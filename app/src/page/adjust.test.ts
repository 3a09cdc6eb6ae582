import { withTurned } from './AdjustSliders';

test('only what differs from the filter as made is kept', () => {
  expect(withTurned(undefined, 'contrast', 0.35)).toEqual({ contrast: 0.35 });
  expect(withTurned({ contrast: 0.35 }, 'contrast', 0)).toBeUndefined();
  expect(withTurned({ contrast: 0.35 }, 'evening', 1)).toEqual({ contrast: 0.35 });
  expect(withTurned({ contrast: 0.35 }, 'evening', 0.5)).toEqual({ contrast: 0.35, evening: 0.5 });
});

test('what was turned before is not changed in place', () => {
  const before = { warmth: 0.2 };
  withTurned(before, 'warmth', 0);
  expect(before).toEqual({ warmth: 0.2 });
});
