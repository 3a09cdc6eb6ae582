import { readdirSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import type { ReelPlan } from './acts';
import { project } from './projector';
import { Reel } from './reel';

const width = 480;
const height = 640;
/** Chromium plays motion JPEG at 30 frames a second; every rendered frame stands for four of them. */
const each = 4;
const frameMs = (1000 / 30) * each;
const flat = path.join(import.meta.dirname, '../../flat');

/** Writes a reel as motion JPEG, which Chromium's fake camera plays. */
export async function makeFilm(plan: ReelPlan, file: string): Promise<void> {
  const pictures = new Map<string, Raster>();
  for (const file of readdirSync(flat)) {
    const { data, info } = await sharp(path.join(flat, file)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    pictures.set(path.parse(file).name, { width: info.width, height: info.height, channels: 3, data });
  }
  const reel = new Reel(plan);
  const frames: Buffer[] = [];
  for (let now = 0; reel.moment(now).state !== 'over'; now += frameMs) {
    const { data } = project(reel.scene(now), pictures, width, height);
    const jpeg = await sharp(data, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 85 })
      .toBuffer();
    for (let i = 0; i < each; i++) frames.push(jpeg);
  }
  await writeFile(file, Buffer.concat(frames));
}
