/** A page size in millimetres, upright: width ≤ height. */
export interface NamedSize {
  id: SizeId;
  label: string;
  widthMm: number;
  heightMm: number;
}

export type SizeId = 'a3' | 'a4' | 'a5' | 'a6' | 'letter' | 'legal' | 'id1' | 'card-eu' | 'card-us';

/** ISO 216 (A series), ANSI/ASME Y14.1 and US common practice (Letter, Legal), ISO/IEC 7810 (ID-1), business cards by common practice. */
export const namedSizes: readonly NamedSize[] = [
  { id: 'a4', label: 'A4', widthMm: 210, heightMm: 297 },
  { id: 'a5', label: 'A5', widthMm: 148, heightMm: 210 },
  { id: 'a6', label: 'A6', widthMm: 105, heightMm: 148 },
  { id: 'a3', label: 'A3', widthMm: 297, heightMm: 420 },
  { id: 'letter', label: 'Letter', widthMm: 215.9, heightMm: 279.4 },
  { id: 'legal', label: 'Legal', widthMm: 215.9, heightMm: 355.6 },
  { id: 'id1', label: 'Card', widthMm: 85.6, heightMm: 53.98 },
  { id: 'card-eu', label: 'Business card', widthMm: 85, heightMm: 55 },
  { id: 'card-us', label: 'US business card', widthMm: 88.9, heightMm: 50.8 },
];

/** The named size that a page measured in millimetres has, either way up, within 1.5 mm; null where there is none. */
export function nameOfSize(widthMm: number, heightMm: number): SizeId | null {
  const [short, long] = [Math.min(widthMm, heightMm), Math.max(widthMm, heightMm)];
  const near = (a: number, b: number) => Math.abs(a - b) <= 1.5;
  return (
    namedSizes.find((s) => near(Math.min(s.widthMm, s.heightMm), short) && near(Math.max(s.widthMm, s.heightMm), long))?.id ??
    null
  );
}

export interface PageSize {
  widthMm: number;
  heightMm: number;
  /** Named when the proportions fit one, else null: a free size. */
  name: SizeId | null;
}

/** Till rolls are 80 or 57 mm wide (common practice); one view gives no scale, so the wider is assumed. */
const rollWidthMm = 80;

/**
 * The page's size from its true proportions. One view holds no scale, so among sizes of like proportions the commonest is taken, and free
 * sizes fit inside an A4 sheet.
 *
 * @param ratio true width / height.
 * @param alone whether the photo holds this page only; several in one photo are rather cards than legal-size forms.
 */
export function pageSize(ratio: number, alone: boolean): PageSize {
  if (!(ratio > 0) || !Number.isFinite(ratio)) throw new RangeError(`A page's proportions must be positive, received ${ratio}`);
  const tall = ratio <= 1;
  const long = tall ? 1 / ratio : ratio;
  const turned = (short: number, longMm: number, name: SizeId | null): PageSize =>
    tall ? { widthMm: short, heightMm: longMm, name } : { widthMm: longMm, heightMm: short, name };
  const order: SizeId[] = alone ? ['a4', 'letter', 'legal'] : ['card-eu', 'id1', 'card-us', 'a4'];
  let best: NamedSize | null = null;
  let least = 0.03;
  for (const id of order) {
    const size = namedSizes.find((s) => s.id === id)!;
    const its = Math.max(size.widthMm, size.heightMm) / Math.min(size.widthMm, size.heightMm);
    const off = Math.abs(Math.log(long / its));
    if (off < least) {
      best = size;
      least = off;
    }
  }
  if (best) return turned(Math.min(best.widthMm, best.heightMm), Math.max(best.widthMm, best.heightMm), best.id);
  if (alone && long > 2.2) return turned(rollWidthMm, Math.round(rollWidthMm * long), null);
  // Free: as large as fits within A4.
  const short = Math.min(210, 297 / long);
  return turned(round1(short), round1(short * long), null);
}

const round1 = (v: number) => Math.round(v * 10) / 10;
