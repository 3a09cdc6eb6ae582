import { statfs, unlink, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { FastifyPluginAsync } from 'fastify';
import { collectDefaultMetrics, Counter, Gauge, Histogram, Registry } from 'prom-client';
import { isOpen, type Entry } from './ledger/entry';
import type { Ledger } from './ledger/ledger';

export interface WatchingOptions {
  dataDir: string;
  ledger: Ledger;
}

/** With less room than this nothing more can be taken over, bytes. */
const leastRoom = 50_000_000;

/**
 * For whoever watches the server: `GET /health` (it runs), `GET /ready` (it can take files over: 200, or 503 with why), `GET /metrics` in the text format of Prometheus,
 * which needs a session where the server is open to a network.
 */
export const watching: FastifyPluginAsync<WatchingOptions> = async (app, { dataDir, ledger }) => {
  const registry = new Registry();
  collectDefaultMetrics({ register: registry });
  const { carrying } = app;
  new Gauge({
    name: 'libretto_deliveries_under',
    help: 'Deliveries that are being carried just now',
    registers: [registry],
    collect() {
      this.set(carrying.counts().under);
    },
  });
  new Gauge({
    name: 'libretto_deliveries_waiting',
    help: 'Deliveries that wait for their turn or for their next attempt',
    registers: [registry],
    collect() {
      this.set(carrying.counts().waiting);
    },
  });
  const ended = new Counter({ name: 'libretto_deliveries_ended_total', help: 'Deliveries that came to their end, by what became of them', labelNames: ['state'], registers: [registry] }); // prettier-ignore
  const bytes = new Counter({ name: 'libretto_delivered_bytes_total', help: 'Bytes that have arrived', registers: [registry] });
  const took = new Histogram({ name: 'libretto_delivery_seconds', help: 'From being taken over to arriving', buckets: [0.3, 1, 3, 10, 30, 120, 600, 3600, 86_400], registers: [registry] }); // prettier-ignore
  const changed = (entry: Entry) => {
    if (isOpen(entry)) return;
    ended.inc({ state: entry.state });
    if (entry.state !== 'arrived') return;
    bytes.inc(entry.request.bytes);
    took.observe(Math.max(0, Date.now() - Date.parse(entry.receivedAt)) / 1000);
  };
  carrying.events.on('changed', changed);
  app.addHook('onClose', async () => {
    carrying.events.off('changed', changed);
    registry.clear();
  });

  app.get('/health', async () => ({ ok: true }));
  app.get('/ready', async (_request, reply) => {
    const why = (await notReady(dataDir)) ?? (await ledger.fault());
    return why ? reply.code(503).send({ ready: false, why }) : { ready: true };
  });
  app.get('/metrics', async (_request, reply) => reply.type(registry.contentType).send(await registry.metrics()));
};

async function notReady(dataDir: string): Promise<string | null> {
  const probe = path.join(dataDir, `.ready-${process.pid}`);
  try {
    const { bavail, bsize } = await statfs(dataDir);
    if (bavail * bsize < leastRoom) return 'The disk is nearly full';
    await writeFile(probe, 'x');
    await unlink(probe);
    return null;
  } catch (error) {
    return `The data folder cannot be written (${(error as NodeJS.ErrnoException).code ?? 'fault'})`;
  }
}
