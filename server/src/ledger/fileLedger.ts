import { randomUUID } from 'node:crypto';
import { mkdir, open, readdir, readFile, rename, rm, stat, utimes, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { isOpen, readEntry, type Entry } from './entry';
import { Ledger, Overtaken, type Claim, type Contents } from './ledger';

/** A claim that its holder has not renewed for this long is taken for abandoned. */
const staleMs = 180_000;
const renewMs = 30_000;

/** One small file each in the folder of one server; claims are files that can be made once only. */
export class FileLedger extends Ledger {
  readonly others = null;
  constructor(private readonly folder: string) {
    super();
  }

  /** Claims left by a server that was stopped in the middle would block for minutes: this one has the folder alone. */
  async begin(): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    for (const name of await readdir(this.folder))
      if (name.endsWith('.claim')) await rm(path.join(this.folder, name), { force: true });
  }

  protected async read(id: string): Promise<Entry | null> {
    try {
      return readEntry(id, JSON.parse(await readFile(this.file(id, 'json'), 'utf8')));
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
      throw error;
    }
  }

  protected async write(entry: Entry, claim: Claim | null): Promise<void> {
    if (claim && !(await this.isHeld(claim))) throw new Overtaken();
    await mkdir(this.folder, { recursive: true });
    const part = this.file(entry.id, 'part');
    await writeFile(part, JSON.stringify(entry), { flush: true });
    await rename(part, this.file(entry.id, 'json'));
    await syncFolder(this.folder);
  }

  async claim(id: string, what: Claim['what']): Promise<Claim | null> {
    await mkdir(this.folder, { recursive: true });
    const file = this.file(id, `${what}.claim`);
    for (let attempt = 0; attempt < 2; attempt++) {
      try {
        const token = randomUUID();
        await writeFile(file, token, { flag: 'wx' });
        const renewing = setInterval(() => void this.renew(claim), renewMs);
        renewing.unref();
        const claim: Claim = {
          id,
          what,
          token,
          release: async () => {
            clearInterval(renewing);
            if (await this.isHeld(claim)) await rm(file, { force: true });
          },
        };
        return claim;
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
        const age = Date.now() - (await stat(file).catch(() => ({ mtimeMs: 0 }))).mtimeMs;
        if (age < staleMs) return null;
        await rm(file, { force: true });
      }
    }
    return null;
  }

  private async renew(claim: Claim): Promise<void> {
    const now = new Date();
    if (await this.isHeld(claim)) await utimes(this.file(claim.id, `${claim.what}.claim`), now, now).catch(() => {});
  }
  private isHeld({ id, what, token }: Claim): Promise<boolean> {
    return readFile(this.file(id, `${what}.claim`), 'utf8').then(
      (held) => held === token,
      () => false,
    );
  }

  async open(): Promise<Entry[]> {
    return (await this.all()).filter(isOpen);
  }
  left(): Promise<Entry[]> {
    return this.open();
  }

  async prune(before: Date): Promise<void> {
    for (const entry of await this.all())
      if (!isOpen(entry) && Date.parse(entry.changedAt) < +before) await rm(this.file(entry.id, 'json'), { force: true });
  }

  /** The disk is looked at by whoever asks whether the server is ready. */
  fault = async () => null;
  close = async () => {};

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

  private file(id: string, extension: string): string {
    return path.join(this.folder, `${id}.${extension}`);
  }
}

/** Files that stay where they came in. */
export class FolderContents implements Contents {
  constructor(protected readonly folder: string) {}

  keep(_name: string): Promise<void> {
    return Promise.resolve();
  }
  async fetch(name: string, bytes: number): Promise<string | null> {
    const file = path.join(this.folder, name);
    const there = await stat(file).catch(() => null);
    return there?.size === bytes ? file : null;
  }
  async drop(name: string): Promise<void> {
    await rm(path.join(this.folder, name), { force: true });
  }
  async prune(wanted: ReadonlySet<string>): Promise<void> {
    await mkdir(this.folder, { recursive: true });
    for (const name of await readdir(this.folder)) if (!wanted.has(name)) await rm(path.join(this.folder, name), { force: true });
  }
}

/** A rename lasts once its folder is on the disk (POSIX). */
export async function syncFolder(folder: string): Promise<void> {
  const handle = await open(folder, 'r').catch(() => null);
  await handle?.sync().catch(() => {});
  await handle?.close();
}
