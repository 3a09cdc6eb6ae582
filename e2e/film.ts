import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';

/** The sheets that the fake camera shows in turn, over and over. */
export const filmed = ['hull-survey-1', 'hull-survey-2', 'paint-chart'] as const;

const width = 960;
const height = 1280;
/** Frames (30 a second) in which a sheet is pushed in, and in which it lies still. */
const pushing = 14;
const lying = 110;

/** Makes the film for Chromium's fake camera from the demo's photographs: motion JPEG, each sheet pushed in, then lying still. */
export default async function film(): Promise<void> {
  const frames: Buffer[] = [];
  for (const name of filmed) {
    const photo = await sharp(path.join(import.meta.dirname, '../demo/photos', `${name}.jpg`))
      .resize(width, height)
      .toBuffer();
    for (let i = 0; i < pushing; i++) {
      const left = Math.round(((pushing - i) / pushing) * 700);
      const moved = await sharp(photo)
        .extract({ left: 0, top: 0, width: width - left, height })
        .toBuffer();
      frames.push(
        await sharp({ create: { width, height, channels: 3, background: '#4a3424' } })
          .composite([{ input: moved, left, top: 0 }])
          .blur(1 + (pushing - i) / 5)
          .jpeg({ quality: 80 })
          .toBuffer(),
      );
    }
    const still = await sharp(photo).jpeg({ quality: 88 }).toBuffer();
    for (let i = 0; i < lying; i++) frames.push(still);
  }
  await writeFile(process.env.E2E_FILM!, Buffer.concat(frames));
}
