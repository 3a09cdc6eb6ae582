import { createServer, type AddressInfo } from 'node:net';

/** A port of loopback that nobody listens on just now. */
export function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as AddressInfo;
      probe.close(() => resolve(port));
    });
  });
}
