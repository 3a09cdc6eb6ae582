import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { usualCamera, usualLight } from '@libretto/demo/photographs';
import type { LaidSheet, Scene } from '@libretto/demo/scene/scene';
import type { sheets } from '@libretto/demo/sheets/sheets';
import { decode } from '../photos';

export type Sheet = (typeof sheets)[number];

/** Size of the photographs, px: 4.3 MP, a third of a phone's. */
export const [width, height] = [1800, 2400];

const flat = fileURLToPath(new URL('../../../demo/flat', import.meta.url));

/** One of the demo's sheets on an oak desk, as large as hands take it, in usual light. */
export async function sheetScene(sheet: Sheet, { angle, seed }: { angle: number; seed: number }): Promise<Scene> {
  const { id, widthMm, heightMm } = sheet;
  const laid: LaidSheet = { id, picture: await decode(path.join(flat, `${id}.png`)), widthMm, heightMm, xMm: 0, yMm: 0, angle, bend: { kind: 'flat' } }; // prettier-ignore
  const reach = Math.max(heightMm / 0.8, widthMm / 0.57);
  return {
    desk: 'oak',
    sheets: [laid],
    camera: { ...usualCamera, distance: reach * usualCamera.focal },
    light: usualLight,
    noise: 3,
    seed,
  };
}

/** A change of the scene's light, with the noise that comes with it. */
export const dimmed =
  (factor: number, noise: number) =>
  (scene: Scene): Scene => ({
    ...scene,
    noise,
    light: {
      ...scene.light,
      ambient: scene.light.ambient * factor,
      lamp: { ...scene.light.lamp, power: scene.light.lamp.power * factor },
    },
  });
