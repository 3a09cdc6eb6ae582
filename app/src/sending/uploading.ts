import { deliveryAnswerSchema, type Delivery, type DeliveryAnswer, type Problem } from '@libretto/model';
import { addressOf, headersOf } from './request';

export type Uploaded = DeliveryAnswer | { state: 'unsent'; problem: Problem };

export interface Upload {
  /** What the server says of it, or what kept it from being asked. */
  answer: Promise<Uploaded>;
  abort(): void;
}

/** An upload of which nothing moves for this long is broken off, ms. */
const stalledMs = 60_000;
/** A file of this size goes so that it can be gone on with where the line broke, bytes; a smaller one is quicker in one go. */
const inGoesFrom = 500_000;
const uploadsAt = '/api/uploads';

const unsent = (code: string, values: { said?: string } = {}): Uploaded => ({ state: 'unsent', problem: { code, ...values } });
const unreachable = () => unsent(navigator.onLine ? 'unreachable' : 'offline');

/** Brings a delivery's file to the server. @param told the share of it that has gone out. */
export function upload(delivery: Delivery, file: Blob, told: (share: number) => void): Upload {
  let end = () => {};
  let ended = false;
  const answer = (async (): Promise<Uploaded> => {
    if (file.size >= inGoesFrom) {
      // Where the script does not come the file would not go either.
      const loaded = await import('./inGoes').catch(() => null);
      if (!loaded) return unreachable();
      const going = loaded.inGoes(delivery.id, file, { endpoint: uploadsAt, stalledMs, told });
      end = going.abort;
      if (ended) end();
      const problem = await going.problem;
      if (problem === 'unreachable') return unreachable();
      if (problem) return unsent(problem.code, problem.said === undefined ? {} : { said: problem.said });
    }
    const request = oneGo(delivery, file.size >= inGoesFrom ? null : file, told);
    end = request.abort;
    if (ended) end();
    return request.answer;
  })();
  return {
    answer,
    abort: () => {
      ended = true;
      end();
    },
  };
}

/** The announcement with the file, or without it where the server has it by now. */
function oneGo(delivery: Delivery, file: Blob | null, told: (share: number) => void): Upload {
  const xhr = new XMLHttpRequest();
  const answer = new Promise<Uploaded>((resolve) => {
    let watch: ReturnType<typeof setTimeout>;
    const alive = () => {
      clearTimeout(watch);
      watch = setTimeout(() => xhr.abort(), stalledMs);
    };
    alive();
    xhr.onloadend = () => clearTimeout(watch);
    xhr.open('PUT', addressOf(delivery.id));
    for (const [name, value] of Object.entries(headersOf(delivery))) xhr.setRequestHeader(name, value);
    if (!file) xhr.setRequestHeader('x-uploaded', '1');
    else
      xhr.upload.onprogress = (event) => {
        alive();
        told(event.loaded / Math.max(1, event.total));
      };
    xhr.onload = () => {
      if (xhr.status === 401) return resolve(unsent('signed-out'));
      try {
        resolve(deliveryAnswerSchema.parse(JSON.parse(xhr.responseText)));
      } catch {
        resolve(unsent('no-sense', { said: String(xhr.status) }));
      }
    };
    xhr.onerror = () => resolve(unreachable());
    xhr.onabort = () => resolve(unsent('stopped'));
    xhr.send(file ?? '');
  });
  return { answer, abort: () => xhr.abort() };
}
