import * as Comlink from 'comlink';
import { book, pile, type ReelPlan } from '@libretto/demo/reel/acts';
import { Reel, type ReelScene } from '@libretto/demo/reel/reel';
import type { SceneApi } from '../../work/scene.worker';
import { CameraError, type CameraChoice, type RunningCamera } from './camera';

const reels: Record<string, ReelPlan> = { 'stand-in:pile': pile, 'stand-in:book': book };
const preview = { width: 480, height: 640 };
/** A picture in so many ms is enough to follow a sheet by; what a machine can more is left to what is done with the pages. */
const frameMs = 80;
const photo = { width: 1800, height: 2400 };

/** Cameras that are none: moving scenes of the demo's office, for a machine without a camera. */
export const standIns: readonly CameraChoice[] = Object.keys(reels).map((id) => ({ id, label: '' }));

/** What a stand-in shows, by its id. */
export const standInKind = (id: string): 'pile' | 'book' | null =>
  id === 'stand-in:pile' ? 'pile' : id === 'stand-in:book' ? 'book' : null;

export const isStandIn = (id: string | null): id is string => id !== null && id in reels;

/** Starts a stand-in: it renders the reel's scene of the moment, again and again, into a stream; a still is the same scene with more pixels. */
export async function openStandIn(id: string): Promise<RunningCamera> {
  const reel = new Reel(reels[id]!);
  const start = () => new Worker(new URL('../../work/scene.worker', window.location.href));
  const film = start();
  const filming = Comlink.wrap<SceneApi>(film);
  // The photograph has a worker of its own, so that the picture runs on meanwhile.
  let shooting: { worker: Worker; api: Comlink.Remote<SceneApi> } | null = null;
  const origin = window.location.origin;
  const canvas = document.createElement('canvas');
  canvas.width = preview.width;
  canvas.height = preview.height;
  const context = canvas.getContext('bitmaprenderer')!;
  const began = performance.now();
  const clock = () => performance.now() - began;
  let on = true;
  let lit = false;
  const lost: (() => void)[] = [];
  const now = (): ReelScene => {
    const scene = reel.scene(clock());
    return lit ? { ...scene, light: { ...scene.light, ambient: Math.max(0.55, scene.light.ambient) } } : scene;
  };
  try {
    context.transferFromImageBitmap(await filming.frame(origin, now(), preview.width, preview.height));
  } catch (error) {
    film.terminate();
    throw new CameraError('fault', (error as Error).message);
  }
  const stream = canvas.captureStream();
  /** Stills under way: the picture stands meanwhile, as a phone's does, and the machine has both hands free for them. */
  let exposing = 0;
  const roll = async () => {
    while (on) {
      const next = performance.now() + frameMs;
      if (!document.hidden && !exposing) {
        try {
          const bitmap = await filming.frame(origin, now(), preview.width, preview.height);
          if (on) context.transferFromImageBitmap(bitmap);
        } catch {
          if (on) lost.forEach((listener) => listener());
          return;
        }
      }
      do await new Promise((resolve) => requestAnimationFrame(resolve));
      while (performance.now() < next);
    }
  };
  void roll();
  return {
    id,
    stream,
    stillEdgePx: photo.height,
    still: async () => {
      if (!shooting) {
        const worker = start();
        shooting = { worker, api: Comlink.wrap<SceneApi>(worker) };
      }
      const scene = now();
      reel.taken(clock());
      exposing++;
      try {
        return await shooting.api.still(origin, scene, photo.width, photo.height);
      } finally {
        exposing--;
      }
    },
    light: async (wanted) => void (lit = wanted),
    onLost: (listener) => void lost.push(listener),
    close: () => {
      on = false;
      film.terminate();
      shooting?.worker.terminate();
      stream.getTracks().forEach((t) => t.stop());
    },
  };
}
