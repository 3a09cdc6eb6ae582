import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import basicAuth from '@fastify/basic-auth';
import { XMLBuilder } from 'fast-xml-parser';
import Fastify, { type FastifyInstance, type FastifyReply, type FastifyRequest } from 'fastify';
import { againAfterS, slowMs, type FolderMood } from './moods';

export interface FolderServerOptions {
  /** Folder on disk that it shows. */
  root: string;
  username: string;
  password: string;
  /** How it behaves, asked at every request; without it, well. */
  mood?: () => FolderMood;
}

/**
 * The stand-in cloud folder: a WebDAV class 1 server (RFC 4918) over one folder, with basic authentication, If-Match / If-None-Match and Overwrite.
 * Locks and properties of one's own are not there.
 */
export async function folderServer({
  root,
  username,
  password,
  mood = () => 'well',
}: FolderServerOptions): Promise<FastifyInstance> {
  await mkdir(root, { recursive: true });
  const app = Fastify({ bodyLimit: 300_000_000 });
  for (const method of ['PROPFIND', 'MKCOL', 'MOVE', 'COPY']) app.addHttpMethod(method, { hasBody: true });
  app.removeAllContentTypeParsers();
  app.addContentTypeParser('*', (_request, payload, done) => done(null, payload));
  await app.register(basicAuth, {
    validate: async (user, pass) => {
      if (user !== username || pass !== password) throw new Error('Unauthorized');
    },
    authenticate: { realm: 'stand-in folder' },
  });
  app.addHook('onRequest', app.basicAuth);
  app.addHook('preHandler', async (request, reply) => {
    const writes = /^(PUT|MKCOL|MOVE|DELETE)$/.test(request.method);
    switch (mood()) {
      case 'slow':
        return new Promise((resolve) => setTimeout(resolve, slowMs));
      case 'failing':
        return reply.code(503).header('retry-after', againAfterS).send();
      case 'full':
        return request.method === 'PUT' ? reply.code(507).send() : undefined;
      case 'locked':
        return writes ? reply.code(423).send() : undefined;
      case 'password':
        return reply.code(401).header('www-authenticate', 'Basic realm="stand-in folder"').send();
      case 'cut':
        // Some of it comes, then nothing.
        if (request.method === 'PUT') setTimeout(() => request.raw.socket.destroy(), 50);
        return request.method === 'PUT' ? new Promise(() => {}) : undefined;
      default:
        return undefined;
    }
  });

  /** The place on disk that an address means; null when it leads out of the folder. */
  const onDisk = (address: string): string | null => {
    let decoded: string;
    try {
      decoded = decodeURIComponent(new URL(address, 'http://x').pathname);
    } catch {
      return null;
    }
    if (decoded.includes('\0')) return null;
    const full = path.join(root, decoded);
    return full === root || full.startsWith(root.endsWith(path.sep) ? root : root + path.sep) ? full.replace(/\/+$/, '') : null;
  };
  const about = async (file: string) => stat(file).catch(() => null);
  const etag = (s: { mtimeMs: number; size: number; ino: number }) =>
    `"${createHash('sha1').update(`${s.ino}-${s.mtimeMs}-${s.size}`).digest('hex').slice(0, 16)}"`;

  app.route({
    method: ['OPTIONS', 'PROPFIND', 'MKCOL', 'MOVE', 'GET', 'PUT', 'DELETE'],
    url: '/*',
    handler: async (request, reply) => {
      const file = onDisk(request.raw.url!);
      if (!file) return reply.code(403).send();
      const there = await about(file);
      switch (request.method) {
        case 'OPTIONS':
          return reply.header('dav', '1').header('allow', 'OPTIONS, PROPFIND, MKCOL, MOVE, GET, HEAD, PUT, DELETE').send();
        case 'PROPFIND':
          return there ? list(request, reply, file) : reply.code(404).send();
        case 'MKCOL':
          if (there) return reply.code(405).send();
          if (!(await about(path.dirname(file)))) return reply.code(409).send();
          await mkdir(file);
          return reply.code(201).send();
        case 'GET':
          if (!there) return reply.code(404).send();
          if (there.isDirectory()) return reply.code(405).send();
          return reply
            .header('etag', etag(there))
            .header('content-length', there.size)
            .type('application/octet-stream')
            .send(mood() === 'lying' ? createReadStream(file).pipe(withWrongByte()) : createReadStream(file));
        case 'PUT': {
          if (there?.isDirectory()) return reply.code(405).send();
          const { 'if-none-match': none, 'if-match': match } = request.headers;
          if ((none === '*' && there) || (match && (!there || (match !== '*' && match !== etag(there)))))
            return reply.code(412).send();
          if (!(await about(path.dirname(file)))) return reply.code(409).send();
          const part = `${file}.${randomUUID()}.incoming`;
          try {
            await pipeline((request.body as Readable | undefined) ?? request.raw, createWriteStream(part));
            await rename(part, file);
          } catch (error) {
            await rm(part, { force: true });
            throw error;
          }
          return reply.code(there ? 204 : 201).send();
        }
        case 'DELETE':
          if (!there) return reply.code(404).send();
          await rm(file, { recursive: true });
          return reply.code(204).send();
        default: {
          const target = typeof request.headers.destination === 'string' ? onDisk(request.headers.destination) : null;
          if (!target) return reply.code(400).send();
          if (!there) return reply.code(404).send();
          const occupied = await about(target);
          if (occupied && request.headers.overwrite === 'F') return reply.code(412).send();
          if (!(await about(path.dirname(target)))) return reply.code(409).send();
          await rename(file, target);
          return reply.code(occupied ? 204 : 201).send();
        }
      }
    },
  });

  async function list(request: FastifyRequest, reply: FastifyReply, file: string) {
    const entries = [file];
    if (request.headers.depth !== '0' && (await stat(file)).isDirectory()) {
      for (const name of (await readdir(file)).sort()) if (!name.endsWith('.incoming')) entries.push(path.join(file, name));
    }
    const responses = await Promise.all(
      entries.map(async (entry) => {
        const s = await stat(entry);
        const href = `/${path.relative(root, entry).split(path.sep).map(encodeURIComponent).join('/')}${s.isDirectory() && entry !== root ? '/' : ''}`;
        const prop = {
          'D:displayname': path.basename(entry),
          'D:getlastmodified': s.mtime.toUTCString(),
          'D:creationdate': s.birthtime.toISOString(),
          'D:resourcetype': s.isDirectory() ? { 'D:collection': '' } : '',
          ...(s.isFile() && {
            'D:getcontentlength': s.size,
            'D:getetag': etag(s),
            'D:getcontenttype': 'application/octet-stream',
          }),
        };
        return { 'D:href': href, 'D:propstat': { 'D:prop': prop, 'D:status': 'HTTP/1.1 200 OK' } };
      }),
    );
    const xml = new XMLBuilder({ ignoreAttributes: false }).build({
      '?xml': { '@_version': '1.0', '@_encoding': 'utf-8' },
      'D:multistatus': { '@_xmlns:D': 'DAV:', 'D:response': responses },
    });
    return reply.code(207).type('application/xml; charset=utf-8').send(xml);
  }

  return app;
}

/** The first byte is another one. */
function withWrongByte(): Transform {
  let first = true;
  return new Transform({
    transform(chunk: Buffer, _encoding, done) {
      const out = first ? Buffer.from(chunk) : chunk;
      if (first && out.length) out[0] = out[0]! ^ 1;
      first = false;
      done(null, out);
    },
  });
}
