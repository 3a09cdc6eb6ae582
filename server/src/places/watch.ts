/** Aborts what has not moved for a while, however slowly a whole may go: `alive` is called whenever something came or went. */
export function watch(outer: AbortSignal, idleMs: number): { signal: AbortSignal; alive: () => void; end: () => void } {
  const controller = new AbortController();
  const stop = () => controller.abort(new DOMException('Nothing moved any more', 'TimeoutError'));
  let timer = setTimeout(stop, idleMs);
  const signal = AbortSignal.any([outer, controller.signal]);
  return {
    signal,
    alive() {
      clearTimeout(timer);
      timer = setTimeout(stop, idleMs);
    },
    end: () => clearTimeout(timer),
  };
}
