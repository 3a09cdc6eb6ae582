import type { Raster } from '@libretto/core';
import { photograph } from '../scene/photograph';
import { defocus } from './defocus';
import type { ReelScene } from './reel';

/** Renders a reel's scene at a size, RGB. Pictures of its sheets are given by id; a sheet whose picture is not there yet is white. */
export function project(scene: ReelScene, pictures: ReadonlyMap<string, Raster>, width: number, height: number): Raster {
  const sheets = scene.sheets.map((sheet) => ({ ...sheet, picture: pictures.get(sheet.id) ?? white }));
  const { photo } = photograph({ ...scene, sheets }, width, height);
  defocus(photo, scene.blur * Math.max(width, height));
  return photo;
}

const white: Raster = { width: 8, height: 8, channels: 3, data: new Uint8Array(192).fill(250) };
