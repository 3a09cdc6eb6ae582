import * as z from 'zod/mini';
import { sendDetailsSchema, type SendDetails } from './deliveries';

/** A place on a cover slip: what it is called there, and what it is told when something goes to it. */
const slipPlaceSchema = z.object({
  id: z.string().check(z.regex(/^[a-z0-9-]{1,40}$/)),
  name: z.string().check(z.maxLength(80)),
  details: z.optional(sendDetailsSchema),
});

/** Boxes that fit on a slip. */
export const mostSlipPlaces = 6;

/** What a cover slip says of the pages behind it, as its code carries it. */
export const slipSchema = z.object({
  libretto: z.literal('slip'),
  v: z.literal(1),
  id: z.string().check(z.regex(/^[A-Za-z0-9_-]{6,64}$/)),
  /** What the document is called; empty: as it would be without a slip. */
  name: z.string().check(z.maxLength(200)),
  places: z.array(slipPlaceSchema).check(z.maxLength(mostSlipPlaces)),
  /** Whether a place's box has to be ticked; else all of them are meant. */
  pen: z.boolean(),
});
export type Slip = z.infer<typeof slipSchema>;

/** Its fields always in one order, so that the same slip is the same text. */
export const writeSlip = (slip: Slip): string => JSON.stringify(slipSchema.parse(slip));

/** What a code says, if it is a slip's. */
export function parseSlip(code: string): Slip | null {
  if (!code.startsWith('{"libretto":"slip"')) return null;
  try {
    return slipSchema.parse(JSON.parse(code));
  } catch {
    return null;
  }
}

export type Tick = 'empty' | 'ticked' | 'unclear';

/** Where a slip says that its document goes, and where it may: the box is neither empty nor clearly ticked. */
export function meantBy(
  { places, pen }: Slip,
  ticks: readonly (Tick | undefined)[],
): Record<'sendsTo' | 'asks', Record<string, SendDetails>> {
  const of = (wanted: Tick) => Object.fromEntries(places.flatMap(({ id, details = {} }, i) => ((pen ? (ticks[i] ?? 'unclear') : 'ticked') === wanted ? [[id, details]] : []))); // prettier-ignore
  return { sendsTo: of('ticked'), asks: of('unclear') };
}

/** The sheet, mm from its top left corner: A5 (ISO 216), where its code lies with the quiet zone round it (ISO/IEC 18004), and its boxes. */
export const slipSheet = {
  widthMm: 148,
  heightMm: 210,
  code: { x: 98, y: 12, side: 38 },
  box: { x: 14, side: 9 },
  boxY: (i: number) => 118 + 13.5 * i,
} as const;
