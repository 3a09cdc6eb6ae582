import { DetailedError, Upload } from 'tus-js-client';

interface Going {
  /** What kept it from coming whole to the server; null: it has. */
  problem: Promise<{ code: string; said?: string } | 'unreachable' | null>;
  abort(): void;
}

/** What has come in one go stays, whatever becomes of the line, bytes: of more, buffers on the way would be lost. */
const goBytes = 256 * 1024;

/**
 * A file in as many goes as the line needs, by the tus protocol: under an id, at which the server says how far it has come.
 *
 * @param told the share of it that the server has or that is on its way.
 */
export function inGoes(
  id: string,
  file: Blob,
  { endpoint, stalledMs, told }: { endpoint: string; stalledMs: number; told: (share: number) => void },
): Going {
  let end = () => {};
  const problem: Going['problem'] = new Promise((resolve) => {
    let watch: ReturnType<typeof setTimeout>;
    const alive = () => {
      clearTimeout(watch);
      watch = setTimeout(() => end(), stalledMs);
    };
    const over = (what: Awaited<Going['problem']>) => {
      clearTimeout(watch);
      resolve(what);
    };
    const upload = new Upload(file, {
      endpoint,
      uploadUrl: `${endpoint}/${id}`,
      metadata: { delivery: id },
      chunkSize: goBytes,
      // When it is tried again is the outbox's affair, and where it was begun its id says.
      retryDelays: null,
      storeFingerprintForResuming: false,
      onProgress: (sent, total) => {
        alive();
        told(sent / Math.max(1, total));
      },
      onSuccess: () => over(null),
      onError: (error) => {
        const answer = error instanceof DetailedError ? error.originalResponse : null;
        const [status, said] = [answer?.getStatus(), answer?.getBody().trim()];
        if (!status) over('unreachable');
        else if (status === 401) over({ code: 'signed-out' });
        else if ((status === 503 || status === 507) && said) over({ code: 'server-busy', said });
        else over({ code: 'no-sense', said: String(status) });
      },
    });
    end = () => {
      void upload.abort();
      over({ code: 'stopped' });
    };
    alive();
    upload.start();
  });
  return { problem, abort: () => end() };
}
