import { watch } from './watch';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());
const never = new AbortController().signal;

test('what does not move for a while is given up, what moves is not', () => {
  const moving = watch(never, 100);
  for (let i = 0; i < 5; i++) {
    jest.advanceTimersByTime(80);
    moving.alive();
  }
  expect(moving.signal.aborted).toBe(false);
  jest.advanceTimersByTime(101);
  expect((moving.signal.reason as Error).name).toBe('TimeoutError');
});

test('after its end nothing is watched, though something still moves', () => {
  const over = watch(never, 100);
  over.end();
  over.alive();
  expect(jest.getTimerCount()).toBe(0);
});
