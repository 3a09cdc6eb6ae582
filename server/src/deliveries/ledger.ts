import { randomUUID } from 'node:crypto';
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { z } from 'zod';
import { proofSchema, type Proof } from '@libretto/model';

const entrySchema = z.object({ placeId: z.string(), sha256: z.string(), proof: proofSchema });
export type Entry = z.infer<typeof entrySchema>;

/** A claim that its holder has not renewed for this long is taken for abandoned. */
const staleMs = 180_000;
const renewMs = 30_000;

/** An attempt's hold on a delivery. */
export interface Claim {
  token: string;
  release: () => Promise<void>;
}

/**
 * Which deliveries have arrived, one small file each, so that a delivery sent again under its id is not delivered again: not after a
 * restart, and not by another server that shares the folder.
 */
export class Ledger {
  constructor(private readonly folder: string) {}

  /** What has arrived here and could not be noted yet. */
  private readonly unwritten = new Map<string, Entry>();

  async find(id: string): Promise<Entry | null> {
    const unwritten = this.unwritten.get(id);
    if (unwritten) return unwritten;
    try {
      return entrySchema.parse(JSON.parse(await readFile(this.file(id, 'json'), 'utf8')));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
      throw error;
    }
  }

  /** Takes the delivery for one attempt; null while another has it. It is renewed until it is given back, and only who has it gives it back. */
  async claim(id: string): Promise<Claim | null> {
    await mkdir(this.folder, { recursive: true });
    const file = this.file(id, 'claim');
    const token = randomUUID();
    for (let attempt = 0; attempt < 2; attempt++) {
      try {
        await writeFile(file, token, { flag: 'wx' });
        const renewing = setInterval(() => void this.renew(file, token), renewMs);
        renewing.unref();
        return {
          token,
          release: async () => {
            clearInterval(renewing);
            if (await this.isHeld(file, token)) await rm(file, { force: true });
          },
        };
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
        const age = Date.now() - (await stat(file).catch(() => ({ mtimeMs: 0 }))).mtimeMs;
        if (age < staleMs) return null;
        await rm(file, { force: true });
      }
    }
    return null;
  }

  private async renew(file: string, token: string): Promise<void> {
    const now = new Date();
    if (await this.isHeld(file, token)) await utimes(file, now, now).catch(() => {});
  }
  private isHeld(file: string, token: string): Promise<boolean> {
    return readFile(file, 'utf8').then(
      (held) => held === token,
      () => false,
    );
  }

  /**
   * Notes an arrival. What cannot be noted, on a full disk, is known as long as this server runs, so that nothing is delivered twice by it; it is noted as soon as that works.
   *
   * @throws what the disk says.
   */
  async arrived(id: string, placeId: string, proof: Proof): Promise<void> {
    const entry: Entry = { placeId, sha256: proof.sha256, proof };
    this.unwritten.set(id, entry);
    await this.write(id, entry);
    for (const [other, waiting] of this.unwritten) await this.write(other, waiting).catch(() => {});
  }

  private async write(id: string, entry: Entry): Promise<void> {
    const part = this.file(id, 'part');
    await writeFile(part, JSON.stringify(entry), { flush: true });
    await rename(part, this.file(id, 'json'));
    // A rename lasts once its folder is on the disk (POSIX).
    const folder = await open(this.folder, 'r').catch(() => null);
    await folder?.sync().catch(() => {});
    await folder?.close();
    this.unwritten.delete(id);
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
