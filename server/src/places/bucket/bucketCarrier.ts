import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import http from 'node:http';
import https from 'node:https';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { AwsV4Signer } from 'aws4fetch';
import { XMLParser } from 'fast-xml-parser';
import { numberedName, type Proof, type TryAnswer } from '@libretto/model';
import { CarryError, networkFault, type Carrier } from '../carrier';
import { statusFault, waitOf } from '../httpFault';
import { addressWithin, lookupWithin, type Reach } from '../reach';
import { hashOf, watch } from '../watch';
import type { BucketConfig } from './bucketConfig';

const mostNames = 50;
/** Without a byte for this long an upload or a reading back is over, ms. */
const idleMs = 60_000;
const emptySha256 = createHash('sha256').update('').digest('hex');

/** An answer that is no success. */
class StatusError extends Error {
  constructor(
    readonly status: number,
    /** The store's own code of it. */
    readonly code: string,
    readonly waitMs: number | undefined,
  ) {
    super(`${status} ${code}`);
  }
}

interface Ask {
  query?: Record<string, string>;
  headers?: Record<string, string>;
  body?: { stream: Readable; bytes: number; sha256: string };
  signal: AbortSignal;
}

/**
 * A bucket of an S3-compatible store (Amazon S3 API, 2006-03-01; requests signed by Signature Version 4). An object appears whole or not at all, under its own name, and never in place
 * of another (`If-None-Match: *`, and a look before it where a store does not know that). It is read back and compared by SHA-256; one of the same name and content counts as delivered.
 */
export function bucketCarrier(place: BucketConfig, reach: Reach = { privately: true }): Carrier {
  const base = new URL(place.url.endsWith('/') ? place.url : `${place.url}/`);
  const { request } = base.protocol === 'https:' ? https : http;
  const lookup = lookupWithin(reach);
  const allowed = () => addressWithin(base.hostname, reach);

  async function ask(
    method: string,
    key: string,
    { query = {}, headers = {}, body, signal }: Ask,
  ): Promise<http.IncomingMessage> {
    const url = new URL(`${place.bucket}/${key.split('/').map(encoded).join('/')}`, base);
    for (const [name, value] of Object.entries(query)) url.searchParams.set(name, value);
    const signed = await new AwsV4Signer({
      method,
      url: url.href,
      accessKeyId: place.username ?? '',
      secretAccessKey: place.password ?? '',
      service: 's3',
      region: place.region,
      headers: { ...headers, 'x-amz-content-sha256': body?.sha256 ?? emptySha256 },
    }).sign();
    const idle = watch(signal, idleMs);
    try {
      const response = await new Promise<http.IncomingMessage>((resolve, reject) => {
        const out = request(signed.url, { method, lookup, signal: idle.signal, headers: { ...Object.fromEntries(signed.headers), 'content-length': body?.bytes ?? 0 } }, resolve); // prettier-ignore
        out.on('error', reject);
        if (!body) return out.end();
        body.stream.on('data', idle.alive);
        pipeline(body.stream, out).catch(reject);
      });
      const { statusCode: status = 0 } = response;
      if (status >= 200 && status < 300) return response;
      let text = '';
      for await (const part of response) if (text.length < 4000) text += String(part);
      throw new StatusError(status, /<Code>([^<]{1,80})<\/Code>/.exec(text)?.[1] ?? '', waitOf(response.headers['retry-after']));
    } catch (error) {
      // What stopped it, rather than that it was stopped.
      throw idle.signal.aborted ? (idle.signal.reason as Error) : error;
    } finally {
      idle.end();
      // Answered before all of it had gone: the rest stays here.
      body?.stream.destroy();
    }
  }

  /** Its size, or null where there is none of that name. */
  async function look(key: string, signal: AbortSignal): Promise<{ size: number; etag: string } | null> {
    try {
      const { headers } = await drained(await ask('HEAD', key, { signal }));
      return { size: Number(headers['content-length']), etag: headers.etag ?? '' };
    } catch (error) {
      if (error instanceof StatusError && error.status === 404 && error.code !== 'NoSuchBucket') return null;
      throw error;
    }
  }

  const hashThere = (key: string, outer: AbortSignal) => hashOf((signal) => ask('GET', key, { signal }), outer, idleMs);
  const remove = (key: string, signal: AbortSignal) => ask('DELETE', key, { signal }).then(drained);

  /** Whether the store puts on a condition; some say that they do not, others do not know it and say nothing. */
  let conditional = true;
  async function put(key: string, open: () => Readable, bytes: number, sha256: string, signal: AbortSignal): Promise<boolean> {
    try {
      const headers = { ...(conditional && { 'if-none-match': '*' }), 'content-type': 'application/octet-stream' };
      await drained(await ask('PUT', key, { headers, body: { stream: open(), bytes, sha256 }, signal }));
      return true;
    } catch (error) {
      if (!(error instanceof StatusError)) throw error;
      // The look before it is all that there is, then.
      if (conditional && error.status === 501) {
        conditional = false;
        return put(key, open, bytes, sha256, signal);
      }
      // Somebody else has taken the name meanwhile, or is about to.
      if (error.status === 412 || error.code === 'ConditionalRequestConflict') return false;
      throw error;
    }
  }

  return {
    async carry(cargo, { signal }) {
      const folder = partsOf(cargo.folder ?? place.folder);
      try {
        await allowed();
        for (let n = 1; n <= mostNames; n++) {
          const name = numberedName(cargo.fileName, n);
          const key = [...folder, name].join('/');
          let there = await look(key, signal);
          const written = !there && (await put(key, () => createReadStream(cargo.path), cargo.bytes, cargo.sha256, signal));
          // Taken by somebody meanwhile: perhaps by another attempt of this very delivery.
          if (!written) there ??= await look(key, signal);
          const read = written || there?.size === cargo.bytes ? await hashThere(key, signal) : '';
          if (read === cargo.sha256) return proof(name, folder, (there ?? (await look(key, signal)))?.etag ?? '');
          if (!written) continue;
          await remove(key, signal).catch(() => {});
          throw new CarryError(
            'differs',
            `What lies in ${place.name} is not what was sent. It was read back and compared.`,
            true,
          );
        }
        throw new CarryError('name-taken', `${place.name} holds ${mostNames} files of that name already. Give the document another name.`, false); // prettier-ignore
      } catch (error) {
        throw explain(error);
      }

      function proof(name: string, parts: readonly string[], etag: string): Proof {
        return { where: [place.name, ...parts, name].join(' / '), at: new Date().toISOString(), bytes: cargo.bytes, sha256: cargo.sha256, readSha256: cargo.sha256, how: 'read-back', receipt: etag }; // prettier-ignore
      }
    },

    async attempt(signal) {
      const done: string[] = [];
      const key = [...partsOf(place.folder), `.libretto-try-${process.pid}-${Date.now()}.txt`].join('/');
      const text = Buffer.from(`Libretto tried this place at ${new Date().toISOString()}\n`);
      const sha256 = createHash('sha256').update(text).digest('hex');
      try {
        await allowed();
        await drained(await ask('GET', '', { query: { 'list-type': '2', 'max-keys': '1' }, signal }));
        done.push('reached');
        await put(key, () => Readable.from([text]), text.length, sha256, signal);
        done.push('written');
        if ((await hashThere(key, signal)) !== sha256) throw new CarryError('differs', `What lies in ${place.name} is not what was sent. It was read back and compared.`, true); // prettier-ignore
        done.push('readBack');
        await remove(key, signal);
        done.push('cleared');
        return { done, failed: null } satisfies TryAnswer;
      } catch (error) {
        await remove(key, AbortSignal.timeout(5_000)).catch(() => {});
        const why = explain(error);
        return {
          done,
          failed: { reason: why instanceof CarryError ? why.message : 'The server has a fault of its own; see its log' },
        };
      }
    },

    async browse(folder, signal) {
      try {
        await allowed();
        const prefix = partsOf(folder).map((part) => `${part}/`).join(''); // prettier-ignore
        const response = await ask('GET', '', { query: { 'list-type': '2', delimiter: '/', prefix }, signal });
        let text = '';
        for await (const part of response) text += String(part);
        const parsed = new XMLParser({ isArray: (name) => name === 'CommonPrefixes', parseTagValue: false }).parse(text) as { ListBucketResult?: { CommonPrefixes?: { Prefix: string }[] } }; // prettier-ignore
        const prefixes = parsed.ListBucketResult?.CommonPrefixes ?? [];
        return prefixes.map(({ Prefix }) => Prefix.slice(prefix.length).replace(/\/$/, '')).filter((name) => name && !name.startsWith('.')).sort((a, b) => a.localeCompare(b)); // prettier-ignore
      } catch (error) {
        throw explain(error);
      }
    },

    // There are none by themselves: it is there with the first file in it.
    async makeFolder() {
      await allowed();
    },
  };

  function explain(error: unknown): Error {
    if (error instanceof CarryError) return error;
    const fault = networkFault(error, place.name);
    if (fault) return fault;
    if (!(error instanceof StatusError)) return error as Error;
    if (error.status >= 300 && error.status < 400)
      return new CarryError('moved', `${place.name} sends us to another address. Give the place the address that it has now.`, false); // prettier-ignore
    if (error.code === 'NoSuchBucket')
      return new CarryError('refused', `${place.name}: there is no bucket ${place.bucket}. Change its name under Places, or make it.`, false); // prettier-ignore
    if (error.code === 'SlowDown') return statusFault(429, place.name, error.waitMs);
    if (error.code === 'RequestTimeTooSkewed')
      return new CarryError('refused', `${place.name} finds that this server’s clock is wrong. Set it, then try again.`, true);
    return statusFault(error.status, place.name, error.waitMs);
  }
}

/** RFC 3986, as the signature has it: also what encodeURIComponent leaves. */
const encoded = (part: string) => encodeURIComponent(part).replace(/[!'()*]/g, (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`); // prettier-ignore
const partsOf = (folder: string) => folder.split('/').filter((part) => part && part !== '.' && part !== '..');

async function drained(response: http.IncomingMessage): Promise<http.IncomingMessage> {
  response.resume();
  if (!response.complete) await new Promise<void>((resolve, reject) => response.once('end', resolve).once('error', reject).once('close', resolve)); // prettier-ignore
  return response;
}
