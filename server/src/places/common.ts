import { z } from 'zod';

/** Name of the environment variable that holds the secret: secrets never stand in the file. */
const secret = z.string().regex(/^[A-Z][A-Z0-9_]*$/, 'names an environment variable in capitals');

/** What every kind of place has. */
export const common = {
  id: z.string().regex(/^[a-z0-9-]{1,40}$/),
  name: z.string().min(1).max(80),
  username: z.string().optional(),
  passwordEnv: secret.optional(),
  /** A password may go to this place without TLS. */
  insecure: z.boolean().optional(),
};

export const onThisMachine = (host: string) => /^(localhost|127\.\d+\.\d+\.\d+|\[?::1\]?)$/.test(host);

/** What is wrong with a place that would send a password unencrypted to another machine; null where nothing is. */
export function passwordInTheOpen(
  place: { username?: string; insecure?: boolean },
  host: string,
  encrypted: boolean,
): string | null {
  if (!place.username || encrypted || place.insecure || onThisMachine(host)) return null;
  return `would send a password to ${host} unencrypted; "insecure": true allows that`;
}
