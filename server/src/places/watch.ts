import type { Readable } from 'node:stream';
import { Sha256 } from '../sha256';

/** Aborts what has not moved for a while, however slowly a whole may go: `alive` is called whenever something came or went. */
export function watch(outer: AbortSignal, idleMs: number): { signal: AbortSignal; alive: () => void; end: () => void } {
  const controller = new AbortController();
  const stop = () => controller.abort(new DOMException('Nothing moved any more', 'TimeoutError'));
  let timer: ReturnType<typeof setTimeout> | null = setTimeout(stop, idleMs);
  const signal = AbortSignal.any([outer, controller.signal]);
  return {
    signal,
    alive() {
      // What still moves after its end is watched no more.
      if (!timer) return;
      clearTimeout(timer);
      timer = setTimeout(stop, idleMs);
    },
    end() {
      if (timer) clearTimeout(timer);
      timer = null;
    },
  };
}

/** SHA-256 of what comes, in hexadecimal; given up when nothing comes for a while. @param open makes the stream, which ends with the signal. */
export async function hashOf(
  open: (signal: AbortSignal) => Promise<Readable>,
  outer: AbortSignal,
  idleMs: number,
): Promise<string> {
  const hash = new Sha256();
  const idle = watch(outer, idleMs);
  try {
    const stream = await open(idle.signal);
    const stop = () => stream.destroy(idle.signal.reason as Error);
    idle.signal.addEventListener('abort', stop);
    try {
      for await (const chunk of stream) {
        idle.alive();
        await hash.update(chunk as Buffer);
      }
    } finally {
      idle.signal.removeEventListener('abort', stop);
    }
    return await hash.digest();
  } finally {
    hash.drop();
    idle.end();
  }
}
