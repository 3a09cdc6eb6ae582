import type { FastifyError, FastifyPluginAsync, FastifyRequest } from 'fastify';
import { ZodError, prettifyError } from 'zod';
import { placeFormSchema } from '@libretto/model';
import { CarryError, type Carrier } from './carrier';
import type { PlaceBook } from './placeBook';

export interface PlacesOptions {
  places: PlaceBook;
  /** Who may change places: whoever sits at this machine, paired devices as well, or nobody where servers share their deliveries. */
  changedBy: 'thisMachine' | 'paired' | 'nobody';
}

/** A place is tried no longer than this, ms. */
const tryMs = 40_000;

/** `GET /places` by name only; adding, changing, removing and trying them; looking into a folder. A password goes in and never comes out. */
export const placesPlugin: FastifyPluginAsync<PlacesOptions> = async (app, { places, changedBy }) => {
  const mayChange = (request: FastifyRequest) =>
    changedBy === 'paired' || (changedBy === 'thisMachine' && request.deviceId === null);
  app.setErrorHandler<FastifyError>((error, request, reply) => {
    if (error instanceof CarryError) return reply.code(502).send({ error: error.message, code: error.code });
    if (error instanceof ZodError) return reply.code(400).send({ error: prettifyError(error), code: 'bad-place' });
    const status = error.statusCode && error.statusCode < 500 ? error.statusCode : 500;
    if (status === 500) request.log.error(error);
    return reply
      .code(status)
      .send({ error: status === 500 ? 'The server has a fault of its own; see its log' : error.message, code: 'fault' });
  });
  const form = (request: FastifyRequest) => placeFormSchema.parse(request.body) as ReturnType<typeof placeFormSchema.parse>;
  const limit = { bodyLimit: 20_000 };
  const guarded = {
    ...limit,
    preHandler: async (request: FastifyRequest) => {
      if (!mayChange(request))
        throw Object.assign(new Error(changedBy === 'nobody' ? 'Places stand in the configuration of the servers' : 'Places are changed at the machine that Libretto runs on'), { statusCode: 403 }); // prettier-ignore
    },
  };

  app.get('/places', async (request) => ({ places: places.list(), mayChange: mayChange(request) }));

  app.post('/places', guarded, async (request, reply) => reply.code(201).send(await places.add(form(request))));

  /** What a form is filled with: everything but the password. */
  app.get<{ Params: { id: string } }>('/places/:id', guarded, async ({ params }, reply) => {
    const place = places.isOwn(params.id) ? places.find(params.id) : undefined;
    if (!place) return reply.code(404).send({ error: 'No such place can be changed here', code: 'unknown-place' });
    const { password, id: _id, passwordEnv: _env, insecure: _insecure, ...rest } = place;
    return { ...rest, username: rest.username ?? '', hasPassword: password !== undefined };
  });

  app.put<{ Params: { id: string } }>('/places/:id', guarded, async (request, reply) => {
    const changed = await places.change(request.params.id, form(request));
    return changed ?? reply.code(404).send({ error: 'No such place can be changed here', code: 'unknown-place' });
  });

  app.delete<{ Params: { id: string } }>(
    '/places/:id',
    guarded,
    async ({ params }, reply) =>
    (await places.remove(params.id)) ? reply.code(204).send() : reply.code(404).send({ error: 'No such place can be changed here', code: 'unknown-place' }), // prettier-ignore
  );

  /** Tries one that is not kept yet; `?of=` is the place that it changes, whose password it may use. */
  app.post<{ Querystring: { of?: string } }>('/places/try', guarded, async (request) =>
    places.draft(form(request), request.query.of).attempt(AbortSignal.timeout(tryMs)),
  );
  app.post<{ Params: { id: string } }>('/places/:id/try', limit, async ({ params }, reply) => {
    const carrier = places.carrier(params.id);
    return carrier ? carrier.attempt(AbortSignal.timeout(tryMs)) : reply.code(404).send({ error: 'No such place', code: 'unknown-place' }); // prettier-ignore
  });

  const browsable = (id: string): Required<Pick<Carrier, 'browse' | 'makeFolder'>> => {
    const carrier = places.carrier(id);
    if (!carrier?.browse || !carrier.makeFolder) throw Object.assign(new Error('That place has no folders'), { statusCode: 404 });
    return carrier as Required<Pick<Carrier, 'browse' | 'makeFolder'>>;
  };
  app.get<{ Params: { id: string }; Querystring: { in?: string } }>('/places/:id/folders', async ({ params, query }) => {
    const place = places.find(params.id);
    const start = place && 'folder' in place ? place.folder : '';
    const folder = query.in ?? start;
    return { folder, folders: await browsable(params.id).browse(folder, AbortSignal.timeout(tryMs)) };
  });
  app.post<{ Params: { id: string }; Body: { folder?: unknown } }>(
    '/places/:id/folders',
    limit,
    async ({ params, body }, reply) => {
      const folder = body?.folder;
      if (typeof folder !== 'string' || !folder.trim() || folder.length > 500 || /[\u0000-\u001f\u007f]/.test(folder))
        return reply.code(400).send({ error: 'That is not a folder’s name', code: 'bad-folder' });
      await browsable(params.id).makeFolder(folder, AbortSignal.timeout(tryMs));
      return reply.code(201).send({ folder });
    },
  );
};
