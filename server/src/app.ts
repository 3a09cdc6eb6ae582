import { existsSync } from 'node:fs';
import path from 'node:path';
import fastifyStatic from '@fastify/static';
import Fastify, { type FastifyInstance } from 'fastify';
import { guard, type Network } from './access/access';
import { noConfig, type Config } from './config';
import { deliveries } from './deliveries/plugin';
import { headerBytes } from './limits';
import type { PostgresOptions } from './ledger/postgresLedger';
import type { PlaceConfig } from './places/kinds';
import { PlaceBook } from './places/placeBook';
import { placesPlugin } from './places/plugin';
import { arrivals } from './standins/arrivals';
import type { Moods } from './standins/moods';
import { unasked } from './unasked';

export interface AppOptions {
  /** Those of the configuration and the stand-ins. */
  places: readonly PlaceConfig[];
  rules?: Pick<Config, 'placesChangedBy' | 'privatePlaces'>;
  dataDir: string;
  /** A ledger of deliveries that several servers share; their places then stand in the configuration only. */
  database?: PostgresOptions;
  /** The built app; left out, only the interface is served. */
  webRoot?: string;
  /** The demo's folder: its photographs, and the flat sheets that the stand-in camera shows. */
  demoRoot?: string;
  standIns?: { folder: string; mail: string; moods?: Moods };
  /** What it needs to be open to its network, where it is. */
  network?: Network;
  log?: boolean;
}

const policy = [
  "default-src 'self'",
  "script-src 'self' 'wasm-unsafe-eval'",
  "style-src 'self' 'unsafe-inline'",
  "img-src 'self' blob: data:",
  "worker-src 'self' blob:",
  "connect-src 'self' blob:",
  "object-src 'none'",
  "base-uri 'none'",
  "form-action 'self'",
  "frame-ancestors 'none'",
].join('; ');

/** The server: serves the app and carries deliveries. It keeps nothing of a user's but what it is carrying, the ledger of deliveries and the places. */
export async function buildApp({
  places: fixed,
  rules = noConfig,
  dataDir,
  database,
  webRoot,
  demoRoot,
  standIns,
  network,
  log = false,
}: AppOptions): Promise<FastifyInstance> {
  const app = Fastify({
    logger: log ? { level: process.env.LIBRETTO_LOG ?? 'warn' } : false,
    requestTimeout: 0,
    http: { maxHeaderSize: headerBytes },
  });

  const dropUnasked = unasked(app.server);
  app.addHook('preClose', async () => dropUnasked());
  await guard(app, network);
  app.addHook('onSend', async (_request, reply) => {
    void reply
      .header('x-content-type-options', 'nosniff')
      // Under `no-referrer` a form's own origin would be hidden from us as well.
      .header('referrer-policy', 'same-origin')
      .header('content-security-policy', policy)
      .header('cross-origin-resource-policy', 'same-origin');
  });

  const places = new PlaceBook({ fixed, dataDir, reach: { privately: rules.privatePlaces } });
  const changedBy = database ? 'nobody' : rules.placesChangedBy;
  await app.register(placesPlugin, { prefix: '/api', places, changedBy });
  await app.register(deliveries, { prefix: '/api', places, dataDir, ...(database && { database }) });
  if (standIns) await app.register(arrivals, { prefix: '/stand-ins', ...standIns });
  if (demoRoot && existsSync(demoRoot)) {
    await app.register(fastifyStatic, { root: path.join(demoRoot, 'photos'), prefix: '/demo/', decorateReply: false });
    await app.register(fastifyStatic, { root: path.join(demoRoot, 'flat'), prefix: '/demo/sheets/', decorateReply: false });
  }
  if (webRoot && existsSync(webRoot)) {
    await app.register(fastifyStatic, {
      root: webRoot,
      cacheControl: false,
      preCompressed: true,
      setHeaders(reply, file) {
        const hashed = file.includes(`${path.sep}_expo${path.sep}static${path.sep}`);
        reply.setHeader('cache-control', hashed ? 'public, max-age=31536000, immutable' : 'no-cache');
      },
    });
    // Every address of the app is one page.
    app.setNotFoundHandler((request, reply) => {
      const [address] = request.url.split('?');
      if (request.method === 'GET' && !/^\/(api|demo|stand-ins|pair)\//.test(address!) && !path.extname(address!))
        return reply.sendFile('index.html');
      return reply.code(404).send({ error: 'Not found' });
    });
  }
  return app;
}
