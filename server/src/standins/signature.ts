import { createHash, createHmac, timingSafeEqual } from 'node:crypto';

/** What of a request Signature Version 4 looks at; names of headers in small letters. */
export interface SignedRequest {
  method: string;
  /** Path and query, as they came. */
  url: string;
  headers: Readonly<Record<string, string | undefined>>;
}

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex');
const hmac = (key: Buffer | string, text: string) => createHmac('sha256', key).update(text).digest();
const strict = (text: string) => encodeURIComponent(text).replace(/[!'()*]/g, (c) => `%${c.charCodeAt(0).toString(16).toUpperCase()}`); // prettier-ignore

/**
 * Whether a request was signed with a secret (AWS Signature Version 4, *Authenticating Requests: Using the Authorization Header*), by what its own headers say; the code of the store's answer where not.
 * Written for the stand-in, apart from what signs.
 */
export function signatureFault(
  { method, url, headers }: SignedRequest,
  accessKey: string,
  secret: string,
  now = new Date(),
): string | null {
  const parts = /^AWS4-HMAC-SHA256 Credential=([^/]+)\/(\d{8})\/([^/]+)\/s3\/aws4_request,\s*SignedHeaders=([^,]+),\s*Signature=([0-9a-f]{64})$/.exec(headers.authorization ?? ''); // prettier-ignore
  if (!parts) return 'AccessDenied';
  const [, key, day, region, signedHeaders, signature] = parts as unknown as string[];
  if (key !== accessKey) return 'InvalidAccessKeyId';
  const at = headers['x-amz-date'] ?? '';
  const time = Date.parse(at.replace(/^(\d{4})(\d\d)(\d\d)T(\d\d)(\d\d)(\d\d)Z$/, '$1-$2-$3T$4:$5:$6Z'));
  if (!at.startsWith(day!) || !(Math.abs(time - now.getTime()) < 15 * 60_000)) return 'RequestTimeTooSkewed';
  const [path, query = ''] = url.split('?');
  const canonicalQuery = [...new URLSearchParams(query)].map(([k, v]) => `${strict(k)}=${strict(v)}`).sort().join('&'); // prettier-ignore
  const names = signedHeaders!.split(';');
  if (!names.includes('host') || !names.includes('x-amz-content-sha256')) return 'AccessDenied';
  const canonical = [
    method,
    path!.split('/').map((part) => strict(decodeURIComponent(part))).join('/'),
    canonicalQuery,
    ...names.map((name) => `${name}:${(headers[name] ?? '').trim().replace(/\s+/g, ' ')}`),
    '',
    signedHeaders,
    headers['x-amz-content-sha256'],
  ].join('\n'); // prettier-ignore
  const scope = `${day}/${region}/s3/aws4_request`;
  const toSign = ['AWS4-HMAC-SHA256', at, scope, sha256(canonical)].join('\n');
  const signingKey = hmac(hmac(hmac(hmac(`AWS4${secret}`, day!), region!), 's3'), 'aws4_request');
  const expected = hmac(signingKey, toSign);
  return timingSafeEqual(expected, Buffer.from(signature!, 'hex')) ? null : 'SignatureDoesNotMatch';
}
