import { mkdir, open, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { proofSchema, type Proof } from '@libretto/model';

const entrySchema = z.object({ placeId: z.string(), sha256: z.string(), proof: proofSchema });
export type Entry = z.infer<typeof entrySchema>;

/** A claim that its holder has not renewed for this long is taken for abandoned. */
const staleMs = 180_000;

/**
 * Which deliveries have arrived, one small file each, so that a delivery sent again under its id is not delivered again: not after a
 * restart, and not by another server that shares the folder.
 */
export class Ledger {
  constructor(private readonly folder: string) {}

  async find(id: string): Promise<Entry | null> {
    try {
      return entrySchema.parse(JSON.parse(await readFile(this.file(id, 'json'), 'utf8')));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
      throw error;
    }
  }

  /** Takes the delivery for this server; false while another has it. */
  async claim(id: string): Promise<boolean> {
    await mkdir(this.folder, { recursive: true });
    const file = this.file(id, 'claim');
    for (let attempt = 0; attempt < 2; attempt++) {
      try {
        await (await open(file, 'wx')).close();
        return true;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
        const age = Date.now() - (await stat(file).catch(() => ({ mtimeMs: 0 }))).mtimeMs;
        if (age < staleMs) return false;
        await rm(file, { force: true });
      }
    }
    return false;
  }

  async release(id: string): Promise<void> {
    await rm(this.file(id, 'claim'), { force: true });
  }

  async arrived(id: string, placeId: string, proof: Proof): Promise<void> {
    const part = this.file(id, 'part');
    await writeFile(part, JSON.stringify({ placeId, sha256: proof.sha256, proof } satisfies Entry), { flush: true });
    await rename(part, this.file(id, 'json'));
  }

  /** Claims left by a server that was stopped in the middle would block for minutes: the one that owns the folder alone clears them at start. */
  async clearClaims(): Promise<void> {
    for (const name of await readdir(this.folder).catch(() => []))
      if (name.endsWith('.claim')) await rm(path.join(this.folder, name), { force: true });
  }

  private file(id: string, extension: string): string {
    return path.join(this.folder, `${id}.${extension}`);
  }
}
