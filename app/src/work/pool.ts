import * as Comlink from 'comlink';

/** What is wanted first: the higher the sooner. */
export const priority = { onScreen: 3, export: 2, look: 1, ahead: 0 } as const;

interface Job<Api> {
  call: (api: Comlink.Remote<Api>) => Promise<unknown>;
  rank: number;
  order: number;
  tries: number;
  signal?: AbortSignal;
  resolve: (value: unknown) => void;
  reject: (error: Error) => void;
}

interface Slot<Api> {
  worker: Worker;
  api: Comlink.Remote<Api>;
  job: Job<Api> | null;
  idle?: ReturnType<typeof setTimeout>;
  crashed: (error: Error) => void;
}

export class WorkerCrash extends Error {}

/**
 * Workers behind one door: jobs in order of priority, each cancellable by its signal. A worker that crashes or overruns its time is
 * replaced and its job tried once more; then the job fails.
 */
export class WorkerPool<Api> {
  private readonly slots: Slot<Api>[] = [];
  private queue: Job<Api>[] = [];
  private count = 0;

  constructor(
    private readonly start: () => Worker,
    private readonly size: number,
    private readonly longestMs = 120_000,
    /** After so long without work a worker is asked to let go of what it holds. */
    private readonly idle: { afterMs: number; rest: (api: Comlink.Remote<Api>) => unknown } | null = null,
  ) {}

  run<T>(call: (api: Comlink.Remote<Api>) => Promise<T>, rank: number, signal?: AbortSignal): Promise<T> {
    return new Promise<T>((resolve, reject) => {
      if (signal?.aborted) return reject(cancelled());
      const job: Job<Api> = {
        call,
        rank,
        order: this.count++,
        tries: 0,
        resolve: resolve as (v: unknown) => void,
        reject,
        ...(signal && { signal }),
      };
      signal?.addEventListener('abort', () => this.cancel(job), { once: true });
      this.queue.push(job);
      this.next();
    });
  }

  private cancel(job: Job<Api>): void {
    if (!this.queue.includes(job)) return;
    // A job under way runs to its end: what it has computed is worth keeping.
    this.queue = this.queue.filter((j) => j !== job);
    job.reject(cancelled());
    this.next();
  }

  private next(): void {
    if (!this.queue.length) return;
    let slot = this.slots.find((s) => !s.job);
    if (!slot) {
      if (this.slots.length >= this.size) return;
      slot = this.open();
      this.slots.push(slot);
    }
    this.queue.sort((a, b) => b.rank - a.rank || a.order - b.order);
    void this.work(slot, this.queue.shift()!);
    this.next();
  }

  private open(): Slot<Api> {
    const worker = this.start();
    const slot: Slot<Api> = { worker, api: Comlink.wrap<Api>(worker), job: null, crashed: () => {} };
    worker.onerror = (event) => {
      event.preventDefault?.();
      slot.crashed(new WorkerCrash(event.message || 'The worker stopped'));
    };
    return slot;
  }

  private async work(slot: Slot<Api>, job: Job<Api>): Promise<void> {
    slot.job = job;
    clearTimeout(slot.idle);
    job.tries++;
    let timer: ReturnType<typeof setTimeout> | undefined;
    try {
      const broken = new Promise<never>((_resolve, reject) => {
        slot.crashed = reject;
        timer = setTimeout(() => reject(new WorkerCrash('The work took too long')), this.longestMs);
      });
      job.resolve(await Promise.race([job.call(slot.api), broken]));
    } catch (error) {
      if (error instanceof WorkerCrash) {
        slot.worker.terminate();
        this.slots.splice(this.slots.indexOf(slot), 1);
        if (job.tries < 2 && !job.signal?.aborted) this.queue.push(job);
        else job.reject(error);
      } else job.reject(error as Error);
    } finally {
      clearTimeout(timer);
      slot.crashed = () => {};
      slot.job = null;
      this.next();
      const { idle } = this;
      if (idle && !slot.job) slot.idle = setTimeout(() => !slot.job && void idle.rest(slot.api), idle.afterMs);
    }
  }
}

function cancelled(): Error {
  return new DOMException('Cancelled', 'AbortError');
}

export const wasCancelled = (error: unknown): boolean => (error as { name?: string }).name === 'AbortError';
