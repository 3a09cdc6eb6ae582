import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** Another server works in the folder. */
export class FolderInUse extends Error {}

/**
 * Takes a data folder for this process alone, before anything in it is touched: a second server would clear the first one's uploads and claims. A lock that a process left which
 * was ended is taken over.
 *
 * @returns gives it back; @throws FolderInUse.
 */
export function holdDataFolder(folder: string): () => void {
  mkdirSync(folder, { recursive: true });
  const file = path.join(folder, 'server.lock');
  const own = { pid: process.pid, since: startOf(process.pid) };
  for (;;)
    try {
      writeFileSync(file, JSON.stringify(own), { flag: 'wx' });
      return () => rmSync(file, { force: true });
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
      const holder = read(file);
      if (holder && holder.pid !== process.pid && isRunning(holder))
        throw new FolderInUse(`${folder} is in use by another Libretto (process ${holder.pid})`);
      rmSync(file, { force: true });
    }
}

interface Holder {
  pid: number;
  since: string | null;
}

function read(file: string): Holder | null {
  try {
    return JSON.parse(readFileSync(file, 'utf8')) as Holder;
  } catch {
    return null;
  }
}

/** A process with that number, and the same one: numbers are used again. */
function isRunning({ pid, since }: Holder): boolean {
  try {
    process.kill(pid, 0);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EPERM') return false;
  }
  return since === null || startOf(pid) === since;
}

/** When a process began, by the system's own clock (proc(5), field 22); null where that is not told. */
function startOf(pid: number): string | null {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8');
    return stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19] ?? null;
  } catch {
    return null;
  }
}
