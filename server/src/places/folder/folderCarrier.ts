import { createReadStream } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
import { Transform, type Readable } from 'node:stream';
import { fetch } from '@buttercup/fetch';
import { AuthType, createClient, getPatcher, type FileStat, type WebDAVClient } from 'webdav';
import { numberedName, type Proof, type TryAnswer } from '@libretto/model';
import { statusFault, waitOf } from '../httpFault';
import { CarryError, networkFault, type Attempt, type Cargo, type Carrier } from '../carrier';
import { addressWithin, lookupWithin, type Reach } from '../reach';
import { hashOf, watch } from '../watch';
import type { FolderConfig } from './folderConfig';

const mostNames = 50;
/** Without a byte for this long an upload or a reading back is over, ms. */
const idleMs = 60_000;

// A redirect would take the password along to wherever it leads.
getPatcher().patch('fetch', (...[url, options]: unknown[]) =>
  fetch(url as string, { ...(options as object), redirect: 'error' }),
);

/**
 * A cloud folder over WebDAV (RFC 4918). The file goes up under a temporary name, is read back there and compared by SHA-256, and is then moved to its own (never over
 * another file). A file of the same name and content counts as delivered, so that going on after any cut leaves one; another content gets "(2)".
 */
export function folderCarrier(place: FolderConfig, reach: Reach = { privately: true }): Carrier {
  const agent = { lookup: lookupWithin(reach) };
  const client = createClient(place.url, {
    ...(place.username ? { authType: AuthType.Password, username: place.username, password: place.password ?? '' } : {}),
    httpAgent: new http.Agent(agent),
    httpsAgent: new https.Agent(agent),
  });
  const allowed = () => addressWithin(new URL(place.url).hostname, reach);

  return {
    async carry(cargo, attempt) {
      const folder = pathOf(cargo.folder ?? place.folder);
      const within = (name: string) => (folder === '/' ? `/${name}` : `${folder}/${name}`);
      const { signal } = attempt;
      try {
        await allowed();
        if (folder !== '/') await makeFolder(client, folder, signal);
        const part = within(`.${cargo.id}.${attempt.token}.part`);
        let uploaded = false;
        for (let n = 1; n <= mostNames; n++) {
          const name = numberedName(cargo.fileName, n);
          const there = await look(client, within(name), signal);
          if (there) {
            if (there.size === cargo.bytes && (await hashThere(client, within(name), signal)) === cargo.sha256) {
              if (uploaded) await client.deleteFile(part).catch(() => {});
              return proof(name, there.etag);
            }
            continue;
          }
          if (!uploaded) await upload(client, cargo, part, attempt, place.name);
          uploaded = true;
          if (!(await move(client, part, within(name), signal))) continue;
          // As it was read back before it had its name.
          const lies = await look(client, within(name), signal);
          if (lies && lies.size !== cargo.bytes) throw differs(place.name);
          return proof(name, lies?.etag ?? null);
        }
        if (uploaded) await client.deleteFile(part).catch(() => {});
        throw new CarryError(
          'name-taken',
          `${place.name} holds ${mostNames} files of that name already. Give the document another name.`,
          false,
        );
      } catch (error) {
        throw explain(error, place.name);
      }

      function proof(name: string, etag: string | null): Proof {
        const where = [place.name, ...folder.split('/').filter(Boolean), name].join(' / ');
        return {
          where,
          at: new Date().toISOString(),
          bytes: cargo.bytes,
          sha256: cargo.sha256,
          readSha256: cargo.sha256,
          how: 'read-back',
          receipt: etag ?? '',
        };
      }
    },

    async attempt(signal) {
      const done: string[] = [];
      const folder = pathOf(place.folder);
      const file = `${folder === '/' ? '' : folder}/.libretto-try-${process.pid}-${Date.now()}.txt`;
      const text = `Libretto tried this place at ${new Date().toISOString()}\n`;
      try {
        await allowed();
        await look(client, '/', signal);
        done.push('reached');
        if (folder !== '/') await makeFolder(client, folder, signal);
        await client.putFileContents(file, text, { signal });
        done.push('written');
        if ((await client.getFileContents(file, { format: 'text', signal })) !== text) throw differs(place.name);
        done.push('readBack');
        await client.deleteFile(file, { signal });
        done.push('cleared');
        return { done, failed: null } satisfies TryAnswer;
      } catch (error) {
        await client.deleteFile(file).catch(() => {});
        return { done, failed: { reason: wordsOf(explain(error, place.name)) } };
      }
    },

    async browse(folder, signal) {
      try {
        await allowed();
        const entries = (await client.getDirectoryContents(pathOf(folder), { signal })) as FileStat[];
        return entries.filter((e) => e.type === 'directory' && !e.basename.startsWith('.')).map((e) => e.basename).sort((a, b) => a.localeCompare(b)); // prettier-ignore
      } catch (error) {
        // Made when something is sent there.
        if (statusOf(error) === 404) return [];
        throw explain(error, place.name);
      }
    },

    async makeFolder(folder, signal) {
      try {
        await allowed();
        await makeFolder(client, pathOf(folder), signal);
      } catch (error) {
        throw explain(error, place.name);
      }
    },
  };
}

const pathOf = (folder: string) =>
  `/${folder
    .split('/')
    .filter((part) => part && part !== '.' && part !== '..')
    .join('/')}`;
const wordsOf = (error: Error) =>
  error instanceof CarryError ? error.message : 'The server has a fault of its own; see its log';
const differs = (who: string) => new CarryError('differs', `What lies in ${who} is not what was sent. It was read back and compared.`, true); // prettier-ignore

/** Uploads under the temporary name and reads it back. */
async function upload(client: WebDAVClient, cargo: Cargo, part: string, { signal }: Attempt, who: string): Promise<void> {
  const idle = watch(signal, idleMs);
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      idle.alive();
      done(null, chunk);
    },
  });
  try {
    await client.putFileContents(part, createReadStream(cargo.path).pipe(counted), {
      contentLength: cargo.bytes,
      overwrite: true,
      signal: idle.signal,
    });
    if ((await hashThere(client, part, signal)) !== cargo.sha256) throw differs(who);
  } catch (error) {
    await client.deleteFile(part).catch(() => {});
    throw error;
  } finally {
    idle.end();
  }
}

/** Moves into place; false when another file has taken the name meanwhile. */
async function move(client: WebDAVClient, part: string, target: string, signal: AbortSignal): Promise<boolean> {
  try {
    await client.moveFile(part, target, { overwrite: false, signal });
    return true;
  } catch (error) {
    if (statusOf(error) === 412) return false;
    await client.deleteFile(part).catch(() => {});
    throw error;
  }
}

async function makeFolder(client: WebDAVClient, folder: string, signal: AbortSignal): Promise<void> {
  let path = '';
  for (const part of folder.split('/').filter(Boolean)) {
    path += `/${part}`;
    try {
      await client.createDirectory(path, { signal });
    } catch (error) {
      // 405: it exists already (RFC 4918, 9.3.1).
      if (statusOf(error) !== 405) throw error;
    }
  }
}

async function look(client: WebDAVClient, path: string, signal: AbortSignal): Promise<FileStat | null> {
  try {
    return (await client.stat(path, { signal })) as FileStat;
  } catch (error) {
    if (statusOf(error) === 404) return null;
    throw error;
  }
}

const hashThere = (client: WebDAVClient, path: string, outer: AbortSignal) =>
  hashOf(async (signal) => client.createReadStream(path, { signal }) as unknown as Readable, outer, idleMs);

interface Failure {
  status?: number;
  type?: string;
  response?: { headers?: { get(name: string): string | null } };
}
const statusOf = (error: unknown) => (error as Failure).status;

function explain(error: unknown, who: string): Error {
  if (error instanceof CarryError) return error;
  if ((error as Failure).type === 'no-redirect')
    return new CarryError('moved', `${who} sends us to another address. Give the place the address that it has now.`, false);
  const fault = networkFault(error, who);
  if (fault) return fault;
  const status = statusOf(error);
  return status === undefined
    ? (error as Error)
    : statusFault(status, who, waitOf((error as Failure).response?.headers?.get('retry-after')));
}
