import * as Comlink from 'comlink';
import { useEffect, useRef, useState } from 'react';
import type { Quad, Readiness, Signature } from '@libretto/core';
import { SteadyOutline } from '../../camera/steady';
import type { LiveApi } from '../../workers/live.worker';

const frameEdgePx = 480;

export interface Live {
  /** Shares of the picture's width and height. */
  quad: Quad | null;
  readiness: Readiness | null;
}

/**
 * Looks at the running picture in a worker of its own, one frame at a time: the next is handed over when the last has been answered, so
 * that the picture never waits. `onSight` hears every answer.
 */
export function useLive(
  video: HTMLVideoElement | null,
  running: boolean,
  onSight: (readiness: Readiness, signature: Signature | null) => void,
): Live {
  const [live, setLive] = useState<Live>({ quad: null, readiness: null });
  const listener = useRef(onSight);
  useEffect(() => {
    listener.current = onSight;
  });
  useEffect(() => {
    if (!video || !running) return;
    const worker = new Worker(new URL('../../workers/live.worker', window.location.href));
    const api = Comlink.wrap<LiveApi>(worker);
    const steady = new SteadyOutline();
    let on = true;
    const look = async () => {
      while (on) {
        if (video.videoWidth && !document.hidden) {
          const scale = frameEdgePx / Math.max(video.videoWidth, video.videoHeight);
          try {
            const frame = await createImageBitmap(video, {
              resizeWidth: Math.round(video.videoWidth * scale),
              resizeHeight: Math.round(video.videoHeight * scale),
            });
            const sight = await api.look(Comlink.transfer(frame, [frame]), Math.max(video.videoWidth, video.videoHeight));
            if (!on) return;
            setLive({ quad: steady.next(sight.quad), readiness: sight.readiness });
            listener.current(sight.readiness, sight.signature);
          } catch {
            // A frame that could not be read: the next one will do.
            await new Promise((resolve) => setTimeout(resolve, 200));
          }
        }
        await new Promise((resolve) => requestAnimationFrame(resolve));
      }
    };
    void look();
    return () => {
      on = false;
      worker.terminate();
    };
  }, [video, running]);
  return live;
}
