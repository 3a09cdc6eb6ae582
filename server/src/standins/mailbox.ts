import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { SMTPServer } from 'smtp-server';
import { slowMs, type MailMood } from './moods';

export interface MailboxOptions {
  /** Folder that keeps each message as it came, `<time>-<id>.eml`. */
  root: string;
  username: string;
  password: string;
  /** Largest message in bytes; default 25 MB. */
  limit?: number;
  /** How it behaves, asked at every step; without it, well. */
  mood?: () => MailMood;
}

/** The stand-in mailbox: an SMTP server (RFC 5321) that keeps what it takes. */
export async function mailbox({
  root,
  username,
  password,
  limit = 25_000_000,
  mood = () => 'well',
}: MailboxOptions): Promise<SMTPServer> {
  await mkdir(root, { recursive: true });
  const server: SMTPServer = new SMTPServer({
    size: limit,
    banner: 'stand-in mailbox',
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: ({ username: user, password: pass }, _session, done) =>
      user === username && pass === password && mood() !== 'password'
        ? done(null, { user })
        : done(new Error('Wrong user name or password')),
    onMailFrom(_address, _session, done) {
      if (mood() === 'failing') return done(says(451, 'Busy, try again later'));
      setTimeout(done, mood() === 'slow' ? slowMs : 0);
    },
    onRcptTo: ({ address }, _session, done) => done(mood() === 'refusing' ? says(550, `${address} is not known here`) : null),
    onData(stream, session, done) {
      const id = randomUUID();
      const part = path.join(root, `.${id}.part`);
      pipeline(stream, createWriteStream(part, { flush: true }))
        .then(async () => {
          if (stream.sizeExceeded) {
            await rm(part, { force: true });
            return done(Object.assign(new Error(`Message is larger than ${limit} bytes`), { responseCode: 552 }));
          }
          if (mood() === 'full') {
            await rm(part, { force: true });
            return done(says(452, 'The mailbox is full'));
          }
          await rename(part, path.join(root, `${new Date().toISOString().replace(/[:.]/g, '-')}-${id}.eml`));
          // It has arrived, and nobody is told.
          if (mood() === 'cut') return cutOff(server, session.id);
          done(null, `kept as ${id}`);
        })
        .catch((error: Error) => done(error));
    },
  });
  return server;
}

const says = (responseCode: number, words: string) => Object.assign(new Error(words), { responseCode });

/** Ends the connection of a session without a word. */
function cutOff({ connections }: SMTPServer, session: string): void {
  for (const connection of connections as Set<{ id: string; _socket: { destroy(): void } }>)
    if (connection.id === session) connection._socket.destroy();
}
