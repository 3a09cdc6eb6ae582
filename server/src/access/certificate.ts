// What @peculiar/x509 is built with wants it first.
import 'reflect-metadata';
import { createHash, webcrypto, X509Certificate as Parsed } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { mkdir } from 'node:fs/promises';
import { isIP } from 'node:net';
import { networkInterfaces, hostname } from 'node:os';
import path from 'node:path';
import {
  BasicConstraintsExtension,
  ExtendedKeyUsage,
  ExtendedKeyUsageExtension,
  KeyUsageFlags,
  KeyUsagesExtension,
  PemConverter,
  SubjectAlternativeNameExtension,
  SubjectKeyIdentifierExtension,
  AuthorityKeyIdentifierExtension,
  X509Certificate,
  X509CertificateGenerator,
  cryptoProvider,
} from '@peculiar/x509';
import { writePrivately } from './privately';

cryptoProvider.set(webcrypto as never);

/** What a TLS server needs, and what a phone can be told to trust. */
export interface Certificate {
  /** PEM. */
  cert: string;
  key: string;
  /** PEM of our own authority; null where the certificate is somebody's own. */
  authority: string | null;
  /** SHA-256 of what is to be trusted, `AB:CD:…`. */
  fingerprint: string;
  /** Whether a host name or address is one of the certificate's. */
  isFor(host: string): boolean;
  endsMs: number;
}

const algorithm = { name: 'ECDSA', namedCurve: 'P-256', hash: 'SHA-256' } as const;
const dayMs = 86_400_000;
/** An authority is trusted by hand: seldom. Phones refuse leaves of more than 825 days (Apple, support.apple.com/103769, from memory). */
const authorityDays = 3650;
const leafDays = 397;
/** A leaf is made anew when it has less than this to live. */
const renewDays = 30;

/** The names and addresses under which this machine may be called on its network. */
export function namesOfMachine(): string[] {
  const host = hostname().toLowerCase();
  const bare = host.replace(/\.local$/, '');
  const addresses = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .filter((a) => !a.internal && !a.address.startsWith('fe80:'))
    .map((a) => a.address);
  return [...new Set([bare, `${bare}.local`, host, 'localhost', '127.0.0.1', '::1', ...addresses])];
}

/** Somebody's own certificate and key, from PEM files. @throws what is wrong with them. */
export function ownCertificate(certFile: string, keyFile: string): Certificate {
  return describe(readFileSync(certFile, 'utf8'), readFileSync(keyFile, 'utf8'), null);
}

/**
 * The certificate for this machine's names, signed by an authority of its own; both are made when they are missing, kept in `folder` for their owner
 * only, and the leaf is made anew when it is about to end or names have come to the machine.
 */
export async function madeCertificate(folder: string, names: readonly string[], nowMs = Date.now()): Promise<Certificate> {
  await mkdir(folder, { recursive: true, mode: 0o700 });
  const files = {
    authority: path.join(folder, 'authority.crt'),
    authorityKey: path.join(folder, 'authority.key'),
    cert: path.join(folder, 'server.crt'),
    key: path.join(folder, 'server.key'),
  };
  const read = (file: string) => readFileSync(file, 'utf8');
  const isYoung = (pem: string, days: number) => Date.parse(new Parsed(pem).validTo) - nowMs > days * dayMs;
  if (
    ![files.authority, files.authorityKey].every((f) => existsSync(f)) ||
    !isYoung(read(files.authority), leafDays + renewDays)
  ) {
    const { cert, key } = await makeAuthority(nowMs);
    await writePrivately(files.authorityKey, key);
    await writePrivately(files.authority, cert);
  }
  const authority = read(files.authority);
  if ([files.cert, files.key].every((f) => existsSync(f))) {
    const known = describe(read(files.cert), read(files.key), authority);
    const signed = new Parsed(known.cert).verify(new Parsed(authority).publicKey);
    if (signed && isYoung(known.cert, renewDays) && names.every((name) => known.isFor(name))) return known;
  }
  const { cert, key } = await makeLeaf(authority, read(files.authorityKey), names, nowMs);
  await writePrivately(files.key, key);
  await writePrivately(files.cert, cert);
  return describe(cert, key, authority);
}

function describe(cert: string, key: string, authority: string | null): Certificate {
  const leaf = new Parsed(cert);
  return {
    cert,
    key,
    authority,
    fingerprint: createHash('sha256')
      .update(new Parsed(authority ?? cert).raw)
      .digest('hex')
      .toUpperCase()
      .replace(/..(?=.)/g, '$&:'),
    isFor: (host) => (isIP(host) ? leaf.checkIP(host) : leaf.checkHost(host)) !== undefined,
    endsMs: Date.parse(leaf.validTo),
  };
}

async function makeAuthority(nowMs: number): Promise<{ cert: string; key: string }> {
  const keys = (await webcrypto.subtle.generateKey(algorithm, true, ['sign', 'verify'])) as webcrypto.CryptoKeyPair;
  const cert = await X509CertificateGenerator.createSelfSigned({
    name: `CN=Libretto on ${hostname().replace(/[^\w.-]/g, '')}, O=Libretto local authority`,
    notBefore: new Date(nowMs - dayMs),
    notAfter: new Date(nowMs + authorityDays * dayMs),
    signingAlgorithm: algorithm,
    keys: keys as never,
    extensions: [
      new BasicConstraintsExtension(true, 0, true),
      new KeyUsagesExtension(KeyUsageFlags.keyCertSign | KeyUsageFlags.cRLSign, true),
      await SubjectKeyIdentifierExtension.create(keys.publicKey as never),
    ],
  });
  return { cert: cert.toString('pem'), key: await pemOf(keys.privateKey) };
}

async function makeLeaf(
  authorityPem: string,
  authorityKeyPem: string,
  names: readonly string[],
  nowMs: number,
): Promise<{ cert: string; key: string }> {
  const authority = new X509Certificate(authorityPem);
  const signingKey = await webcrypto.subtle.importKey('pkcs8', PemConverter.decodeFirst(authorityKeyPem), algorithm, false, [
    'sign',
  ]);
  const keys = (await webcrypto.subtle.generateKey(algorithm, true, ['sign', 'verify'])) as webcrypto.CryptoKeyPair;
  const cert = await X509CertificateGenerator.create({
    subject: 'CN=Libretto',
    issuer: authority.subject,
    notBefore: new Date(nowMs - dayMs),
    notAfter: new Date(nowMs + leafDays * dayMs),
    signingAlgorithm: algorithm,
    publicKey: keys.publicKey as never,
    signingKey: signingKey as never,
    extensions: [
      new BasicConstraintsExtension(false, undefined, true),
      new KeyUsagesExtension(KeyUsageFlags.digitalSignature, true),
      new ExtendedKeyUsageExtension([ExtendedKeyUsage.serverAuth]),
      new SubjectAlternativeNameExtension(
        names.map((value) => ({ type: isIP(value) ? ('ip' as const) : ('dns' as const), value })),
      ),
      await SubjectKeyIdentifierExtension.create(keys.publicKey as never),
      await AuthorityKeyIdentifierExtension.create(authority.publicKey),
    ],
  });
  return { cert: cert.toString('pem'), key: await pemOf(keys.privateKey) };
}

const pemOf = async (key: webcrypto.CryptoKey) =>
  PemConverter.encode(await webcrypto.subtle.exportKey('pkcs8', key), PemConverter.PrivateKeyTag);
