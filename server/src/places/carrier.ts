import type { DeliveryRequest, Heard, Proof, TryAnswer } from '@libretto/model';

/** A file on its way: already on this machine, its size and hash checked. */
export interface Cargo extends DeliveryRequest {
  id: string;
  /** Where the file lies on this machine. */
  path: string;
  /** What was heard of addresses at earlier attempts. */
  heard: readonly Heard[];
}

/** One attempt, as its carrier sees it. */
export interface Attempt {
  /** Aborted when the time is over, when somebody cancels, or when the server stops. */
  signal: AbortSignal;
  /** Other than any other attempt's: part of names that it uses for the time being. */
  token: string;
  /**
   * To be called, and waited for, before the other side can take over what cannot be taken back: `heard` is what it has said of each address until then.
   *
   * @throws where this attempt must not go on.
   */
  handing(heard: readonly Heard[]): Promise<void>;
}

/** A kind of place's way with one of them. */
export interface Carrier {
  /** Resolves only when the other side has confirmed it; @throws CarryError, DoubtError. */
  carry(cargo: Cargo, attempt: Attempt): Promise<Proof>;
  /** Tries the place: writes, reads back, clears away. */
  attempt(signal: AbortSignal): Promise<TryAnswer>;
  /** Names of the folders in one, "/" between parts. */
  browse?(folder: string, signal: AbortSignal): Promise<string[]>;
  makeFolder?(folder: string, signal: AbortSignal): Promise<void>;
}

/** Why a delivery did not arrive, in words for the sender. */
export class CarryError extends Error {
  /**
   * @param again whether trying again later may help without anybody doing something.
   * @param more `heard`: what was said of each address; `waitMs`: how long the other side asked to be left alone.
   */
  constructor(
    readonly code: string,
    message: string,
    readonly again: boolean,
    readonly more: { heard?: readonly Heard[]; waitMs?: number } = {},
  ) {
    super(message);
  }
}

/** It was handed over and no answer came: nobody knows whether it has arrived. */
export class DoubtError extends Error {
  constructor(
    message: string,
    readonly heard: readonly Heard[],
  ) {
    super(message);
  }
}

const faults: Record<string, string> = {
  ECONNREFUSED: 'does not answer',
  ECONNRESET: 'broke off the connection',
  ENOTFOUND: 'cannot be found on the network',
  EAI_AGAIN: 'cannot be found on the network',
  EDNS: 'cannot be found on the network',
  ETIMEDOUT: 'took too long to answer',
  ESOCKET: 'broke off the connection',
  EPIPE: 'broke off the connection',
  ECONNECTION: 'does not answer',
  EHOSTUNREACH: 'cannot be reached',
  ENETUNREACH: 'cannot be reached',
  ERR_STREAM_PREMATURE_CLOSE: 'broke off the connection',
};

/** What is wrong with a certificate, by the codes of OpenSSL and of Node's check of names. */
const certificateFaults: Record<string, string> = {
  DEPTH_ZERO_SELF_SIGNED_CERT: 'nobody that this server knows vouches for it',
  SELF_SIGNED_CERT_IN_CHAIN: 'nobody that this server knows vouches for it',
  UNABLE_TO_GET_ISSUER_CERT: 'nobody that this server knows vouches for it',
  UNABLE_TO_GET_ISSUER_CERT_LOCALLY: 'nobody that this server knows vouches for it',
  UNABLE_TO_VERIFY_LEAF_SIGNATURE: 'nobody that this server knows vouches for it',
  CERT_HAS_EXPIRED: 'it has run out',
  CERT_NOT_YET_VALID: 'it is not valid yet',
  CERT_REVOKED: 'it was called back',
  ERR_TLS_CERT_ALTNAME_INVALID: 'it is for another address',
};

/** A network fault as a CarryError; null when the error is something else. */
export function networkFault(error: unknown, who: string): CarryError | null {
  if (error instanceof CarryError) return error;
  const { code, originalCode, cause, name, type } = error as { code?: string; originalCode?: string; cause?: { code?: string }; name?: string; type?: string }; // prettier-ignore
  const codes = [originalCode, code, cause?.code].filter((key) => key !== undefined);
  for (const key of codes)
    if (certificateFaults[key])
      return new CarryError('not-trusted', `${who} shows a certificate that cannot be trusted: ${certificateFaults[key]}. Nothing was sent to it.`, false); // prettier-ignore
  for (const key of codes) if (faults[key]) return new CarryError('unreachable', `${who} ${faults[key]}`, true);
  if (name === 'AbortError' || name === 'TimeoutError' || type === 'aborted')
    return new CarryError('timeout', `${who} took too long to answer`, true);
  return null;
}
