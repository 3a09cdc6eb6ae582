import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { connect } from 'node:net';
import { tmpdir, userInfo } from 'node:os';
import path from 'node:path';
import { simpleParser } from 'mailparser';
import type { Heard } from '@libretto/model';
import { freePort } from '../../testing/freePort';
import { CarryError, type Cargo } from '../carrier';
import { mailCarrier } from './mailCarrier';
import type { MailConfig } from './mailConfig';

/** The carrier against a mail server that is not ours: Debian's Exim, its mails read by `mailparser` and by Python's `email`. */
const exim = '/usr/sbin/exim4';
const root = mkdtempSync(path.join(tmpdir(), 'libretto-exim-'));
const box = path.join(root, 'box');
const limit = 2_000_000;
let server: ChildProcess;
let port: number;

const config = (as: string) => `
primary_hostname = mail.saltmarsh.example.org
spool_directory = ${root}/spool
log_file_path = ${root}/log/%slog
pid_file_path = ${root}/pid
keep_environment =
deliver_drop_privilege = true
message_size_limit = ${limit}
tls_advertise_hosts = *
tls_certificate = ${root}/cert.pem
tls_privatekey = ${root}/key.pem
acl_smtp_rcpt = rcpt
acl_smtp_data = accept
begin acl
rcpt:
  deny    recipients = gone@saltmarsh.example.org
          message = no such mailbox
  defer   recipients = later@saltmarsh.example.org
          message = come back later
  accept
begin routers
all:
  driver = accept
  transport = box
begin transports
box:
  driver = appendfile
  directory = ${box}
  maildir_format
  mode = 0644
  envelope_to_add
  user = ${as}
begin authenticators
plain:
  driver = plaintext
  public_name = PLAIN
  server_advertise_condition = \${if def:tls_in_cipher}
  server_prompts = :
  server_condition = \${if and{{eq{$auth2}{office}}{eq{$auth3}{slip/two}}}}
`;

beforeAll(async () => {
  if (!existsSync(exim)) throw new Error('exim4-daemon-light is missing; npm test installs it');
  for (const folder of ['spool', 'log', 'box']) mkdirSync(path.join(root, folder));
  execFileSync('openssl', ['req', '-x509', '-newkey', 'rsa:2048', '-nodes', '-days', '2', '-subj', '/CN=localhost', '-addext', 'subjectAltName=DNS:localhost', '-keyout', `${root}/key.pem`, '-out', `${root}/cert.pem`], { stdio: 'ignore' }); // prettier-ignore
  // It refuses to deliver as root.
  const me = userInfo().username;
  const file = path.join(root, 'exim.conf');
  writeFileSync(file, config(me === 'root' ? 'Debian-exim' : me));
  for (const part of ['', 'spool', 'log', 'box']) chmodSync(path.join(root, part), 0o777);
  chmodSync(`${root}/key.pem`, 0o644);
  port = await freePort();
  server = spawn(exim, ['-C', file, '-bdf', '-oX', `127.0.0.1.${port}`], { stdio: 'inherit' });
  while (server.exitCode === null && !(await greets())) await new Promise((resolve) => setTimeout(resolve, 50));
  if (server.exitCode !== null) throw new Error('Exim did not start');
}, 60_000);
afterAll(() => {
  server?.kill();
});

const greets = () =>
  new Promise<boolean>((resolve) => {
    const socket = connect(port, '127.0.0.1', () => socket.once('data', () => (resolve(true), socket.end('QUIT\r\n'))));
    socket.once('error', () => resolve(false));
  });

const content = Buffer.from(`%PDF-1.7\n${'stern tube\n.\n..dots\r\n\0\xff'.repeat(4_000)}`, 'latin1');
const sha256 = createHash('sha256').update(content).digest('hex');
const docket = path.join(root, 'docket');
writeFileSync(docket, content);
const message = 'Für Sie, 船の調査:\n.\n..two dots\nFrom the yard, as agreed. 🛥';
const cargo: Cargo = { id: 'delivery-1', placeId: 'post', fileName: 'Größe & Maß.pdf', bytes: content.length, sha256, subject: 'Übergabe 船 – Wren', message, path: docket, heard: [] }; // prettier-ignore
const [owner, insurer] = ['owner@wren.example.org', 'claims@marine-mutual.example.com'] as const;
const place: MailConfig = { kind: 'mail', id: 'post', name: 'Office mail', from: 'office@saltmarsh.example.org', to: [owner, insurer], host: 'localhost', port: 0, secure: false, limit: 20_000_000 }; // prettier-ignore
const attempt = { signal: AbortSignal.timeout(60_000), token: 'one' };
const failed = (sent: Promise<unknown>) => sent.then(() => { throw new Error('it went through'); }, (error: CarryError) => error); // prettier-ignore

/** In a process that trusts the server's certificate, which Node reads from the environment at its start. */
function trusting(
  part: Partial<Cargo>,
  more: Partial<MailConfig> = {},
): {
  proof?: { receipt: string; messageId: string; heard: Heard[] };
  error?: { code: string; again: boolean; message: string; more: { heard?: Heard[] } };
} {
  const script = `
    import { mailCarrier } from './src/places/mail/mailCarrier.ts';
    const { place, cargo } = JSON.parse(process.argv[1]);
    const attempt = { signal: AbortSignal.timeout(60000), token: 'one', handing: async () => {} };
    await mailCarrier(place).carry(cargo, attempt).then(
      (proof) => console.log(JSON.stringify({ proof })),
      ({ code, again, message, more }) => console.log(JSON.stringify({ error: { code, again, message, more } })));`;
  const values = { place: { ...place, port, username: 'office', password: 'slip/two', ...more }, cargo: { ...cargo, ...part } };
  const out = execFileSync(process.execPath, ['--import', 'tsx', '--input-type=module', '-e', script, JSON.stringify(values)], {
    cwd: path.join(__dirname, '../../..'),
    env: { ...process.env, NODE_EXTRA_CA_CERTS: `${root}/cert.pem` },
  });
  return JSON.parse(out.toString()) as ReturnType<typeof trusting>;
}

/** The mails that have come, of one delivery. */
async function arrived(id: string, count: number): Promise<string[]> {
  const folder = path.join(box, 'new');
  const until = Date.now() + 30_000;
  for (;;) {
    const files = existsSync(folder) ? readdirSync(folder).map((name) => path.join(folder, name)) : [];
    const mine = files.filter((file) => readFileSync(file, 'latin1').includes(`<${id}@saltmarsh.example.org>`));
    if (mine.length >= count || Date.now() > until) return mine;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
}

const python = `
import email, email.policy, hashlib, json, sys
m = email.message_from_binary_file(open(sys.argv[1], 'rb'), policy=email.policy.default)
a, = m.iter_attachments()
print(json.dumps({'subject': m['subject'], 'to': m['to'], 'id': m['message-id'], 'name': a.get_filename(), 'type': a.get_content_type(),
  'sha256': hashlib.sha256(a.get_content()).hexdigest(), 'text': m.get_body(('plain',)).get_content(), 'defects': len(m.defects)}))`;

test('over TLS with a password: each address gets it whole, and two other programs read out of it what was put in', async () => {
  const { proof } = trusting({});
  expect(proof).toMatchObject({
    receipt: expect.stringMatching(/^250 OK id=/),
    messageId: '<delivery-1@saltmarsh.example.org>',
    heard: [owner, insurer].map((address) => ({ address, state: 'accepted' })),
  });
  const mails = await arrived('delivery-1', 2);
  expect(mails).toHaveLength(2);
  const to = await Promise.all(mails.map(async (file) => (await simpleParser(readFileSync(file))).headers.get('envelope-to')));
  expect(to.sort()).toEqual([insurer, owner]);
  for (const file of mails) {
    const parsed = await simpleParser(readFileSync(file));
    expect(parsed.subject).toBe(cargo.subject);
    expect(parsed.text).toContain(message);
    expect(parsed.attachments.map((a) => [a.filename, a.contentType, a.content.equals(content)])).toEqual([['Größe & Maß.pdf', 'application/pdf', true]]); // prettier-ignore
    const read = JSON.parse(execFileSync('python3', ['-c', python, file]).toString()) as Record<string, unknown>;
    expect(read).toMatchObject({ subject: cargo.subject, to: `${owner}, ${insurer}`, id: '<delivery-1@saltmarsh.example.org>', name: 'Größe & Maß.pdf', type: 'application/pdf', sha256, defects: 0 }); // prettier-ignore
    expect(read.text).toContain(message);
  }
});

test('a wrong password, and a certificate that nobody vouches for: refused, and nothing is handed over', async () => {
  expect(trusting({ id: 'wrong' }, { password: 'another' }).error).toMatchObject({ code: 'refused', again: false });
  const handing = jest.fn(async () => {});
  const distrusting = mailCarrier({ ...place, port, username: 'office', password: 'slip/two' });
  expect(await failed(distrusting.carry({ ...cargo, id: 'distrust' }, { ...attempt, handing }))).toMatchObject({ code: 'not-trusted', again: false }); // prettier-ignore
  expect(handing).not.toHaveBeenCalled();
});

test('one address that is not there, one not just now: the third has it, and each is told as Exim says it', async () => {
  const [gone, later] = ['gone@saltmarsh.example.org', 'later@saltmarsh.example.org'];
  const { error } = trusting({ id: 'delivery-2', to: [gone, later, owner] });
  expect(error).toMatchObject({ code: 'address-refused', again: true });
  expect(error!.more.heard).toEqual([
    { address: gone, state: 'refused', reply: expect.stringMatching(/^550.*no such mailbox/) },
    { address: later, state: 'open', reply: expect.stringMatching(/^451.*come back later/) },
    { address: owner, state: 'accepted', reply: expect.stringMatching(/^250 OK/) },
  ]);
  expect(await arrived('delivery-2', 1)).toHaveLength(1);
});

test('larger than the server takes: said before anything is sent', async () => {
  const large = path.join(root, 'large');
  writeFileSync(large, Buffer.alloc(limit));
  expect(trusting({ id: 'large', path: large, bytes: limit }).error).toMatchObject({ code: 'too-large', again: false });
  expect(await arrived('large', 0)).toEqual([]);
});
