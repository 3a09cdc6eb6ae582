import * as z from 'zod/mini';

// Zod would try whether it may compile code; a strict Content-Security-Policy says no, and Firefox reports that as an error.
z.config({ jitless: true });

export const id = z.string().check(z.regex(/^[A-Za-z0-9_-]{6,64}$/));
export const instant = z.iso.datetime();
export const count = z.int().check(z.nonnegative());
export const positiveCount = z.int().check(z.positive());

/** Why something did not work: a code, and what the other side said where there is no code of ours for it. */
export const problemSchema = z.object({
  code: z.string().check(z.minLength(1), z.maxLength(60)),
  said: z.optional(z.string().check(z.maxLength(2000))),
});
export type Problem = z.infer<typeof problemSchema>;
