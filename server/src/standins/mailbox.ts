import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, rename, rm } from 'node:fs/promises';
import path from 'node:path';
import { pipeline } from 'node:stream/promises';
import { SMTPServer } from 'smtp-server';

export interface MailboxOptions {
  /** Folder that keeps each message as it came, `<time>-<id>.eml`. */
  root: string;
  username: string;
  password: string;
  /** Largest message in bytes; default 25 MB. */
  limit?: number;
}

/** The stand-in mailbox: an SMTP server (RFC 5321) that keeps what it takes. */
export async function mailbox({ root, username, password, limit = 25_000_000 }: MailboxOptions): Promise<SMTPServer> {
  await mkdir(root, { recursive: true });
  return new SMTPServer({
    size: limit,
    banner: 'stand-in mailbox',
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: ({ username: user, password: pass }, _session, done) =>
      user === username && pass === password ? done(null, { user }) : done(new Error('Wrong user name or password')),
    onData(stream, _session, done) {
      const id = randomUUID();
      const part = path.join(root, `.${id}.part`);
      pipeline(stream, createWriteStream(part, { flush: true }))
        .then(async () => {
          if (stream.sizeExceeded) {
            await rm(part, { force: true });
            return done(Object.assign(new Error(`Message is larger than ${limit} bytes`), { responseCode: 552 }));
          }
          await rename(part, path.join(root, `${new Date().toISOString().replace(/[:.]/g, '-')}-${id}.eml`));
          done(null, `kept as ${id}`);
        })
        .catch((error: Error) => done(error));
    },
  });
}
