import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import type { FastifyError, FastifyPluginAsync, FastifyReply } from 'fastify';
import {
  deliveryRequestSchema,
  deliverySchema,
  isSafeFileName,
  uploadLimitBytes,
  type DeliveryAnswer,
  type DeliveryRequest,
} from '@libretto/model';
import { publicPlace, type PlaceConfig } from '../config';
import { CarryError, type Carrier } from '../places/carrier';
import { folderCarrier } from '../places/folder';
import { mailCarrier } from '../places/mail';
import { Ledger } from './ledger';
import { receive, UploadError } from './receive';

export interface DeliveriesOptions {
  places: readonly PlaceConfig[];
  /** Holds uploads under way and the ledger. */
  dataDir: string;
  /** Longest time for carrying one file; default 10 minutes. */
  carryMs?: number;
}

/** `GET /places`, `PUT /deliveries/:id` with the file as body and the request in `x-delivery`, `GET /deliveries/:id`. */
export const deliveries: FastifyPluginAsync<DeliveriesOptions> = async (app, { places, dataDir, carryMs = 600_000 }) => {
  const twice = places.find(({ id }, i) => places.findIndex((other) => other.id === id) < i);
  if (twice) throw new Error(`Two places have the id “${twice.id}”: one would take the other's deliveries`);
  const carriers = new Map<string, Carrier>(places.map((p) => [p.id, p.kind === 'folder' ? folderCarrier(p) : mailCarrier(p)]));
  const ledger = new Ledger(path.join(dataDir, 'deliveries'));
  const incoming = path.join(dataDir, 'incoming');
  // What a stopped server left is cleared once this one has its port, before the first delivery is taken.
  let cleared: Promise<void> | undefined;
  const clear = async () => {
    await rm(incoming, { recursive: true, force: true });
    await mkdir(incoming, { recursive: true });
    await ledger.clearClaims();
  };

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

  app.get('/places', async () => ({ places: places.map(publicPlace) }));

  app.get<{ Params: { id: string } }>('/deliveries/:id', async ({ params }, reply) => {
    if (!deliverySchema.shape.id.safeParse(params.id).success) return refuse(reply, 400, 'bad-id', 'That is not a delivery id');
    const entry = await ledger.find(params.id);
    return entry
      ? ({ state: 'arrived', proof: entry.proof } satisfies DeliveryAnswer)
      : refuse(reply, 404, 'unknown', 'No such delivery has arrived');
  });

  app.put<{ Params: { id: string }; Body: Readable }>(
    '/deliveries/:id',
    { bodyLimit: uploadLimitBytes },
    async (request, reply) => {
      await (cleared ??= clear());
      const { id } = request.params;
      if (!deliverySchema.shape.id.safeParse(id).success) return refuse(reply, 400, 'bad-id', 'That is not a delivery id');
      const wanted = readRequest(request.headers['x-delivery']);
      if (typeof wanted === 'string') return refuse(reply, 400, 'bad-request', wanted);
      const carrier = carriers.get(wanted.placeId);
      if (!carrier) return refuse(reply, 404, 'unknown-place', 'The server does not know that place (any more)');
      if (!request.body || typeof request.body.pipe !== 'function')
        return refuse(reply, 400, 'no-file', 'There is no file in the request');

      const known = async () => {
        const before = await ledger.find(id);
        if (!before) return null;
        request.body.resume();
        if (before.placeId !== wanted.placeId || before.sha256 !== wanted.sha256)
          return refuse(reply, 409, 'other-delivery', 'Another file has arrived under this delivery id');
        return { state: 'arrived', proof: before.proof } satisfies DeliveryAnswer;
      };
      const before = await known();
      if (before) return before;
      const claim = await ledger.claim(id);
      if (!claim) {
        request.body.resume();
        return refuse(reply, 409, 'under-way', 'This delivery is under way already', true);
      }
      // A file of its own: an attempt that was given up may still be writing.
      const file = path.join(incoming, `${id}.${claim.token}`);
      try {
        // It may have arrived between the look and the claim.
        const meanwhile = await known();
        if (meanwhile) return meanwhile;
        await receive(request.body, file, wanted);
        const proof = await carrier.carry({ ...wanted, id, path: file }, AbortSignal.timeout(carryMs));
        // It has arrived, whether that can be noted or not.
        await ledger
          .arrived(id, wanted.placeId, proof)
          .catch((error: unknown) => request.log.error(error, 'An arrival could not be noted'));
        return { state: 'arrived', proof } satisfies DeliveryAnswer;
      } catch (error) {
        if (error instanceof UploadError) return refuse(reply, error.status, error.code, error.message, error.status === 400);
        if (error instanceof CarryError) return refuse(reply, 502, error.code, error.message, error.again);
        request.log.error(error);
        return refuse(reply, 500, 'fault', 'The server has a fault of its own; see its log', true);
      } finally {
        await rm(file, { force: true });
        await claim.release();
      }
    },
  );
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
  if (/[\u0000-\u001f\u007f]/.test(result.data.subject)) return 'The subject holds control characters';
  if (/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/.test(result.data.message)) return 'The message holds control characters';
  return result.data;
}

function refuse(reply: FastifyReply, status: number, code: string, reason: string, again = false): DeliveryAnswer {
  void reply.code(status);
  return { state: 'failed', code, reason, again };
}
