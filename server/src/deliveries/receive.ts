import { createWriteStream } from 'node:fs';
import { open, readFile, statfs } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { syncFolder } from '../ledger/fileLedger';
import { watch } from '../places/watch';
import { Sha256 } from '../sha256';

export class UploadError extends Error {
  constructor(
    readonly status: 400 | 408 | 409 | 413 | 415 | 507,
    readonly code: string,
    message: string,
    readonly again: boolean,
  ) {
    super(message);
  }
}

/** An upload of which nothing arrives for this long is over, ms. */
export const idleMs = 60_000;
/** What stays free on the disk whatever comes, bytes. */
export const spareBytes = 100_000_000;

export interface Announced {
  fileName: string;
  bytes: number;
  sha256: string;
}

/** Streams an upload to a file, never holding it in memory, and checks its size, its SHA-256 and its kind against what was announced. When it resolves the file outlives a power cut. */
export async function receive(body: Readable, file: string, expected: Announced): Promise<void> {
  const folder = path.dirname(file);
  const disk = await statfs(folder).catch(() => null);
  if (disk && disk.bavail * disk.bsize < expected.bytes + spareBytes)
    throw new UploadError(507, 'disk-full', 'The server has no room left for it. Whoever runs it can make some; it is tried again by itself.', true); // prettier-ignore
  const hash = new Sha256();
  let size = 0;
  const idle = watch(new AbortController().signal, idleMs);
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      idle.alive();
      size += chunk.length;
      if (size > expected.bytes)
        return done(new UploadError(413, 'too-long', `More arrived than the ${expected.bytes} bytes that were announced`, false));
      hash.update(chunk).then(() => done(null, chunk), done);
    },
  });
  try {
    await pipeline(body, measure, createWriteStream(file, { flush: true }), { signal: idle.signal });
  } catch (error) {
    hash.drop();
    if (idle.signal.aborted) throw new UploadError(408, 'stalled', 'Nothing more of the upload arrived', true);
    const { code } = error as NodeJS.ErrnoException;
    // Whoever sent it has gone; nobody hears this.
    if (code === 'ERR_STREAM_PREMATURE_CLOSE' || code === 'ECONNRESET')
      throw new UploadError(400, 'cut-short', `The upload was cut short: ${size} of ${expected.bytes} bytes arrived`, true);
    if (code === 'ENOSPC') throw new UploadError(507, 'disk-full', 'The server has no room left for it', true);
    throw error;
  } finally {
    idle.end();
  }
  const sha256 = await hash.digest();
  if (size !== expected.bytes)
    throw new UploadError(400, 'cut-short', `The upload was cut short: ${size} of ${expected.bytes} bytes arrived`, true);
  if (sha256 !== expected.sha256)
    throw new UploadError(400, 'damaged', 'The upload was damaged on its way: its SHA-256 is another', true);
  if (!(await isOfItsKind(file, expected.fileName)))
    throw new UploadError(415, 'other-kind', `What was sent as ${expected.fileName} is a file of another kind`, false);
  await syncFolder(folder);
}

/** The first bytes of each kind of file that may be sent (ISO 32000-2 7.5.2; TIFF 6.0; JPEG, ISO 10918-1 B.1.1.3; PNG, ISO 15948 5.2; ZIP, APPNOTE 4.3.6). */
const beginnings: Record<string, readonly string[]> = {
  pdf: ['255044462d'],
  tif: ['49492a00', '4d4d002a'],
  jpg: ['ffd8ff'],
  png: ['89504e470d0a1a0a'],
  zip: ['504b0304'],
  docx: ['504b0304'],
  xlsx: ['504b0304'],
  epub: ['504b0304'],
  // A web page of ours begins so (vCard: RFC 6350, 6.1.1); what could run something in it is looked for in all of it.
  html: [Buffer.from('<!DOCTYPE html>').toString('hex')],
  vcf: [Buffer.from('BEGIN:VCARD').toString('hex')],
};
/** A web page of words is never larger, bytes: it is looked through whole. */
const mostHtml = 20_000_000;
/** What could run in a web page, within its tags; its text may say what it likes. */
const runs =
  /<(?:script|iframe|object|embed|base|form|svg|meta[^>]+http-equiv)|<[a-z][^>]*(?:\s|["'/])on\w+\s*=|<[a-z][^>]*javascript:/i;
/** Text without a sign of its own. */
const plainText = new Set(['txt', 'md', 'csv']);

async function isOfItsKind(file: string, fileName: string): Promise<boolean> {
  const ending = fileName.slice(fileName.lastIndexOf('.') + 1);
  const handle = await open(file, 'r');
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(4096), 0, 4096, 0);
    const head = buffer.subarray(0, bytesRead);
    // Text has no sign of its own, but no NUL either.
    if (plainText.has(ending)) return !head.includes(0);
    if (ending === 'html' && ((await handle.stat()).size > mostHtml || runs.test(await readFile(file, 'utf8')))) return false;
    return (beginnings[ending] ?? []).some((hex) => head.subarray(0, hex.length / 2).toString('hex') === hex);
  } finally {
    await handle.close();
  }
}
