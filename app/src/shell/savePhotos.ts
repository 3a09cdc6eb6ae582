import { zipOf, type ZipEntry } from '@libretto/formats/zip';
import { allPhotos, getPhoto } from '../store/files';
import { saveBlob } from '../work/saveBlob';

/**
 * Hands all stored photographs out as one ZIP file, whatever else is broken.
 *
 * @returns how many there were.
 */
export async function savePhotos(progress: (count: number) => void): Promise<number> {
  const names = new Set<string>();
  let count = 0;
  async function* photos(): AsyncGenerator<ZipEntry> {
    for await (const photo of allPhotos()) {
      const content = await getPhoto(photo.id).catch(() => undefined);
      if (!content) continue;
      const wanted = `${photo.addedAt.slice(0, 10)} ${photo.name.replace(/[/\\]/g, '-')}`;
      const name = names.has(wanted) ? `${photo.id.slice(0, 6)} ${wanted}` : wanted;
      names.add(name);
      yield { name, content };
      progress(++count);
    }
  }
  const parts = await zipOf(photos());
  if (count) saveBlob(new Blob(parts, { type: 'application/zip' }), 'libretto-photographs.zip');
  return count;
}
