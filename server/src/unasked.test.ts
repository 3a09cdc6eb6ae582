import { connect, type AddressInfo } from 'node:net';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buildApp } from './app';

test('a connection on which nothing was asked does not hold a server that closes, nor does a follower', async () => {
  const app = await buildApp({ places: [], dataDir: mkdtempSync(path.join(tmpdir(), 'libretto-unasked-')) });
  await app.listen({ host: '127.0.0.1', port: 0 });
  const { port } = app.server.address() as AddressInfo;
  const silent = connect(port, '127.0.0.1');
  const follower = connect(port, '127.0.0.1');
  const ended = [silent, follower].map((socket) => new Promise((resolve) => socket.on('error', () => {}).on('close', resolve)));
  await new Promise((resolve) => {
    follower.once('data', resolve);
    follower.write('GET /api/deliveries/events?ids= HTTP/1.1\r\nhost: localhost\r\n\r\n');
  });
  follower.resume();
  await app.close();
  await Promise.all(ended);
});
