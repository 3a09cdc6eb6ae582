import { workersFor } from './pools';

jest.mock('./pool', () => ({ WorkerPool: class {} }));

test.each([
  [8, 8, 4],
  [4, 4, 3],
  [2, 8, 1],
  // Little memory; none told, as in Safari, with cores rounded up.
  [8, 2, 1],
  [8, undefined, 2],
  [2, undefined, 1],
  [1, 8, 1],
])('%i cores and %s GB: %i photos at a time', (cores, memory, workers) => expect(workersFor(cores, memory)).toBe(workers));
