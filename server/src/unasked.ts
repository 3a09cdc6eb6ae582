import type { Server } from 'node:http';
import type { Socket } from 'node:net';

/**
 * A browser opens connections in advance; one on which nothing was asked is not idle to Node and holds a closing server until it times out.
 * Returns what ends those, and any that come later.
 */
export function unasked(server: Server): () => void {
  const fresh = new Set<Socket>();
  let closing = false;
  server.on('connection', (socket: Socket) => {
    if (closing) return socket.destroy();
    fresh.add(socket);
    socket.once('close', () => fresh.delete(socket));
  });
  server.on('request', ({ socket }) => fresh.delete(socket));
  return () => {
    closing = true;
    for (const socket of fresh) socket.destroy();
  };
}
