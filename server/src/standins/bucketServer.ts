import { createHash } from 'node:crypto';
import http from 'node:http';
import { signatureFault } from './signature';

export interface BucketOptions {
  bucket: string;
  accessKey: string;
  secret: string;
  /** What goes wrong, for tests: a status for a method, or bytes that change on their way. */
  fault?: (method: string, key: string) => { status: number; code?: string; retryAfter?: string } | 'lies' | null;
  /** Whether `If-None-Match` is known; older stores do not know it. */
  conditional?: boolean;
}

/** A small S3-compatible store in memory (Amazon S3 API, 2006-03-01: objects and ListObjectsV2), which checks signatures and digests. */
export function bucketServer({ bucket, accessKey, secret, fault, conditional = true }: BucketOptions) {
  const objects = new Map<string, Buffer>();
  const server = http.createServer((request, response) => {
    const parts: Buffer[] = [];
    request.on('data', (part: Buffer) => parts.push(part));
    request.on('end', () => {
      const { method = '', url = '' } = request;
      const body = Buffer.concat(parts);
      const [path = '', query = ''] = url.split('?');
      const [, name, ...rest] = path.split('/').map(decodeURIComponent);
      const key = rest.join('/');
      const refuse = (status: number, code: string, headers: Record<string, string> = {}) => {
        response.writeHead(status, { 'content-type': 'application/xml', ...headers });
        response.end(method === 'HEAD' ? undefined : `<?xml version="1.0"?><Error><Code>${code}</Code></Error>`);
      };
      const wrong = signatureFault({ method, url, headers: request.headers as Record<string, string> }, accessKey, secret);
      if (wrong) return refuse(403, wrong);
      if (name !== bucket) return refuse(404, 'NoSuchBucket');
      const given = fault?.(method, key);
      if (given && given !== 'lies') return refuse(given.status, given.code ?? 'Fault', given.retryAfter ? { 'retry-after': given.retryAfter } : {}); // prettier-ignore
      const there = objects.get(key);
      switch (method) {
        case 'PUT':
          if (createHash('sha256').update(body).digest('hex') !== request.headers['x-amz-content-sha256']) return refuse(400, 'XAmzContentSHA256Mismatch'); // prettier-ignore
          if (conditional && request.headers['if-none-match'] === '*' && there) return refuse(412, 'PreconditionFailed');
          objects.set(key, given === 'lies' ? Buffer.from(body.map((v) => v ^ 1)) : body);
          return response.writeHead(200).end();
        case 'DELETE':
          objects.delete(key);
          return response.writeHead(204).end();
        case 'GET':
        case 'HEAD': {
          if (!key) {
            const asked = new URLSearchParams(query);
            const prefix = asked.get('prefix') ?? '';
            const below = [...objects.keys()].filter((k) => k.startsWith(prefix)).map((k) => k.slice(prefix.length));
            const folders = [...new Set(below.filter((k) => k.includes('/')).map((k) => k.slice(0, k.indexOf('/') + 1)))];
            const xml = folders.map((f) =>
              `<CommonPrefixes><Prefix>${prefix}${f}</Prefix></CommonPrefixes>`.replace(/&/g, '&amp;'),
            );
            return response.writeHead(200, { 'content-type': 'application/xml' }).end(`<?xml version="1.0"?><ListBucketResult>${xml.join('')}</ListBucketResult>`); // prettier-ignore
          }
          if (!there) return refuse(404, 'NoSuchKey');
          response.writeHead(200, { 'content-length': there.length, etag: `"${createHash('md5').update(there).digest('hex')}"` });
          return response.end(method === 'HEAD' ? undefined : there);
        }
        default:
          return refuse(405, 'MethodNotAllowed');
      }
    });
  });
  return { server, objects };
}
