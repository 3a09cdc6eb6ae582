import * as z from 'zod/mini';

/** Parts that a name is built from: read off the first page, known of the document, or typed once for all. */
export const nameParts = ['date', 'sender', 'title', 'number', 'time', 'text'] as const;
export type NamePart = (typeof nameParts)[number];
/** What stands between them. */
export const nameSeparators = [' ', ', ', ' - ', '-', '_'] as const;

export const namePatternSchema = z.object({
  parts: z
    .array(z.object({ kind: z.enum(nameParts), text: z.optional(z.string().check(z.maxLength(60))) }))
    .check(z.maxLength(8)),
  separator: z.enum(nameSeparators),
});
export type NamePattern = z.infer<typeof namePatternSchema>;

export const firstNamePattern: NamePattern = { parts: [{ kind: 'date' }, { kind: 'title' }, { kind: 'number' }], separator: ' ' };

/** Who sends, by the line of their paper that says so. */
export const knownSenderSchema = z.object({
  sign: z.string().check(z.minLength(1), z.maxLength(200)),
  name: z.string().check(z.minLength(1), z.maxLength(80)),
});
export type KnownSender = z.infer<typeof knownSenderSchema>;
export const mostSenders = 300;

/** What is known of a document; what was not found on it is left out. */
export interface NameFacts {
  /** ISO 8601, `2026-11-19`. */
  date?: string | undefined;
  sender?: string | undefined;
  title?: string | undefined;
  number?: string | undefined;
  /** When it was scanned: its day stands in for a date that was not found. */
  at: Date;
}

/** A name by a pattern. A part that is missing goes, with its separator; '' where none is left. */
export function nameByPattern({ parts, separator }: NamePattern, { date, sender, title, number, at }: NameFacts): string {
  const two = (n: number) => String(n).padStart(2, '0');
  const of: Record<NamePart, (text?: string) => string | undefined> = {
    date: () => date ?? `${at.getFullYear()}-${two(at.getMonth() + 1)}-${two(at.getDate())}`,
    sender: () => sender,
    title: () => title,
    number: () => number,
    // No colon: no file system that people meet takes one.
    time: () => `${two(at.getHours())}.${two(at.getMinutes())}`,
    text: (text) => text,
  };
  return parts
    .flatMap(({ kind, text }) => of[kind](text)?.trim() || [])
    .join(separator)
    .slice(0, 200)
    .trim();
}
