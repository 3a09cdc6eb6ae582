import { chmod, open, rename } from 'node:fs/promises';

/** Writes a file that only its owner can read, whole or not at all. */
export async function writePrivately(file: string, text: string): Promise<void> {
  const part = `${file}.${process.pid}.part`;
  const handle = await open(part, 'w', 0o600);
  try {
    await handle.writeFile(text);
    await handle.sync();
  } finally {
    await handle.close();
  }
  await chmod(part, 0o600);
  await rename(part, file);
}
