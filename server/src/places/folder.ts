import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import type { Readable } from 'node:stream';
import { AuthType, createClient, type FileStat, type WebDAVClient } from 'webdav';
import { numberedName, type Proof } from '@libretto/model';
import type { FolderConfig } from '../config';
import { CarryError, networkFault, type Cargo, type Carrier } from './carrier';

const mostNames = 50;

/**
 * A cloud folder over WebDAV (RFC 4918). The file goes up under a temporary name, is moved to its own (never over another file), and what then
 * lies there is read back and compared by SHA-256. A file of the same name and content counts as delivered; another content gets "(2)".
 */
export function folderCarrier(place: FolderConfig): Carrier {
  const client = createClient(
    place.url,
    place.username ? { authType: AuthType.Password, username: place.username, password: place.password ?? '' } : {},
  );
  const folder = `/${place.folder.split('/').filter(Boolean).join('/')}`;
  const within = (name: string) => (folder === '/' ? `/${name}` : `${folder}/${name}`);

  return {
    async carry(cargo, signal) {
      try {
        if (folder !== '/') await makeFolder(client, folder, signal);
        for (let n = 1; n <= mostNames; n++) {
          const name = numberedName(cargo.fileName, n);
          const there = await look(client, within(name), signal);
          if (there) {
            if (there.size === cargo.bytes && (await hashThere(client, within(name), signal)) === cargo.sha256)
              return proof(name, there.etag);
            continue;
          }
          if (!(await put(client, cargo, within(name), within(`.${cargo.id}.part`), signal))) continue;
          const read = await hashThere(client, within(name), signal);
          if (read !== cargo.sha256)
            throw new CarryError(
              'differs',
              `What lies in ${place.name} is not what was sent. It was read back and compared.`,
              true,
            );
          return proof(name, (await look(client, within(name), signal))?.etag ?? null);
        }
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
          how: 'read-back',
          receipt: etag ?? '',
        };
      }
    },
  };
}

/** Uploads and moves into place; false when another file has taken the name meanwhile. */
async function put(client: WebDAVClient, cargo: Cargo, target: string, part: string, signal: AbortSignal): Promise<boolean> {
  await client.putFileContents(part, createReadStream(cargo.path), { contentLength: cargo.bytes, overwrite: true, signal });
  try {
    await client.moveFile(part, target, { overwrite: false, signal });
    return true;
  } catch (error) {
    await client.deleteFile(part).catch(() => {});
    if (statusOf(error) === 412) return false;
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

async function hashThere(client: WebDAVClient, path: string, signal: AbortSignal): Promise<string> {
  const hash = createHash('sha256');
  const stream = client.createReadStream(path, { signal }) as unknown as Readable;
  for await (const chunk of stream) hash.update(chunk as Buffer);
  return hash.digest('hex');
}

const statusOf = (error: unknown) => (error as { status?: number }).status;

function explain(error: unknown, who: string): Error {
  if (error instanceof CarryError) return error;
  const fault = networkFault(error, who);
  if (fault) return fault;
  const status = statusOf(error);
  if (status === 401 || status === 403)
    return new CarryError(
      'refused',
      `${who} refuses the server's user name and password. Whoever runs the server can put that right.`,
      false,
    );
  if (status === 507) return new CarryError('full', `${who} is full`, false);
  if (status === 413) return new CarryError('too-large', `${who} refuses a file of this size`, false);
  if (status === 423) return new CarryError('locked', `${who} is locked by somebody just now`, true);
  if (status && status >= 500) return new CarryError('server-fault', `${who} has a fault (${status})`, true);
  if (status) return new CarryError('refused', `${who} refused the file (${status})`, false);
  return error as Error;
}
