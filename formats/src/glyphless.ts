/**
 * A TrueType font without shapes: .notdef and one empty glyph, half an em wide. What is written in it is not seen, and can be searched and copied. Tables as
 * the OpenType specification 1.9 lays them out; a PDF needs these six (ISO 32000-1, 9.9).
 */
export function glyphlessFont(): Uint8Array {
  const u16 = (...values: number[]) => values.flatMap((v) => [(v >> 8) & 255, v & 255]);
  const u32 = (...values: number[]) => values.flatMap((v) => [(v >>> 24) & 255, (v >>> 16) & 255, (v >> 8) & 255, v & 255]);
  const advance = u16(glyph.width, 0);
  const tables: Record<string, number[]> = {
    glyf: u32(0),
    // Version, revision, checksum adjustment (below), magic, flags, units an em, created and modified, bounds, style, smallest size, direction, short offsets.
    head: [...u32(0x10000, 0x10000, 0, 0x5f0f3cf5), ...u16(0, 1000), ...u32(0, 0, 0, 0), ...u16(0, 0, 0, 0, 0, 8, 2, 0, 0)],
    hhea: [...u32(0x10000), ...u16(glyph.ascent, glyph.descent, 0, glyph.width, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 2)],
    hmtx: [...advance, ...advance],
    loca: u16(0, 0, 0),
    maxp: [...u32(0x10000), ...u16(2, 0, 0, 0, 0, 1, 0, 0, 0, 0, 0, 0, 0, 0)],
  };
  const names = Object.keys(tables);
  const bytes = [...u32(0x10000), ...u16(names.length, 64, 2, names.length * 16 - 64)];
  let offset = 12 + 16 * names.length;
  const body: number[] = [];
  for (const name of names) {
    const data = tables[name]!;
    const padded = [...data, ...new Array<number>((4 - (data.length % 4)) % 4).fill(0)];
    bytes.push(...[...name].map((c) => c.charCodeAt(0)), ...u32(sum(padded), offset, data.length));
    body.push(...padded);
    offset += padded.length;
  }
  const font = Uint8Array.from([...bytes, ...body]);
  const head = 12 + 16 * names.length + 4;
  new DataView(font.buffer).setUint32(head + 8, (0xb1b0afba - sum([...font])) >>> 0);
  return font;
}

/** Of the one glyph, in thousandths of its size. */
export const glyph = { width: 500, ascent: 800, descent: -200 } as const;

function sum(bytes: readonly number[]): number {
  let total = 0;
  for (let i = 0; i < bytes.length; i += 4) total = (total + (((bytes[i]! << 24) | (bytes[i + 1]! << 16) | (bytes[i + 2]! << 8) | bytes[i + 3]!) >>> 0)) >>> 0; // prettier-ignore
  return total;
}
