import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { deliveryRequestSchema, heardSchema, proofSchema, type DeliveryAnswer, type DeliveryRequest } from '@libretto/model';

/**
 * received → carrying → handing → arrived | doubt | refused | cancelled.
 *
 * `handing` is written before the other side can take something over that cannot be taken back; who is found in it after a crash is in doubt.
 * Between attempts a delivery is `received` again. `open` on an address means that nothing was handed over for it.
 */
const states = ['received', 'carrying', 'handing', 'arrived', 'doubt', 'refused', 'cancelled'] as const;

export const entrySchema = z.object({
  v: z.literal(2),
  id: z.string(),
  request: z.object(deliveryRequestSchema.shape),
  /** Name of the file among those received; null once it is not needed any more. */
  file: z.string().nullable(),
  state: z.enum(states),
  attempts: z.int(),
  receivedAt: z.string(),
  changedAt: z.string(),
  /** When it is tried next. */
  nextAt: z.string().nullable(),
  reason: z.object({ code: z.string(), text: z.string() }).nullable(),
  heard: z.array(heardSchema),
  proof: z.nullable(proofSchema),
});
export type Entry = z.infer<typeof entrySchema>;

/** What version 1 noted: arrivals only. */
const arrivalSchema = z.object({ placeId: z.string(), sha256: z.string(), proof: proofSchema });

export function readEntry(id: string, json: unknown): Entry {
  const old = arrivalSchema.safeParse(json);
  if (!old.success) return entrySchema.parse(json);
  const { placeId, sha256, proof } = old.data;
  const request = { placeId, sha256, fileName: 'file', bytes: proof.bytes, subject: '', message: '' };
  return { ...received(id, request, null), state: 'arrived', proof, changedAt: proof.at };
}

export function received(id: string, request: DeliveryRequest, file: string | null, now = new Date()): Entry {
  const at = now.toISOString();
  return {
    v: 2, id, request, file, state: 'received', attempts: 0, receivedAt: at, changedAt: at, nextAt: null, reason: null, heard: [], proof: null,
  }; // prettier-ignore
}

export const isOpen = ({ state }: Entry) => state === 'received' || state === 'carrying' || state === 'handing';

/** What becomes of one that was found under way when its server had ended: handed over is in doubt, all else is tried again. */
export function afterCrash(entry: Entry): Entry {
  if (entry.state === 'carrying') return { ...entry, state: 'received' };
  if (entry.state !== 'handing') return entry;
  return inDoubt(entry, 'The server stopped while the mail server was taking it over');
}

export function inDoubt(entry: Entry, text: string): Entry {
  const heard = entry.heard.map((h) => (h.state === 'open' ? { ...h, state: 'doubt' as const, reply: text } : h));
  return { ...entry, state: 'doubt', heard, reason: { code: 'doubt', text }, nextAt: null };
}

/** Sent again by somebody who knows: what was refused or in doubt is open, what was accepted stays so. */
export function reopened(entry: Entry, request: DeliveryRequest, file: string): Entry {
  const heard = entry.heard.map((h) => (h.state === 'accepted' ? h : { ...h, state: 'open' as const, reply: '' }));
  return { ...received(entry.id, request, file), receivedAt: entry.receivedAt, heard };
}

/** Pauses between attempts, s; the last one repeats. */
const pauses = [3, 10, 30, 120, 300, 900];
/** After this it is given up, ms: as long as mail servers commonly try (RFC 5321, 4.5.4.1: four to five days; shorter here, as a person waits). */
const longestMs = 3 * 86_400_000;

/** The pause after a failed attempt, ms: longer each time, spread by a quarter so that many do not come back at once; at least what the other side asked for. Null: it is given up. */
export function pauseAfter({ attempts, receivedAt }: Entry, wishedMs = 0, now = Date.now()): number | null {
  if (now - Date.parse(receivedAt) > longestMs) return null;
  const ms = pauses[Math.min(attempts, pauses.length) - 1]! * 1000;
  return Math.max(Math.round(ms * (0.75 + randomInt(500) / 1000)), Math.min(wishedMs, 86_400_000));
}

/** What the app is told. */
export function answerOf(entry: Entry): DeliveryAnswer {
  const heard = entry.heard.length ? { heard: entry.heard } : {};
  const text = entry.reason?.text ?? '';
  switch (entry.state) {
    case 'arrived':
      return { state: 'arrived', proof: entry.proof! };
    case 'doubt':
      return { state: 'doubt', reason: text, ...heard };
    case 'refused':
    case 'cancelled':
      return { state: 'failed', code: entry.reason?.code ?? entry.state, reason: text, again: false, ...heard };
    default:
      return {
        state: 'carrying',
        attempts: entry.attempts,
        ...(entry.reason && { code: entry.reason.code, reason: text }),
        ...(entry.nextAt && { nextAt: entry.nextAt }),
        ...heard,
      };
  }
}
