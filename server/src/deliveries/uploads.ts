import { createReadStream } from 'node:fs';
import { mkdir, statfs } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { FileStore } from '@tus/file-store';
import { Server } from '@tus/server';
import type { FastifyInstance } from 'fastify';
import { deliverySchema, uploadLimitBytes } from '@libretto/model';
import { idleMs, spareBytes } from './receive';

/** An upload that was not gone on with for so long is thrown away, ms. */
const keptMs = 3 * 86_400_000;
const most = 24;

/** Uploads that go on where they were cut off, by the tus protocol (1.0.0), each under its delivery's id: `/uploads/:id`. */
export class Uploads {
  private server: Server | undefined;
  private under = 0;
  constructor(private readonly folder: string) {}

  private async opened(): Promise<Server> {
    if (this.server) return this.server;
    await mkdir(this.folder, { recursive: true, mode: 0o700 });
    return (this.server ??= new Server({
      path: '/api/uploads',
      datastore: new FileStore({ directory: this.folder, expirationPeriodInMilliseconds: keptMs }),
      relativeLocation: true,
      maxSize: uploadLimitBytes,
      // Who may use the server is told before (access.ts).
      allowedOrigins: [],
      namingFunction: (_request, metadata) => {
        if (isId(metadata?.delivery)) return metadata.delivery;
        throw { status_code: 400, body: 'That is not a delivery id\n' };
      },
      onUploadCreate: async (_request, { size = 0 }) => {
        const disk = await statfs(this.folder).catch(() => null);
        if (!disk || disk.bavail * disk.bsize >= size + spareBytes) return {};
        throw { status_code: 507, body: 'The server has no room left for it\n' };
      },
    }));
  }

  /** Answers for `/uploads` and what lies below; `begin` is waited for first. */
  routes(app: FastifyInstance, begin: () => Promise<void>): void {
    void app.register(async (scope) => {
      scope.removeAllContentTypeParsers();
      scope.addContentTypeParser('*', (_request, payload, done) => done(null, payload));
      for (const url of ['/uploads', '/uploads/:id'])
        scope.route({
          method: ['POST', 'HEAD', 'PATCH', 'DELETE'],
          url,
          bodyLimit: uploadLimitBytes,
          handler: async (request, reply) => {
            await begin();
            if (this.under >= most)
              return reply.code(503).type('text/plain').send('The server takes as many uploads as it can just now');
            const server = await this.opened();
            const { raw } = request;
            reply.hijack();
            this.under++;
            // Node ends a connection on which nothing moves, and sets this anew for its next request.
            raw.socket.setTimeout(idleMs);
            reply.raw.once('close', () => this.under--);
            await server.handle(raw, reply.raw);
          },
        });
    });
  }

  /** The file of an upload that is whole; null where there is none. */
  async whole(id: string): Promise<Readable | null> {
    const { datastore } = await this.opened();
    const upload = await datastore.getUpload(id).catch(() => null);
    return upload && upload.offset === upload.size ? createReadStream(path.join(this.folder, id)) : null;
  }

  async drop(id: string): Promise<void> {
    await (await this.opened()).datastore.remove(id).catch(() => {});
  }

  async prune(): Promise<void> {
    await (await this.opened()).cleanUpExpiredUploads().catch(() => {});
  }
}

const isId = (id: unknown): id is string => deliverySchema.shape.id.safeParse(id).success;
