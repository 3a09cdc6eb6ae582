import { CarryError } from './carrier';

/** What is asked for by `Retry-After` (RFC 9110, 10.2.3), ms. */
export function waitOf(said: string | null | undefined): number | undefined {
  if (!said) return undefined;
  const ms = /^\d+$/.test(said.trim()) ? Number(said) * 1000 : Date.parse(said) - Date.now();
  return ms > 0 ? ms : undefined;
}

/** Why a place that speaks HTTP did not take a file, by its status (RFC 9110, 15; RFC 4918, 11). */
export function statusFault(status: number, who: string, waitMs?: number): CarryError {
  const again = (code: string, words: string) => new CarryError(code, words, true, waitMs ? { waitMs } : {});
  switch (status) {
    case 401:
    case 403:
      return new CarryError('refused', `${who} refuses the user name and password that the server has for it. Change them under Places, or ask whoever runs the server.`, false); // prettier-ignore
    case 404:
    case 409:
      // After it was written it is a matter of time; a folder that is not there is made at the next attempt.
      return again('not-there', `${who} does not find what was just put there`);
    case 408:
      return again('timeout', `${who} took too long to answer`);
    case 413:
      return new CarryError('too-large', `${who} refuses a file of this size`, false);
    case 423:
      return again('locked', `${who} is locked by somebody just now`);
    case 425:
    case 429:
      return again('busy', `${who} asks to be left alone for a while`);
    case 507:
      return again('full', `${who} is full. Make room there; it is tried again by itself.`);
    default:
      return status >= 500
        ? again('server-fault', `${who} has a fault (${status})`)
        : new CarryError('refused', `${who} refused the file (${status})`, false);
  }
}
