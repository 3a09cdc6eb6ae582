import type { Mark, MarkColour } from '@libretto/model';

/** A signature as it was drawn once: strokes in its own box, which is 1 wide and `height` high; with the pen's pressure where there was one. */
export interface Signature {
  height: number;
  strokes: ([x: number, y: number] | [x: number, y: number, pressure: number])[][];
}

/** On this device only: it goes into no backup and no delivery but as strokes on a page. */
const key = 'libretto-signature';
/** The width of its strokes at a width of 45 mm, mm. */
const strokeMm = 0.9;

export function keptSignature(): Signature | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Signature | null;
    return kept && kept.height > 0 && Array.isArray(kept.strokes) && kept.strokes.length ? kept : null;
  } catch {
    return null;
  }
}
export function keepSignature(signature: Signature | null): void {
  if (signature) localStorage.setItem(key, JSON.stringify(signature));
  else localStorage.removeItem(key);
}

/** Strokes as they were drawn, px, in a box of their own; null where nothing was. */
export function signatureOf(strokes: Signature['strokes']): Signature | null {
  const points = strokes.flat();
  if (points.length < 2) return null;
  const [xs, ys] = [points.map(([x]) => x), points.map(([, y]) => y)];
  const [x0, y0] = [Math.min(...xs), Math.min(...ys)];
  const width = Math.max(...xs) - x0;
  if (width < 1) return null;
  const round = (v: number) => Math.round(v * 10_000) / 10_000;
  return {
    height: Math.max(0.02, round((Math.max(...ys) - y0) / width)),
    strokes: strokes.filter((s) => s.length).map((stroke) => stroke.map(([x, y, ...pressure]) => [round((x - x0) / width), round((y - y0) / width), ...pressure] as never)), // prettier-ignore
  };
}

/**
 * A signature as marks that belong together, its middle at a spot.
 *
 * @param spot in mm of the page; @param onPhoto from mm of the page to photo px; @param newId makes ids.
 */
export function signatureMarks(
  { strokes, height }: Signature,
  spot: readonly [number, number],
  { widthMm, colour }: { widthMm: number; colour: MarkColour },
  onPhoto: (mm: [number, number]) => [number, number],
  newId: () => string,
): Mark[] {
  const group = newId();
  return strokes.map((stroke): Mark => ({
    kind: 'ink',
    id: newId(),
    group,
    points: stroke.map(([x, y, pressure]) => {
      const at = onPhoto([spot[0] + (x - 0.5) * widthMm, spot[1] + (y - height / 2) * widthMm]);
      return pressure === undefined ? at : ([...at, pressure] as [number, number, number]);
    }),
    widthMm: Math.max(0.1, (strokeMm * widthMm) / 45),
    colour,
  }));
}

/** Whether two marks are one to whoever takes hold of them. */
export const belong = (a: Mark, b: Mark): boolean => a.id === b.id || ('group' in a && 'group' in b && a.group !== undefined && a.group === b.group); // prettier-ignore
