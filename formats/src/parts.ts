/** A piece of a file: bytes at hand, or what lies elsewhere and is never read into memory whole. */
export type Part = Uint8Array | Blob;

export const bytesIn = (part: Part): number => (part instanceof Blob ? part.size : part.length);
export const sizeOf = (parts: readonly Part[]): number => parts.reduce((sum, part) => sum + bytesIn(part), 0);

export const bytesOf = async (part: Part): Promise<Uint8Array> =>
  part instanceof Blob ? new Uint8Array(await part.arrayBuffer()) : part;

/** All of a file in memory. */
export async function joined(parts: readonly Part[]): Promise<Uint8Array<ArrayBuffer>> {
  const out = new Uint8Array(sizeOf(parts));
  let at = 0;
  for (const part of parts) {
    out.set(await bytesOf(part), at);
    at += bytesIn(part);
  }
  return out;
}
