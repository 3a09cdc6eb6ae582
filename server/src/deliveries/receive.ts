import { createHash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import type { Readable } from 'node:stream';
import { Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';

export class UploadError extends Error {
  constructor(
    readonly status: 400 | 413,
    readonly code: string,
    message: string,
  ) {
    super(message);
  }
}

/** Streams an upload to a file, never holding it in memory, and checks its size and SHA-256 against what was announced. */
export async function receive(body: Readable, file: string, expected: { bytes: number; sha256: string }): Promise<void> {
  const hash = createHash('sha256');
  let size = 0;
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length;
      if (size > expected.bytes)
        return done(new UploadError(413, 'too-long', `More arrived than the ${expected.bytes} bytes that were announced`));
      hash.update(chunk);
      done(null, chunk);
    },
  });
  await pipeline(body, measure, createWriteStream(file, { flush: true }));
  if (size !== expected.bytes)
    throw new UploadError(400, 'cut-short', `The upload was cut short: ${size} of ${expected.bytes} bytes arrived`);
  if (hash.digest('hex') !== expected.sha256)
    throw new UploadError(400, 'damaged', 'The upload was damaged on its way: its SHA-256 is another');
}
