import type { DeliveryRequest, Proof } from '@libretto/model';

/** A file on its way: already on this machine, its size and hash checked. */
export interface Cargo extends DeliveryRequest {
  id: string;
  /** Where the file lies on this machine. */
  path: string;
}

/** Takes a cargo to one place. Resolves only when the other side has confirmed it. */
export interface Carrier {
  carry(cargo: Cargo, signal: AbortSignal): Promise<Proof>;
}

/** Why a delivery did not arrive, in words for the sender. */
export class CarryError extends Error {
  /** @param again whether trying again later may help without anybody doing something. */
  constructor(
    readonly code: string,
    message: string,
    readonly again: boolean,
  ) {
    super(message);
  }
}

const faults: Record<string, string> = {
  ECONNREFUSED: 'does not answer',
  ECONNRESET: 'broke off the connection',
  ENOTFOUND: 'cannot be found on the network',
  EAI_AGAIN: 'cannot be found on the network',
  ETIMEDOUT: 'took too long to answer',
  ESOCKET: 'broke off the connection',
  EPIPE: 'broke off the connection',
  ECONNECTION: 'does not answer',
};

/** A network fault as a CarryError; null when the error is something else. */
export function networkFault(error: unknown, who: string): CarryError | null {
  const { code, cause, name } = error as { code?: string; cause?: { code?: string }; name?: string };
  for (const key of [code, cause?.code])
    if (key && faults[key]) return new CarryError('unreachable', `${who} ${faults[key]}`, true);
  if (name === 'AbortError' || name === 'TimeoutError') return new CarryError('timeout', `${who} took too long to answer`, true);
  return null;
}
