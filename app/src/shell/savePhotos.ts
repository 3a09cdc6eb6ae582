import { Zip, ZipPassThrough } from 'fflate';
import { allPhotos, getPhoto } from '../store/files';
import { saveBlob } from '../work/saveBlob';

/**
 * Hands all stored photographs out as one ZIP file, whatever else is broken.
 *
 * @returns how many there were.
 */
export async function savePhotos(progress: (count: number) => void): Promise<number> {
  const parts: Blob[] = [];
  const names = new Set<string>();
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    // Blobs, so that the browser may keep them on the disk.
    parts.push(new Blob([chunk as BlobPart]));
  });
  let count = 0;
  for await (const photo of allPhotos()) {
    const blob = await getPhoto(photo.id).catch(() => undefined);
    if (!blob) continue;
    const wanted = `${photo.addedAt.slice(0, 10)} ${photo.name.replace(/[/\\]/g, '-')}`;
    const name = names.has(wanted) ? `${photo.id.slice(0, 6)} ${wanted}` : wanted;
    names.add(name);
    // JPEGs do not get smaller.
    const entry = new ZipPassThrough(name);
    zip.add(entry);
    entry.push(new Uint8Array(await blob.arrayBuffer()), true);
    progress(++count);
  }
  zip.end();
  if (count) saveBlob(new Blob(parts, { type: 'application/zip' }), 'libretto-photographs.zip');
  return count;
}
