import type { FileApi } from './file.worker';
import type { PageApi } from './page.worker';
import { WorkerPool } from './pool';
import type { ReadApi } from './read.worker';
import type { WordsApi } from './words.worker';

/**
 * How many photos are worked on at a time. A photo under work takes up to 300 MB. Safari and WebKitGTK do not say how much memory there is, and round the number of cores up: two at most there.
 *
 * @param memoryGB as `navigator.deviceMemory` says it: 0.25 to 8, or nothing.
 */
export function workersFor(cores: number, memoryGB: number | undefined): number {
  const most = memoryGB === undefined ? 2 : memoryGB <= 2 ? 1 : 4;
  return Math.max(1, Math.min(most, cores - 1));
}

const { hardwareConcurrency: cores = 2, deviceMemory } = (
  typeof navigator === 'undefined' ? {} : navigator
) as Partial<Navigator> & { deviceMemory?: number };

/** Where there is little memory nobody holds it while another works. */
const little = deviceMemory !== undefined && deviceMemory <= 2;

/** Photo to page: decoding, finding, flattening, finishing. */
export const pagePool = new WorkerPool<PageApi>(
  () => new Worker(new URL('./page.worker', window.location.href)),
  workersFor(cores, deviceMemory),
  120_000,
  { afterMs: little ? 2000 : 20_000, rest: (api) => api.rest() },
);

/** Pages to files. */
export const filePool = new WorkerPool<FileApi>(() => new Worker(new URL('./file.worker', window.location.href)), 1);

/** Text of pages. A reader that hangs is replaced; one that has nothing to read lets its 200 MB go. */
export const readPool = new WorkerPool<ReadApi>(() => new Worker('/text/read.js', { type: 'module' }), 1, 180_000, {
  afterMs: little ? 5000 : 30_000,
  rest: (api) => api.rest(),
});

/** What was read, to tables, contacts and files of words. */
export const wordsPool = new WorkerPool<WordsApi>(() => new Worker('/text/words.js', { type: 'module' }), 1);
