import * as z from 'zod/mini';
import { placeSchema, proofSchema } from './records';

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
});
export type DeliveryRequest = z.infer<typeof deliveryRequestSchema>;

export const deliveryAnswerSchema = z.discriminatedUnion('state', [
  z.object({ state: z.literal('arrived'), proof: proofSchema }),
  /** `again`: worth trying again by itself, as after a network fault. */
  z.object({ state: z.literal('failed'), code: z.string(), reason: z.string(), again: z.boolean() }),
]);
export type DeliveryAnswer = z.infer<typeof deliveryAnswerSchema>;

export const placesAnswerSchema = z.object({ places: z.array(placeSchema) });
