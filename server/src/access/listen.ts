import { createServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import { networkInterfaces } from 'node:os';
import path from 'node:path';
import type { FastifyInstance } from 'fastify';
import type { Network } from './access';
import { madeCertificate, namesOfMachine, ownCertificate, type Certificate } from './certificate';
import { Devices } from './devices';
import { headerBytes } from '../limits';
import { PassPhrase } from './passPhrase';

export interface NetworkOptions {
  dataDir: string;
  /** What to listen on: an address of this machine, or `0.0.0.0` for all. */
  host: string;
  port: number;
  /** PEM files of somebody's own certificate and key. */
  own?: { cert: string; key: string } | undefined;
  phrase?: string | undefined;
  /** Further names under which it is reached. */
  names?: readonly string[];
}

export interface Listening {
  port: number;
  close(): Promise<void>;
}

const lookEveryMs = 86_400_000;

/**
 * Makes ready what a server needs that is open to its network.
 *
 * @returns `made`: the pass phrase, if it was made up now: it is shown this once.
 */
export async function prepareNetwork({ dataDir, host, port, own, phrase: given, names = [] }: NetworkOptions) {
  const folder = path.join(dataDir, 'access');
  const isAll = host === '0.0.0.0' || host === '::';
  const wanted = () => [...new Set([...namesOfMachine(), ...names, ...(isAll ? [] : [host])])];
  const fetchCertificate = (): Promise<Certificate> =>
    own ? Promise.resolve(ownCertificate(own.cert, own.key)) : madeCertificate(folder, wanted());
  let certificate = await fetchCertificate();
  const { phrase, made } = await PassPhrase.open(path.join(folder, 'pass-phrase'), given);
  const devices = await Devices.open(path.join(folder, 'devices.json'));
  const network: Network = {
    certificate: () => certificate,
    phrase,
    devices,
    address: () => {
      const called = names[0] ?? (isAll ? (addressOfMachine() ?? 'localhost') : host);
      return `https://${called.includes(':') ? `[${called}]` : called}:${port}`;
    },
  };

  /** Listens with TLS, beside the app's own listener; the certificate is looked after while it runs. */
  async function listen(app: FastifyInstance): Promise<Listening> {
    await app.ready();
    const server = createServer(
      { cert: certificate.cert, key: certificate.key, minVersion: 'TLSv1.2', maxHeaderSize: headerBytes },
      (request, response) => app.routing(request, response),
    );
    server.requestTimeout = 0;
    await new Promise<void>((resolve, reject) => {
      server.once('error', reject);
      server.listen(port, host, resolve);
    });
    const timer = setInterval(() => {
      void fetchCertificate().then((now) => {
        if (now.cert === certificate.cert) return;
        certificate = now;
        server.setSecureContext({ cert: now.cert, key: now.key });
      }, console.error);
    }, lookEveryMs);
    timer.unref();
    return {
      port: (server.address() as AddressInfo).port,
      close: async () => {
        clearInterval(timer);
        const closed = new Promise((resolve) => server.close(resolve));
        server.closeAllConnections();
        await closed;
      },
    };
  }
  return { network, made, listen };
}

/** The address at which others of the same network most likely find this machine: a private one (RFC 1918), not a container's. */
function addressOfMachine(): string | undefined {
  const addresses = Object.entries(networkInterfaces())
    .filter(([name]) => !/^(docker|br-|veth|virbr|vmnet|utun|tun|tap)/.test(name))
    .flatMap(([, list]) => list ?? [])
    .filter((a) => a.family === 'IPv4' && !a.internal)
    .map((a) => a.address);
  return addresses.find((a) => /^(192\.168\.|10\.|172\.(1[6-9]|2\d|3[01])\.)/.test(a)) ?? addresses[0];
}
