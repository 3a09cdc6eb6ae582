import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import type { FastifyError, FastifyPluginAsync, FastifyReply } from 'fastify';
import {
  deliveryRequestSchema,
  deliverySchema,
  isSafeFileName,
  uploadLimitBytes,
  type DeliveryAnswer,
  type DeliveryEvent,
  type DeliveryRequest,
} from '@libretto/model';
import { answerOf, isOpen, received, reopened, type Entry } from '../ledger/entry';
import { FileLedger, FolderContents } from '../ledger/fileLedger';
import type { Contents, Ledger } from '../ledger/ledger';
import { PostgresContents, PostgresLedger, type PostgresOptions } from '../ledger/postgresLedger';
import { watching } from '../watching';
import type { PlaceBook } from '../places/placeBook';
import { Carrying } from './carrying';
import { receive, UploadError } from './receive';
import { Uploads } from './uploads';

export interface DeliveriesOptions {
  places: PlaceBook;
  /** Holds files received and, without a database, the ledger. */
  dataDir: string;
  /** A ledger that several servers share. */
  database?: PostgresOptions;
  /** Longest time for one attempt at carrying a file, ms. */
  carryMs?: number;
}

/** As long as people ask where something went, ms. */
const keptMs = 90 * 86_400_000;
/** Most uploads at a time. */
const mostUploads = 24;
/** Reasons for which what has been uploaded may still be wanted. */
const stays = new Set(['disk-full', 'not-uploaded']);
const heartbeatMs = 20_000;
const mostFollowed = 200;

/**
 * `PUT /deliveries/:id` takes a file over (202), with the request in `x-delivery`; with `x-uploaded`, one that came under that id to `/uploads` (uploads.ts); `GET /deliveries/:id` and `GET /deliveries/events?ids=` say what became of it; `DELETE /deliveries/:id`
 * takes it back where that still can be.
 */
export const deliveries: FastifyPluginAsync<DeliveriesOptions> = async (app, { places, dataDir, database, carryMs }) => {
  const incoming = path.join(dataDir, 'incoming');
  const { ledger, contents } = storeOf(dataDir, incoming, database);
  const uploads = new Uploads(path.join(dataDir, 'uploads'));
  const carrying = new Carrying({ ledger, contents, places, log: app.log, ...(carryMs && { carryMs }) });
  app.decorate('carrying', carrying);
  await app.register(watching, { dataDir, ledger });
  // What a stopped server left is looked at once this one has its port, or when the first delivery comes.
  let begun: Promise<void> | undefined;
  const prune = async () => {
    await ledger.prune(new Date(Date.now() - keptMs));
    await uploads.prune();
  };
  const begin = () =>
    (begun ??= (async () => {
      await ledger.begin();
      await contents.prune(new Set((await ledger.open()).flatMap((e) => e.file ?? [])));
      await carrying.resume();
      await prune();
    })().catch((error: unknown) => {
      // A database that does not answer yet may the next time.
      begun = undefined;
      throw error;
    }));
  app.addHook('onListen', begin);
  const daily = setInterval(() => void prune().catch(() => {}), 86_400_000);
  daily.unref();
  const followers = new Set<() => void>();
  app.addHook('preClose', async () => {
    clearInterval(daily);
    for (const end of followers) end();
    await carrying.stop();
    await ledger.close();
  });

  // The body stays a stream: nothing parses or buffers it, and what is no file is refused before it is read.
  app.removeAllContentTypeParsers();
  app.addContentTypeParser(['application/pdf', 'application/octet-stream'], (_request, payload, done) => done(null, payload));

  // Whatever goes wrong is answered in the same form, so that whoever sends knows whether to try again.
  app.setErrorHandler<FastifyError>((error, request, reply) => {
    const status = error.statusCode && error.statusCode >= 400 && error.statusCode < 500 ? error.statusCode : 500;
    if (status === 500) request.log.error(error);
    return reply.send(
      status === 500
        ? refuse(reply, 500, 'fault', 'The server has a fault of its own; see its log', true)
        : refuse(reply, status, 'bad-request', error.message),
    );
  });

  const isId = (id: string) => deliverySchema.shape.id.safeParse(id).success;

  app.get<{ Querystring: { ids?: string } }>('/deliveries/events', async (request, reply) => {
    await begin();
    const ids = new Set((request.query.ids ?? '').split(',').filter(isId).slice(0, mostFollowed));
    reply.hijack();
    const { raw } = reply;
    // Kept for more requests, the connection would hold a server that stops until it timed out.
    raw.writeHead(200, {
      'content-type': 'text/event-stream',
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
      connection: 'close',
    });
    const tell = (id: string, answer: DeliveryAnswer) =>
      raw.write(`data: ${JSON.stringify({ id, answer } satisfies DeliveryEvent)}\n\n`);
    const changed = (entry: Entry) => ids.has(entry.id) && tell(entry.id, answerOf(entry));
    carrying.events.on('changed', changed).on('elsewhere', changed);
    const beat = setInterval(() => raw.write(': here\n\n'), heartbeatMs);
    const end = () => {
      clearInterval(beat);
      carrying.events.off('changed', changed).off('elsewhere', changed);
      followers.delete(end);
      raw.end();
    };
    followers.add(end);
    raw.on('close', end);
    raw.write(': here\n\n');
    for (const id of ids) {
      const entry = await ledger.find(id).catch(() => null);
      tell(id, entry ? answerOf(entry) : unknown);
    }
  });

  app.get<{ Params: { id: string } }>('/deliveries/:id', async ({ params }, reply) => {
    if (!isId(params.id)) return refuse(reply, 400, 'bad-id', 'That is not a delivery id');
    await begin();
    const entry = await ledger.find(params.id);
    if (!entry) void reply.code(404);
    return entry ? answerOf(entry) : unknown;
  });

  app.delete<{ Params: { id: string } }>('/deliveries/:id', async ({ params }, reply) => {
    if (!isId(params.id)) return refuse(reply, 400, 'bad-id', 'That is not a delivery id');
    await begin();
    await uploads.drop(params.id);
    const entry = await ledger.find(params.id);
    if (!entry) {
      void reply.code(404);
      return unknown;
    }
    if (isOpen(entry) && !(await carrying.cancel(entry))) void reply.code(409);
    return answerOf((await ledger.find(params.id))!);
  });

  uploads.routes(app, begin);
  let receiving = 0;
  app.put<{ Params: { id: string }; Body: Readable }>(
    '/deliveries/:id',
    { bodyLimit: uploadLimitBytes },
    async (request, reply) => {
      await begin();
      const { id } = request.params;
      if (!isId(id)) return refuse(reply, 400, 'bad-id', 'That is not a delivery id');
      const wanted = readRequest(request.headers['x-delivery']);
      if (typeof wanted === 'string') return refuse(reply, 400, 'bad-request', wanted);
      if (!places.find(wanted.placeId))
        return refuse(reply, 404, 'unknown-place', 'The server does not know that place (any more)');
      if (!request.body || typeof request.body.pipe !== 'function')
        return refuse(reply, 400, 'no-file', 'There is no file in the request');

      /** What is to be said without taking the file; null where it is wanted. */
      const known = (entry: Entry | null) => {
        if (!entry) return null;
        if (entry.request.placeId !== wanted.placeId || entry.request.sha256 !== wanted.sha256)
          return refuse(reply, 409, 'other-delivery', 'Another file was sent under this delivery id');
        const wantedAgain = entry.state === 'refused' || entry.state === 'cancelled' || (entry.state === 'doubt' && wanted.again);
        if (wantedAgain) return null;
        if (isOpen(entry)) void reply.code(202);
        return answerOf(entry);
      };
      const early = known(await ledger.find(id));
      if (early) {
        request.body.resume();
        return early;
      }
      if (receiving >= mostUploads) {
        request.body.resume();
        return refuse(reply, 503, 'busy', 'The server takes as many uploads as it can just now', true);
      }
      const claim = await ledger.claim(id, 'receiving');
      if (!claim) {
        request.body.resume();
        const now = known(await ledger.find(id));
        if (now) return now;
        return refuse(reply, 409, 'under-way', 'This delivery is under way already', true);
      }
      // A file of its own: an attempt that was given up may still be writing.
      const name = `${id}.${claim.token}`;
      receiving++;
      let entry: Entry;
      try {
        // It may have come between the look and the claim.
        const before = await ledger.find(id);
        const meanwhile = known(before);
        if (meanwhile) {
          request.body.resume();
          return meanwhile;
        }
        // Uploaded before, in one or several goes, or now.
        const file = request.headers['x-uploaded'] ? await uploads.whole(id) : request.body;
        if (!file) throw new UploadError(409, 'not-uploaded', 'The server does not have all of that file', true);
        await receive(file, path.join(incoming, name), wanted);
        await contents.keep(name);
        entry = before ? reopened(before, wanted, name) : received(id, wanted, name);
        // Only what is noted for good is taken over.
        await ledger.put(entry);
        if (request.headers['x-uploaded']) await uploads.drop(id);
      } catch (error) {
        // What came of it in several goes is not what was announced: it begins anew.
        if (error instanceof UploadError && !stays.has(error.code)) await uploads.drop(id);
        await contents.drop(name).catch(() => rm(path.join(incoming, name), { force: true }));
        if (error instanceof UploadError) return refuse(reply, error.status, error.code, error.message, error.again);
        if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
          return refuse(reply, 507, 'disk-full', 'The server has no room left for it', true);
        request.log.error({ err: error, delivery: id }, 'could not be taken over');
        return refuse(reply, 500, 'fault', 'The server has a fault of its own; see its log', true);
      } finally {
        receiving--;
        await claim.release();
      }
      carrying.plan(entry);
      void reply.code(202);
      return answerOf(entry);
    },
  );
};

function storeOf(dataDir: string, incoming: string, database?: PostgresOptions): { ledger: Ledger; contents: Contents } {
  if (!database) return { ledger: new FileLedger(path.join(dataDir, 'deliveries')), contents: new FolderContents(incoming) };
  const ledger = new PostgresLedger(database);
  return { ledger, contents: new PostgresContents(incoming, ledger.pool) };
}

declare module 'fastify' {
  interface FastifyInstance {
    carrying: Carrying;
  }
}

const unknown: DeliveryAnswer = {
  state: 'failed',
  code: 'unknown',
  reason: 'The server does not have that delivery',
  again: false,
};

/** The announced delivery, or what is wrong with it. */
function readRequest(header: string | string[] | undefined): DeliveryRequest | string {
  if (typeof header !== 'string') return 'The header x-delivery is missing';
  let parsed: unknown;
  try {
    parsed = JSON.parse(decodeURIComponent(header));
  } catch {
    return 'The header x-delivery cannot be read';
  }
  const result = deliveryRequestSchema.safeParse(parsed);
  if (!result.success)
    return `The header x-delivery does not fit: ${result.error.issues.map((i) => `${i.path.join('.')} ${i.message}`).join('; ')}`;
  if (!isSafeFileName(result.data.fileName)) return 'That file name could do harm or would not be kept as it is';
  // A line break in a subject could begin another header (RFC 5322, 2.2).
  if (/[\u0000-\u001f\u007f]/.test(result.data.subject + (result.data.folder ?? '')))
    return 'The subject or folder holds control characters';
  if (/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/.test(result.data.message)) return 'The message holds control characters';
  return result.data;
}

function refuse(reply: FastifyReply, status: number, code: string, reason: string, again = false): DeliveryAnswer {
  void reply.code(status);
  return { state: 'failed', code, reason, again };
}
