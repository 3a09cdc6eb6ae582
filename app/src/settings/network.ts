import * as z from 'zod/mini';

const deviceSchema = z.object({ id: z.string(), name: z.string(), pairedAt: z.string(), seenAt: z.string(), own: z.boolean() });
export type Device = z.infer<typeof deviceSchema>;

/** How a phone comes in: not at all, or by an address, a code that is drawn, and a certificate that it is to trust. */
const answerSchema = z.union([
  z.object({
    open: z.literal(true),
    address: z.string(),
    link: z.string(),
    qr: z.string(),
    fingerprint: z.string(),
    ownAuthority: z.boolean(),
    devices: z.array(deviceSchema),
  }),
  z.object({ open: z.literal(false) }),
]);
export type Network = z.infer<typeof answerSchema>;

const longestMs = 10_000;

/** Asks the server, and for a new code with it. @throws when it does not answer. */
export async function askNetwork(): Promise<Network> {
  const answer = await fetch('/api/phone', { signal: AbortSignal.timeout(longestMs), cache: 'no-store' });
  if (!answer.ok) throw new Error(String(answer.status));
  return answerSchema.parse(await answer.json());
}

/** @throws when the server does not answer, or says no. */
export async function removeDevice(id: string): Promise<void> {
  const answer = await fetch(`/api/devices/${encodeURIComponent(id)}`, {
    method: 'DELETE',
    signal: AbortSignal.timeout(longestMs),
  });
  if (!answer.ok && answer.status !== 404) throw new Error(String(answer.status));
}
