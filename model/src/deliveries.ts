import * as z from 'zod/mini';
import { count, id, instant, positiveCount, problemSchema } from './fields';
import { deliveryStates } from './lists';

/** A mail address as people type them; what a mail server makes of it, it says itself (RFC 5321, 4.1.2, without quoted local parts). */
export const addressSchema = z
  .string()
  .check(
    z.maxLength(254),
    z.regex(/^[^\s@<>()[\]\\,;:"\u0000-\u001f\u007f]{1,64}@[^\s@<>()[\]\\,;:"\u0000-\u001f\u007f]{1,189}$/),
  );

/** What a place wants to know beside a file: addresses, or which of its folders. */
export const sendDetailsSchema = z.object({
  to: z.optional(z.array(addressSchema)),
  cc: z.optional(z.array(addressSchema)),
  folder: z.optional(z.string().check(z.maxLength(500))),
});
export type SendDetails = z.infer<typeof sendDetailsSchema>;

/** Somewhere to send to. Addresses, passwords and servers stay in the server's configuration. */
export const placeSchema = z.object({
  v: z.literal(1),
  id: z.string().check(z.regex(/^[a-z0-9-]{1,40}$/)),
  kind: z.enum(['folder', 'bucket', 'mail']),
  name: z.string().check(z.minLength(1), z.maxLength(80)),
  /** Folder path, or how many addresses. */
  about: z.string().check(z.maxLength(200)),
  /** Largest file it takes, in bytes. */
  limit: positiveCount,
  /** Whether the place was added in the app and can be changed there. */
  own: z.optional(z.boolean()),
  /** Addresses are typed at sending: the place has none of its own. */
  typed: z.optional(z.boolean()),
});
export type Place = z.infer<typeof placeSchema>;

/** What a mail server has said of one address. */
export const heardSchema = z.object({
  address: z.string(),
  state: z.enum(['open', 'accepted', 'refused', 'doubt']),
  /** Its own words. */
  reply: z.string(),
});
export type Heard = z.infer<typeof heardSchema>;

export const proofSchema = z.object({
  /** Where it lies or who took it. */
  where: z.string(),
  at: instant,
  bytes: count,
  sha256: z.string().check(z.regex(/^[0-9a-f]{64}$/)),
  /** read-back: what lies there was read again and compared; accepted: the mail server took it over; said: somebody looked and said so. */
  how: z.enum(['read-back', 'accepted', 'said']),
  /** What the other side called it. */
  receipt: z.string(),
  /** SHA-256 of what was read back. */
  readSha256: z.optional(z.string()),
  /** Of a mail (RFC 5322, 3.6.4). */
  messageId: z.optional(z.string()),
  heard: z.optional(z.array(heardSchema)),
});
export type Proof = z.infer<typeof proofSchema>;

export const deliverySchema = z.object({
  v: z.literal(2),
  /** Made by the client: whatever is sent under one id is delivered once. */
  id,
  documentId: id,
  place: placeSchema,
  fileName: z.string().check(z.minLength(1), z.maxLength(255)),
  bytes: positiveCount,
  sha256: z.string().check(z.regex(/^[0-9a-f]{64}$/)),
  message: z.string().check(z.maxLength(2000)),
  /** Of a mail; without it, the file's name. */
  subject: z.optional(z.string().check(z.maxLength(200))),
  ...sendDetailsSchema.shape,
  /** What the mail server has said of each address so far. */
  heard: z.optional(z.array(heardSchema)),
  /** When it is tried next, if not at once. */
  nextAt: z.optional(instant),
  /** The shelf's folder that has sent it by itself. */
  byFolder: z.optional(z.string().check(z.maxLength(80))),
  /** A cover slip has sent it. */
  bySlip: z.optional(z.boolean()),
  /** Somebody says that what was in doubt has not arrived. */
  again: z.optional(z.boolean()),
  state: z.enum(deliveryStates),
  /** Why it failed or what it waits for. */
  reason: z.optional(problemSchema),
  attempts: count,
  createdAt: instant,
  proof: z.nullable(proofSchema),
});
export type Delivery = z.infer<typeof deliverySchema>;
