import { Zip, ZipPassThrough } from 'fflate';
import { bytesIn, bytesOf, type Part } from './parts';

export interface ZipEntry {
  name: string;
  content: Part;
}

/** Read and handed on in pieces of this size, bytes. */
const pieceBytes = 1 << 22;

/**
 * Files as one ZIP (PKWARE's APPNOTE 6.3), as they are: pictures are packed already. Each is read in pieces, and what is made becomes Blobs, which a browser may keep on the disk, so that memory does not
 * grow with the files.
 *
 * @throws what reading an entry throws.
 */
export async function zipOf(entries: Iterable<ZipEntry> | AsyncIterable<ZipEntry>): Promise<Blob[]> {
  const parts: Blob[] = [];
  let held: Uint8Array[] = [];
  let failed: Error | null = null;
  const zip = new Zip((error, chunk) => {
    failed ??= error;
    held.push(chunk);
  });
  const keep = () => {
    if (failed) throw failed;
    parts.push(new Blob(held as Uint8Array<ArrayBuffer>[]));
    held = [];
  };
  for await (const { name, content } of entries) {
    const entry = new ZipPassThrough(name);
    // Made on Unix, so that Info-ZIP takes the name as the UTF-8 that it is; read and written by its owner, read by others.
    entry.os = 3;
    entry.attrs = (0o100644 << 16) >>> 0;
    zip.add(entry);
    const size = bytesIn(content);
    for (let at = 0; at < size; at += pieceBytes) {
      const piece = content instanceof Blob ? content.slice(at, at + pieceBytes) : content.subarray(at, at + pieceBytes);
      entry.push(await bytesOf(piece));
      keep();
    }
    entry.push(new Uint8Array(), true);
  }
  zip.end();
  keep();
  return parts;
}
