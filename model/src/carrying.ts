import * as z from 'zod/mini';
import { addressSchema, heardSchema, placeSchema, proofSchema } from './deliveries';

/** Most addresses of one mail. */
export const mostAddresses = 20;

/** Largest file that the server takes. */
export const uploadLimitBytes = 200_000_000;

/** What goes with a file to `PUT /api/deliveries/:id`, as JSON in the `x-delivery` header, percent-encoded. */
export const deliveryRequestSchema = z.object({
  placeId: placeSchema.shape.id,
  fileName: z.string().check(z.minLength(1), z.maxLength(255)),
  bytes: z.int().check(z.positive(), z.maximum(uploadLimitBytes)),
  sha256: z.string().check(z.regex(/^[0-9a-f]{64}$/)),
  subject: z.string().check(z.maxLength(200)),
  message: z.string().check(z.maxLength(2000)),
  /** Addresses of a mail; without any, those of the place. */
  to: z.optional(z.array(addressSchema).check(z.maxLength(mostAddresses))),
  cc: z.optional(z.array(addressSchema).check(z.maxLength(mostAddresses))),
  /** Folder within a place, "/" between its parts; without it, that of the place. */
  folder: z.optional(z.string().check(z.maxLength(500))),
  /** Somebody has looked and says that what was in doubt did not arrive: it may be sent again. */
  again: z.optional(z.boolean()),
});
export type DeliveryRequest = z.infer<typeof deliveryRequestSchema>;

const heard = z.optional(z.array(heardSchema));

/** What the server says of a delivery. */
export const deliveryAnswerSchema = z.discriminatedUnion('state', [
  /** The server has the file and carries it; what went wrong at the last attempt, and when the next one is. */
  z.object({
    state: z.literal('carrying'),
    attempts: z.int(),
    code: z.optional(z.string()),
    reason: z.optional(z.string()),
    nextAt: z.optional(z.string()),
    heard,
  }),
  z.object({ state: z.literal('arrived'), proof: proofSchema }),
  /** It was handed over, and no answer came: it may have arrived or not. Never sent again by itself. */
  z.object({ state: z.literal('doubt'), reason: z.string(), heard }),
  /** `again`: the server does not have it; worth sending again by itself, as after a network fault. */
  z.object({ state: z.literal('failed'), code: z.string(), reason: z.string(), again: z.boolean(), heard }),
]);
export type DeliveryAnswer = z.infer<typeof deliveryAnswerSchema>;

/** One event of `GET /api/deliveries/events?ids=…`: what has become of one of them. */
export const deliveryEventSchema = z.object({ id: z.string(), answer: deliveryAnswerSchema });
export type DeliveryEvent = z.infer<typeof deliveryEventSchema>;

export const placesAnswerSchema = z.object({
  places: z.array(placeSchema),
  /** Whether whoever asks may add, change and remove places. */
  mayChange: z.optional(z.boolean()),
});

/** What a form for a place holds. A password that is left out stays as it is; it never comes back from the server. */
const name = z.string().check(z.minLength(1), z.maxLength(80));
const host = z.string().check(z.regex(/^[A-Za-z0-9.-]{1,253}$|^\[[0-9a-fA-F:]+\]$/));
export const folderFormSchema = z.object({
  kind: z.literal('folder'),
  name,
  url: z.url({ protocol: /^https?$/ }),
  folder: z.string().check(z.maxLength(500)),
  username: z.string().check(z.maxLength(200)),
  password: z.optional(z.string().check(z.maxLength(500))),
});
export const bucketFormSchema = z.object({
  kind: z.literal('bucket'),
  name,
  url: z.url({ protocol: /^https?$/ }),
  bucket: z.string().check(z.regex(/^[a-z0-9][a-z0-9.-]{1,61}[a-z0-9]$/)),
  region: z.string().check(z.regex(/^[a-z0-9-]{1,40}$/)),
  folder: z.string().check(z.maxLength(500)),
  username: z.string().check(z.minLength(1), z.maxLength(200)),
  password: z.optional(z.string().check(z.maxLength(500))),
});
export const mailFormSchema = z.object({
  kind: z.literal('mail'),
  name,
  from: addressSchema,
  to: z.array(addressSchema).check(z.maxLength(mostAddresses)),
  host,
  port: z.int().check(z.minimum(1), z.maximum(65535)),
  secure: z.boolean(),
  username: z.string().check(z.maxLength(200)),
  password: z.optional(z.string().check(z.maxLength(500))),
  /** Largest mail in bytes. */
  limit: z.int().check(z.minimum(100_000), z.maximum(uploadLimitBytes)),
});
export const placeFormSchema = z.discriminatedUnion('kind', [folderFormSchema, bucketFormSchema, mailFormSchema]);
export type FolderForm = z.infer<typeof folderFormSchema>;
export type MailForm = z.infer<typeof mailFormSchema>;
export type PlaceForm = z.infer<typeof placeFormSchema>;

/** Steps of trying a place, in their order for each kind. */
export const trySteps = {
  folder: ['reached', 'written', 'readBack', 'cleared'],
  bucket: ['reached', 'written', 'readBack', 'cleared'],
  mail: ['reached', 'letIn', 'mailed'],
} as const;
export type TryStep = (typeof trySteps)[keyof typeof trySteps][number];

/** What came of trying one: the steps that went well, and what stopped it. */
export const tryAnswerSchema = z.object({ done: z.array(z.string()), failed: z.nullable(z.object({ reason: z.string() })) });
export type TryAnswer = z.infer<typeof tryAnswerSchema>;
