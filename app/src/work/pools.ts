import type { FileApi } from './file.worker';
import type { PageApi } from './page.worker';
import { WorkerPool } from './pool';

const cores = typeof navigator === 'undefined' ? 2 : navigator.hardwareConcurrency || 2;

/** Photo to page: decoding, finding, flattening, finishing. */
export const pagePool = new WorkerPool<PageApi>(
  () => new Worker(new URL('./page.worker', window.location.href)),
  Math.max(1, Math.min(4, cores - 1)),
  120_000,
  { afterMs: 20_000, rest: (api) => api.rest() },
);

/** Pages to files. */
export const filePool = new WorkerPool<FileApi>(() => new Worker(new URL('./file.worker', window.location.href)), 1);
