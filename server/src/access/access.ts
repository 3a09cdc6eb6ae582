import type { TLSSocket } from 'node:tls';
import cookie from '@fastify/cookie';
import formbody from '@fastify/formbody';
import rateLimit from '@fastify/rate-limit';
import type { FastifyInstance, FastifyReply, FastifyRequest } from 'fastify';
import { toString as qrOf } from 'qrcode';
import type { Certificate } from './certificate';
import { nameOfDevice, type Devices } from './devices';
import { pairPage, refusedPage, signInPage } from './pages';
import type { PassPhrase } from './passPhrase';

/** What opens a server to its network. */
export interface Network {
  certificate: () => Certificate;
  phrase: PassPhrase;
  devices: Devices;
  /** Where a phone finds it, `https://192.168.1.20:4171`. */
  address: () => string;
}

declare module 'fastify' {
  interface FastifyRequest {
    /** The paired device that asks; null on this machine's own loopback. */
    deviceId: string | null;
  }
}

/** Bound to this host, sent over TLS only (RFC 6265bis, `__Host-`). */
export const sessionCookie = '__Host-libretto';
/** As long as browsers keep a cookie at most (RFC 6265bis: 400 days), s. */
const sessionSeconds = 400 * 86_400;
const triesAMinute = 10;

const isLoopback = (host: string) => /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(host);
const nameOf = (host: string) => host.replace(/:\d+$/, '').replace(/^\[|\]$/g, '');
export const isEncrypted = (request: FastifyRequest) => (request.raw.socket as Partial<TLSSocket>).encrypted === true;
/** What answers without a session. */
const isOpen = (url: string) => /^\/(sign-in|authority\.crt|api\/(?:health|ready)|pair\/[\w-]{1,64})(\?|$)/.test(url);

/**
 * Who may use the server. On loopback, plainly: this machine. Over TLS: paired devices, by the session that a pass phrase or a one-time code gave them.
 * Pages of other origins must not use it, nor reach it under a name of their own (DNS rebinding).
 */
export async function guard(app: FastifyInstance, network: Network | undefined): Promise<void> {
  app.decorateRequest('deviceId', null);
  if (network) await app.register(cookie);
  app.addHook('onRequest', async (request, reply) => {
    const host = request.headers.host ?? '';
    const encrypted = isEncrypted(request);
    const known = encrypted ? network?.certificate().isFor(nameOf(host)) : isLoopback(host);
    if (!known) return reply.code(421).send({ error: 'Wrong host' });
    const { origin } = request.headers;
    // An image or a frame of another page says no origin, but the browser says where it stands (Fetch Metadata Request Headers, W3C).
    const site = request.headers['sec-fetch-site'];
    if ((site === 'cross-site' || site === 'same-site') && request.headers['sec-fetch-mode'] !== 'navigate')
      return reply.code(403).send({ error: 'Other origin' });
    if (origin && origin !== `${encrypted ? 'https' : 'http'}://${host}`) return reply.code(403).send({ error: 'Other origin' });
    if (!encrypted) return;
    void reply.header('strict-transport-security', 'max-age=0');
    const device = network!.devices.find(request.cookies[sessionCookie]);
    request.deviceId = device?.id ?? null;
    if (device || isOpen(request.url)) return;
    const wantsPage = request.method === 'GET' && /text\/html/.test(request.headers.accept ?? '');
    if (wantsPage && !request.url.startsWith('/api/')) return reply.redirect('/sign-in', 303);
    return reply.code(401).send({ error: 'Not signed in', code: 'signed-out' });
  });
  if (network) await app.register(pairing, { network });
  await app.register(phone, { prefix: '/api', network });
}

/** Pages by which a device is paired: plain HTML, so that they work before anything else does. */
async function pairing(app: FastifyInstance, { network }: { network: Network }): Promise<void> {
  await app.register(formbody, { bodyLimit: 4096 });
  await app.register(rateLimit, { global: false });
  const limited = {
    config: { rateLimit: { max: triesAMinute, timeWindow: '1 minute', keyGenerator: (r: FastifyRequest) => r.ip } },
  };
  const { phrase, devices } = network;
  app.setErrorHandler((error: Error & { statusCode?: number }, _request, reply) => {
    if (error.statusCode === 429) return html(reply.code(429), signInPage('Too many tries. Wait a minute, then try again.'));
    throw error;
  });

  app.get('/sign-in', async (_request, reply) => html(reply, signInPage()));
  app.post<{ Body: { phrase?: unknown } | undefined }>('/sign-in', limited, async (request, reply) => {
    const given = request.body?.phrase;
    const fits = typeof given === 'string' && given ? await phrase.check(given) : false;
    if (fits === null) return html(reply.code(429).header('retry-after', 10), signInPage('Too many tries. Wait a little, then try again.')); // prettier-ignore
    if (!fits) return html(reply.code(403), signInPage('That is not the pass phrase. It stands in the terminal where Libretto was started first.')); // prettier-ignore
    return admit(request, reply);
  });

  // Looking at a code does not use it up: whoever looks ahead at links must not take the phone's place.
  app.get<{ Params: { code: string } }>('/pair/:code', limited, async ({ params }, reply) =>
    devices.isGood(params.code) ? html(reply, pairPage()) : html(reply.code(403), refusedPage()),
  );
  app.post<{ Params: { code: string } }>('/pair/:code', limited, async (request, reply) =>
    devices.redeem(request.params.code) ? admit(request, reply) : html(reply.code(403), refusedPage()),
  );

  async function admit(request: FastifyRequest, reply: FastifyReply) {
    const token = await devices.pair(nameOfDevice(request.headers['user-agent']));
    return reply
      .setCookie(sessionCookie, token, { httpOnly: true, secure: true, sameSite: 'strict', path: '/', maxAge: sessionSeconds })
      .redirect('/', 303);
  }

  app.get('/authority.crt', async (_request, reply) => {
    const { authority } = network.certificate();
    if (!authority) return reply.code(404).send({ error: 'This server has a certificate of its owner’s' });
    return reply
      .type('application/x-x509-ca-cert')
      .header('content-disposition', 'attachment; filename="libretto-authority.crt"')
      .send(authority);
  });
}

/** What the app shows of it: how a phone comes in, and which devices have. */
async function phone(app: FastifyInstance, { network }: { network: Network | undefined }): Promise<void> {
  app.get('/phone', async ({ deviceId }) => {
    if (!network) return { open: false };
    const { authority, fingerprint } = network.certificate();
    const address = network.address();
    const link = `${address}/pair/${network.devices.code()}`;
    return {
      open: true,
      address,
      link,
      qr: await qrOf(link, { type: 'svg', margin: 4, errorCorrectionLevel: 'M' }),
      fingerprint,
      ownAuthority: authority !== null,
      devices: network.devices
        .list()
        .map(({ id, name, pairedAt, seenAt }) => ({ id, name, pairedAt, seenAt, own: id === deviceId })),
    };
  });
  app.delete<{ Params: { id: string } }>('/devices/:id', async ({ params }, reply) =>
    (await network?.devices.remove(params.id)) ? reply.code(204).send() : reply.code(404).send({ error: 'No such device' }),
  );
}

const html = (reply: FastifyReply, page: string) =>
  reply.type('text/html; charset=utf-8').header('cache-control', 'no-store').send(page);
