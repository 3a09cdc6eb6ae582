import * as Comlink from 'comlink';
import type { Raster } from '@libretto/core';
import { project } from '@libretto/demo/reel/projector';
import type { ReelScene } from '@libretto/demo/reel/reel';

const pictures = new Map<string, Raster>();
const fetching = new Map<string, Promise<void>>();

/** A sheet's flat picture from the demo, without alpha. */
async function fetchPicture(origin: string, id: string): Promise<void> {
  const answer = await fetch(`${origin}/demo/sheets/${id}.png`);
  if (!answer.ok) throw new Error(`The demo’s sheet ${id} is not on this server`);
  const bitmap = await createImageBitmap(await answer.blob());
  const { width, height } = bitmap;
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const rgba = context.getImageData(0, 0, width, height).data;
  const data = new Uint8ClampedArray(width * height * 3);
  for (let i = 0, p = 0, q = 0; i < width * height; i++, p += 4, q += 3) {
    data[q] = rgba[p]!;
    data[q + 1] = rgba[p + 1]!;
    data[q + 2] = rgba[p + 2]!;
  }
  pictures.set(id, { width, height, channels: 3, data });
}

async function render(origin: string, scene: ReelScene, width: number, height: number): Promise<OffscreenCanvas> {
  await Promise.all(
    scene.sheets.map(({ id }) => {
      if (pictures.has(id)) return;
      const under = fetching.get(id) ?? fetchPicture(origin, id).finally(() => fetching.delete(id));
      fetching.set(id, under);
      return under;
    }),
  );
  const { data } = project(scene, pictures, width, height);
  const rgba = new Uint8ClampedArray(width * height * 4);
  for (let i = 0, p = 0, q = 0; i < width * height; i++, p += 4, q += 3) {
    rgba[p] = data[q]!;
    rgba[p + 1] = data[q + 1]!;
    rgba[p + 2] = data[q + 2]!;
    rgba[p + 3] = 255;
  }
  const canvas = new OffscreenCanvas(width, height);
  canvas.getContext('2d')!.putImageData(new ImageData(rgba, width, height), 0, 0);
  return canvas;
}

const api = {
  /** A frame of the stand-in's film. */
  async frame(origin: string, scene: ReelScene, width: number, height: number): Promise<ImageBitmap> {
    const bitmap = (await render(origin, scene, width, height)).transferToImageBitmap();
    return Comlink.transfer(bitmap, [bitmap]);
  },
  /** A photograph of the same scene. */
  async still(origin: string, scene: ReelScene, width: number, height: number): Promise<Blob> {
    return (await render(origin, scene, width, height)).convertToBlob({ type: 'image/jpeg', quality: 0.9 });
  },
};

export type SceneApi = typeof api;
Comlink.expose(api);
