import * as Comlink from 'comlink';
import { useCallback, useEffect, useRef, useState, useSyncExternalStore } from 'react';
import type { Quad, Readiness, Sight } from '@libretto/core';
import { CalmReadiness } from '@libretto/core/live/calm';
import type { LiveApi } from '../work/live.worker';

/** What is drawn over the running picture. */
export interface LiveView {
  /** Shares of the picture's width and height. */
  quad: Quad | null;
  readiness: Readiness | null;
}

/**
 * The live view apart from React's state, so that a sight, twenty a second, draws the outline and the bars anew and nothing else.
 */
export class LiveViewStore {
  private view: LiveView = { quad: null, readiness: null };
  private readonly listeners = new Set<() => void>();
  readonly get = () => this.view;
  readonly subscribe = (listener: () => void) => {
    this.listeners.add(listener);
    return () => void this.listeners.delete(listener);
  };
  set(view: LiveView): void {
    this.view = view;
    this.listeners.forEach((listener) => listener());
  }
}

export const useLiveView = (store: LiveViewStore): LiveView => useSyncExternalStore(store.subscribe, store.get, store.get);

export interface Live {
  view: LiveViewStore;
  /** Who hears every sight; the answer is shown when there is no other advice. */
  hear: (listener: SightListener) => void;
}

export type SightListener = (sight: Sight, nowMs: number) => string;

/**
 * Looks at the running picture in a worker of its own, one frame at a time: the next is handed over when the last has been answered, so
 * that the picture never waits.
 */
export function useLive(video: HTMLVideoElement | null, running: boolean, stillEdgePx: number | null): Live {
  const [view] = useState(() => new LiveViewStore());
  const listener = useRef<SightListener>(() => '');
  useEffect(() => {
    if (!video || !running) return;
    const thread = new Worker(new URL('../work/live.worker', window.location.href));
    const api = Comlink.wrap<LiveApi>(thread);
    const calm = new CalmReadiness();
    const nextFrame = framesOf(video);
    let on = true;
    let looking: Promise<unknown> = Promise.resolve();
    const run = async () => {
      while (on) {
        // Asked for before the look, so that a frame that comes meanwhile is not missed.
        const fresh = nextFrame();
        if (video.videoWidth && !document.hidden) {
          try {
            // Handed over as it is: shrinking and reading it are the worker's, so that this thread stays free.
            const picture = typeof VideoFrame === 'undefined' ? await createImageBitmap(video) : new VideoFrame(video);
            const now = performance.now();
            const look = api.look(Comlink.transfer(picture, [picture]), stillEdgePx, now);
            looking = look.catch(() => {});
            const sight = await look;
            if (!on) return;
            const word = listener.current(sight, now);
            view.set({
              quad: sight.shown,
              readiness: calm.next({ ...sight.readiness, advice: sight.readiness.advice || word }, now),
            });
          } catch {
            // A frame that could not be read: the next one will do.
            await new Promise((resolve) => setTimeout(resolve, 200));
          }
        }
        await fresh;
      }
    };
    void run();
    return () => {
      on = false;
      // It gives back the frame that it holds before it goes.
      void looking.finally(() => thread.terminate());
      view.set({ quad: null, readiness: null });
    };
  }, [video, running, stillEdgePx, view]);
  const hear = useCallback<Live['hear']>((heard) => {
    listener.current = heard;
  }, []);
  return { view, hear };
}

/** The longest that a first frame is waited for, ms. */
const firstFrameMs = 1000;

/**
 * Waits for a video's next frame, so that each is looked at once: seen twice, a picture that stood while a still was exposed would count as a hand that
 * is still. Where frames are not announced, or only by name (WebKitGTK without compositing), the screen's beat has to do.
 */
function framesOf(video: HTMLVideoElement): () => Promise<unknown> {
  let announced: boolean | null = typeof video.requestVideoFrameCallback === 'function' ? null : false;
  return () =>
    announced === false
      ? new Promise(requestAnimationFrame)
      : new Promise((resolve) => {
          video.requestVideoFrameCallback(() => resolve((announced = true)));
          if (announced === null) setTimeout(() => resolve((announced ??= false)), firstFrameMs);
        });
}
