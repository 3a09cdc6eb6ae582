import { mkdir, readdir } from 'node:fs/promises';
import path from 'node:path';
import sharp from 'sharp';
import { filmedPile } from '@libretto/demo/reel/acts';
import { makeFilm } from '@libretto/demo/reel/film';

/** The sheets that the fake camera shows in turn: six, before a hand-held phone. */
export const filmed = filmedPile.acts.map((a) => a.sheet);

/** Photographs of six megapixels, for tests that are about something else than the imaging: a slow machine takes half as long over them. */
async function makeSmallPhotos(): Promise<void> {
  const from = path.join(import.meta.dirname, '../demo/photos');
  const to = path.join(process.env.E2E_DATA!, 'photos');
  await mkdir(to, { recursive: true });
  for (const name of (await readdir(from)).filter((n) => n.endsWith('.jpg'))) {
    const photo = sharp(path.join(from, name));
    const { width } = await photo.metadata();
    await photo
      .resize(Math.round(width * 0.72))
      .jpeg({ quality: 88 })
      .toFile(path.join(to, name));
  }
}

export default async (): Promise<void> => {
  await makeSmallPhotos();
  await makeFilm(filmedPile, process.env.E2E_FILM!);
};
