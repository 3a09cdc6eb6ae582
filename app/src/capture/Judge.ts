import * as Comlink from 'comlink';
import type { Sight } from '@libretto/core';
import type { JudgeApi } from '../work/judge.worker';
import type { Judgement } from './camera/moment';

/** A still that cannot be judged in this time counts as it is, ms. */
const longestMs = 4000;

/** Judges stills in a worker of its own, so that no live frame stands before them. */
export class Judge {
  private worker: Worker | null = null;
  private api: Comlink.Remote<JudgeApi> | null = null;

  /** A still against what was seen when the shutter went. */
  readonly judge = async (still: Blob, seen: Sight | null): Promise<Judgement> => {
    if (!seen?.quad) return { same: true, sharp: null };
    if (!this.api) {
      this.worker = new Worker(new URL('../work/judge.worker', window.location.href));
      this.api = Comlink.wrap<JudgeApi>(this.worker);
    }
    let timer: ReturnType<typeof setTimeout> | undefined;
    const late = new Promise<Judgement>((resolve) => {
      timer = setTimeout(() => {
        this.close();
        resolve({ same: true, sharp: null });
      }, longestMs);
    });
    const { quad, signature, detailAt } = seen;
    try {
      return await Promise.race([this.api.judge(still, { quad, signature, detailAt }), late]);
    } finally {
      clearTimeout(timer);
    }
  };

  close(): void {
    this.worker?.terminate();
    this.worker = null;
    this.api = null;
  }
}
