import { newId } from '../store/ids';
import { jobChanged, jobEnded, type Job } from '../store/session';
import type { AppDispatch, RootState } from '../store/store';

const running = new Map<string, AbortController>();

export interface JobHandle {
  id: string;
  signal: AbortSignal;
  tell: (progress: Partial<Pick<Job, 'done' | 'total' | 'documentId'>>) => void;
}

/** Runs something that takes a while under an id: its progress is in the store, and it can be cancelled from anywhere. */
export function runJob<T>(
  kind: Job['kind'],
  documentId: string | null,
  total: number,
  work: (job: JobHandle, dispatch: AppDispatch) => Promise<T>,
) {
  return async (dispatch: AppDispatch): Promise<T> => {
    const stop = new AbortController();
    let job: Job = { id: newId(), kind, documentId, done: 0, total };
    running.set(job.id, stop);
    dispatch(jobChanged(job));
    const tell: JobHandle['tell'] = (progress) => {
      job = { ...job, ...progress };
      if (!stop.signal.aborted) dispatch(jobChanged(job));
    };
    try {
      return await work({ id: job.id, signal: stop.signal, tell }, dispatch);
    } finally {
      running.delete(job.id);
      dispatch(jobEnded(job.id));
    }
  };
}

export function cancelJob(id: string) {
  return (dispatch: AppDispatch): void => {
    running.get(id)?.abort();
    dispatch(jobEnded(id));
  };
}

/** The work on a document, or without one any of its kind. */
export const jobOf = ({ session }: RootState, kind: Job['kind'], documentId?: string | null): Job | undefined =>
  Object.values(session.jobs).find((j) => j.kind === kind && (documentId === undefined || j.documentId === documentId));
