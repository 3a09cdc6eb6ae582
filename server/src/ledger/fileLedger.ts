import { randomUUID } from 'node:crypto';
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { isOpen, readEntry, type Entry } from './entry';

/** A claim that its holder has not renewed for this long is taken for abandoned. */
const staleMs = 180_000;
const renewMs = 30_000;

/** An attempt's hold on a delivery. */
export interface Claim {
  token: string;
  /** Whether it is still this attempt's: one that slept for too long has lost it to another. */
  holds: () => Promise<boolean>;
  release: () => Promise<void>;
}

/** Every delivery that the server has taken over and what became of it. */
export interface Ledger {
  /** @throws where an entry cannot be read. */
  find(id: string): Promise<Entry | null>;
  /**
   * Notes what has become of one. What cannot be noted, on a full disk, is known as long as this server runs, and noted as soon as that works.
   *
   * @throws what the disk says.
   */
  put(entry: Entry): Promise<void>;
  /** Takes the delivery for receiving its file or for one attempt at carrying it; null while another has it. It is renewed until it is given back, and only who has it gives it back. */
  claim(id: string, what: 'receiving' | 'carrying'): Promise<Claim | null>;
  /** Those that are not over. */
  open(): Promise<Entry[]>;
  /** Forgets what was over before `before`. */
  prune(before: Date): Promise<void>;
}

/** One small file each in one folder, which several servers can share; claims are files that can be made once only. */
export class FileLedger implements Ledger {
  constructor(private readonly folder: string) {}

  private readonly unwritten = new Map<string, Entry>();
  private readonly writing = new Map<string, Promise<void>>();

  async find(id: string): Promise<Entry | null> {
    const unwritten = this.unwritten.get(id);
    if (unwritten) return unwritten;
    try {
      return readEntry(id, JSON.parse(await readFile(this.file(id, 'json'), 'utf8')));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
      throw error;
    }
  }

  async put(entry: Entry): Promise<void> {
    const noted = { ...entry, changedAt: new Date().toISOString() };
    this.unwritten.set(entry.id, noted);
    await this.write(noted);
    for (const [id, waiting] of this.unwritten) if (!this.writing.has(id)) await this.write(waiting).catch(() => {});
  }

  /** One after the other for each delivery, so that the last one stays. */
  private async write(entry: Entry): Promise<void> {
    const { id } = entry;
    const write = async () => {
      await mkdir(this.folder, { recursive: true });
      const part = this.file(id, 'part');
      await writeFile(part, JSON.stringify(entry), { flush: true });
      await rename(part, this.file(id, 'json'));
      await syncFolder(this.folder);
      if (this.unwritten.get(id) === entry) this.unwritten.delete(id);
    };
    const turn = (this.writing.get(id) ?? Promise.resolve()).then(write, write);
    this.writing.set(id, turn);
    try {
      await turn;
    } finally {
      if (this.writing.get(id) === turn) this.writing.delete(id);
    }
  }

  async claim(id: string, what: 'receiving' | 'carrying'): Promise<Claim | null> {
    await mkdir(this.folder, { recursive: true });
    const file = this.file(id, `${what}.claim`);
    const token = randomUUID();
    for (let attempt = 0; attempt < 2; attempt++) {
      try {
        await writeFile(file, token, { flag: 'wx' });
        const renewing = setInterval(() => void this.renew(file, token), renewMs);
        renewing.unref();
        return {
          token,
          holds: () => this.isHeld(file, token),
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

  async open(): Promise<Entry[]> {
    return (await this.all()).filter(isOpen);
  }

  async prune(before: Date): Promise<void> {
    for (const entry of await this.all())
      if (!isOpen(entry) && Date.parse(entry.changedAt) < +before) await rm(this.file(entry.id, 'json'), { force: true });
  }

  /** One that is damaged is left alone: whoever asks for it is told. */
  private async all(): Promise<Entry[]> {
    const names = await readdir(this.folder).catch(() => [] as string[]);
    const entries: Entry[] = [];
    for (const name of names)
      if (name.endsWith('.json')) {
        const entry = await this.find(name.slice(0, -5)).catch(() => null);
        if (entry) entries.push(entry);
      }
    return entries;
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

/** A rename lasts once its folder is on the disk (POSIX). */
export async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r').catch(() => null);
  await handle?.sync().catch(() => {});
  await handle?.close();
}
