import { mkdtempSync, writeFileSync } from 'node:fs';
import { createServer, type AddressInfo, type Server } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Heard } from '@libretto/model';
import { CarryError, DoubtError, type Cargo } from '../carrier';
import { mailCarrier } from './mailCarrier';

/** What a scripted mail server does (RFC 5321), so that each place at which a line can be cut is met exactly. */
interface Script {
  /** Reply to RCPT by address; else 250. */
  rcpt?: Record<string, string>;
  /** What follows the message's final dot; `cut` closes without a word, `silent` says nothing. */
  end?: string | 'cut' | 'silent';
  /** Closes after so many bytes of the message. */
  cutAfter?: number;
  auth?: boolean;
}

let server: Server;
let script: Script = {};
let taken: { to: string[]; message: string }[] = [];

beforeAll(async () => {
  server = createServer((socket) => {
    socket.on('error', () => {});
    const say = (line: string) => socket.write(`${line}\r\n`);
    let buffer = '';
    let inData = false;
    let to: string[] = [];
    say('220 scripted');
    socket.on('data', (chunk) => {
      buffer += chunk.toString('latin1');
      if (inData) {
        if (script.cutAfter !== undefined && buffer.length > script.cutAfter) return socket.destroy();
        const dot = buffer.indexOf('\r\n.\r\n');
        if (dot < 0) return;
        inData = false;
        const message = buffer.slice(0, dot);
        buffer = '';
        if (script.end === 'cut') return socket.destroy();
        if (script.end === 'silent') return;
        if (!script.end || script.end.startsWith('2')) taken.push({ to, message });
        return say(script.end ?? '250 kept');
      }
      for (let at; !inData && (at = buffer.indexOf('\r\n')) >= 0;) {
        const line = buffer.slice(0, at);
        buffer = buffer.slice(at + 2);
        const address = /<(.*?)>/.exec(line)?.[1] ?? '';
        if (line.startsWith('EHLO')) say(script.auth ? '250-scripted\r\n250 AUTH PLAIN' : '250 scripted');
        else if (line.startsWith('RCPT')) {
          const reply = script.rcpt?.[address] ?? '250 ok';
          if (reply.startsWith('2')) to.push(address);
          say(reply);
        } else if (line === 'STARTTLS') say('454 none');
        else if (line === 'DATA') {
          inData = true;
          say('354 go on');
        } else if (line === 'QUIT') socket.end('221 bye\r\n');
        else if (line.startsWith('MAIL')) {
          to = [];
          say('250 ok');
        } else say('250 ok');
      }
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
});
afterAll(() => new Promise((resolve) => server.close(resolve)));
beforeEach(() => {
  script = {};
  taken = [];
});

const file = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-mail-')), 'docket');
writeFileSync(file, `%PDF-1.7\n${'stern tube '.repeat(30_000)}`);
const [owner, insurer] = ['owner@wren.example.org', 'claims@marine-mutual.example.com'] as const;
const cargo: Cargo = {
  id: 'delivery-1', placeId: 'post', fileName: 'Docket.pdf', bytes: 330_009, sha256: 'ab'.repeat(32), subject: 'Docket', message: '', path: file, heard: [],
}; // prettier-ignore

function post(part: Partial<Cargo> = {}, signal = new AbortController().signal, place: object = {}) {
  const { port } = server.address() as AddressInfo;
  const carrier = mailCarrier({
    kind: 'mail', id: 'post', name: 'Office mail', from: 'office@saltmarsh.example.org', to: [owner, insurer], host: '127.0.0.1', port, secure: false, limit: 2e7, ...place,
  }); // prettier-ignore
  const handing = jest.fn(async () => {});
  return { handing, sent: carrier.carry({ ...cargo, ...part }, { signal, token: 'one', handing }) };
}
const states = (heard: readonly Heard[] | undefined) => Object.fromEntries((heard ?? []).map((h) => [h.address, h.state]));
const thrown = <T>(sent: Promise<unknown>) =>
  sent.then(
    () => {
      throw new Error('it went through');
    },
    (error: unknown) => error as T,
  );

test('taken over for all: the reply, the Message-ID and each address stand in the proof', async () => {
  const { sent, handing } = post();
  expect(await sent).toMatchObject({ how: 'accepted', receipt: '250 kept', messageId: '<delivery-1@saltmarsh.example.org>' });
  expect(states((await sent).heard)).toEqual({ [owner]: 'accepted', [insurer]: 'accepted' });
  expect(handing).toHaveBeenCalledTimes(1);
  expect(taken[0]!.to).toEqual([owner, insurer]);
  expect(taken[0]!.message).toContain('Message-ID: <delivery-1@saltmarsh.example.org>');
});

test('one refused for good: the other has it, and it is said which', async () => {
  script = { rcpt: { [insurer]: '550 no such mailbox' } };
  const error = await thrown<CarryError>(post().sent);
  expect(error).toMatchObject({ code: 'address-refused', again: false });
  expect(error.message).toContain(`${insurer}: refused (550 no such mailbox)`);
  expect(states(error.more.heard)).toEqual({ [owner]: 'accepted', [insurer]: 'refused' });
});

test('one not just now (greylisting): only that one is mailed again', async () => {
  script = { rcpt: { [insurer]: '450 come back later' } };
  const error = await thrown<CarryError>(post().sent);
  expect(error.again).toBe(true);
  expect(states(error.more.heard)).toEqual({ [owner]: 'accepted', [insurer]: 'open' });
  script = {};
  const { sent } = post({ heard: error.more.heard! });
  expect(states((await sent).heard)).toEqual({ [owner]: 'accepted', [insurer]: 'accepted' });
  expect(taken.map((t) => t.to)).toEqual([[owner], [insurer]]);
  // Whoever gets it later sees whom it went to.
  expect(taken[1]!.message).toContain(`To: ${owner}, ${insurer}`);
});

test('all refused', async () => {
  script = { rcpt: { [owner]: '550 gone', [insurer]: '550 gone' } };
  const { sent, handing } = post();
  expect(await thrown<CarryError>(sent)).toMatchObject({ code: 'address-refused', again: false });
  expect(handing).not.toHaveBeenCalled();
});

test('cut before the message has ended: nothing was handed over, and it may be tried again', async () => {
  script = { cutAfter: 100_000 };
  const { sent, handing } = post();
  expect(await thrown<CarryError>(sent)).toMatchObject({ again: true });
  expect(handing).not.toHaveBeenCalled();
});

test('cut after its end: in doubt', async () => {
  script = { end: 'cut' };
  const error = await thrown<DoubtError>(post().sent);
  expect(error).toBeInstanceOf(DoubtError);
  expect(states(error.heard)).toEqual({ [owner]: 'doubt', [insurer]: 'doubt' });
});

test('no answer after its end, until the time is over: in doubt', async () => {
  script = { end: 'silent' };
  const controller = new AbortController();
  const { sent, handing } = post({}, controller.signal);
  while (!handing.mock.calls.length) await new Promise((resolve) => setTimeout(resolve, 5));
  setTimeout(() => controller.abort(new DOMException('over', 'TimeoutError')), 50);
  expect(await thrown(sent)).toBeInstanceOf(DoubtError);
});

test.each([
  ['421 shutting down', true],
  ['452 no room', true],
  ['552 too big', false],
  ['554 no', false],
])('answered at its end by %s: certain, so it may be tried again: %s', async (end, again) => {
  script = { end };
  const error = await thrown<CarryError>(post().sent);
  expect(error).toBeInstanceOf(CarryError);
  expect(error.again).toBe(again);
});

test('where it cannot be noted that it is handed over, the message does not end', async () => {
  const { port } = server.address() as AddressInfo;
  const carrier = mailCarrier({ kind: 'mail', id: 'post', name: 'Post', from: 'office@saltmarsh.example.org', to: [owner], host: '127.0.0.1', port, secure: false, limit: 2e7 }); // prettier-ignore
  const handing = () => Promise.reject(new Error('the disk is full'));
  await expect(carrier.carry(cargo, { signal: new AbortController().signal, token: 'one', handing })).rejects.toThrow();
  await new Promise((resolve) => setTimeout(resolve, 50));
  expect(taken).toEqual([]);
});

test('addresses that were typed go instead of the place’s own; copies are copies', async () => {
  await post({ to: ['yard@example.org'], cc: [owner] }).sent;
  expect(taken[0]!.to).toEqual(['yard@example.org', owner]);
  expect(taken[0]!.message).toMatch(/To: yard@example\.org\r\nCc: owner@wren\.example\.org/);
});

test('a password does not go to another machine without encryption', async () => {
  script = { auth: true };
  const { port } = server.address() as AddressInfo;
  // This machine by a name that is not known to be it.
  const { sent } = post({}, undefined, { host: '::ffff:127.0.0.1', port, username: 'office', password: 'secret' });
  expect(await thrown<CarryError>(sent)).toMatchObject({ code: 'not-encrypted', again: false });
});

test('trying a place sends one mail to itself', async () => {
  const { port } = server.address() as AddressInfo;
  const carrier = mailCarrier({ kind: 'mail', id: 'post', name: 'Post', from: 'office@saltmarsh.example.org', to: [], host: '127.0.0.1', port, secure: false, limit: 2e7 }); // prettier-ignore
  expect(await carrier.attempt(new AbortController().signal)).toEqual({ done: ['reached', 'letIn', 'mailed'], failed: null });
  expect(taken.map((t) => t.to)).toEqual([['office@saltmarsh.example.org']]);
  script = { end: '554 policy' };
  expect(await carrier.attempt(new AbortController().signal)).toMatchObject({
    done: ['reached', 'letIn'],
    failed: { reason: expect.stringContaining('554 policy') },
  });
});
