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

/** How long a sheet lies beyond its act's time, ms: on this machine, and at most. The film cannot wait for the shutter, so it is made to wait long enough. */
const holdMs = 3000;
const longestHoldMs = 12_000;
/** What a frame takes to be rendered on a quiet machine of two cores, ms. */
const quietFrameMs = 75;
/** So much of a lying sheet is rendered; the rest of its time goes to and fro over that. */
const lyingFrames = 12;

/**
 * Writes a reel as motion JPEG, which Chromium's fake camera plays. Each sheet lies the longer, the slower this machine is while the film is made.
 */
export async function makeFilm(plan: ReelPlan, file: string): Promise<void> {
  const pictures = new Map<string, Raster>();
  for (const file of readdirSync(flat)) {
    const { data, info } = await sharp(path.join(flat, file)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    pictures.set(path.parse(file).name, { width: info.width, height: info.height, channels: 3, data });
  }
  const reel = new Reel(plan);
  const frames: Buffer[] = [];
  const add = (jpeg: Buffer) => {
    for (let i = 0; i < each; i++) frames.push(jpeg);
  };
  let lying: Buffer[] = [];
  const began = performance.now();
  let rendered = 0;
  for (let now = 0; reel.moment(now).state !== 'over'; now += frameMs) {
    const { data } = project(reel.scene(now), pictures, width, height);
    const jpeg = await sharp(data, { raw: { width, height, channels: 3 } })
      .jpeg({ quality: 85 })
      .toBuffer();
    add(jpeg);
    rendered++;
    lying = reel.moment(now).state === 'lying' ? [...lying, jpeg] : [];
    if (lying.length !== lyingFrames) continue;
    const slow = (performance.now() - began) / rendered / quietFrameMs;
    const extra = Math.min(longestHoldMs, holdMs * Math.max(1, slow));
    const swing = [...[...lying].reverse(), ...lying];
    for (let i = 0; i < extra / frameMs; i++) add(swing[i % swing.length]!);
  }
  await writeFile(file, Buffer.concat(frames));
}
