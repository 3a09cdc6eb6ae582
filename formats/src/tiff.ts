import { zlibSync } from 'fflate';
import { bytesIn, type Part } from './parts';

/** 8-bit pixels, rows from the top; 1 grey, 3 RGB, 4 RGBA of which alpha is left out. */
export interface Pixels {
  width: number;
  height: number;
  channels: 1 | 3 | 4;
  data: Uint8Array | Uint8ClampedArray;
}

/** A page of a TIFF: two-level as Group 4, or grey and colour pixels. */
export type TiffPage = { widthMm: number; heightMm: number } & (
  { kind: 'group4'; width: number; height: number; bytes: Part } | { kind: 'pixels'; raster: Pixels }
);

type Field = [tag: number, type: 2 | 3 | 4 | 5, values: number[] | string];
const sizes = { 2: 1, 3: 2, 4: 4, 5: 8 } as const;

/**
 * A multi-page TIFF (Adobe, TIFF revision 6.0): two-level pages as CCITT Group 4 (ITU-T T.6), the others losslessly with Deflate and the horizontal
 * predictor (TIFF Technical Note 3, Adobe Photoshop TIFF Technical Notes). One strip a page.
 *
 * @param pages asked for one after the other: none is held once its strip is packed.
 * @param count how many there will be.
 */
export async function writeTiff(
  pages: AsyncIterable<TiffPage> | Iterable<TiffPage>,
  count: number,
  title: string,
): Promise<Part[]> {
  if (!count) throw new RangeError('A TIFF needs at least one page');
  const header = Uint8Array.from([0x49, 0x49, 42, 0, 0, 0, 0, 0]);
  const parts: Part[] = [header];
  let at = 8;
  const append = (part: Part): number => {
    const offset = at;
    parts.push(part);
    at += bytesIn(part);
    // Everything begins at an even place.
    if (at % 2) {
      parts.push(new Uint8Array(1));
      at++;
    }
    return offset;
  };
  let link = { part: header, place: 4 };
  let number = 0;
  for await (const page of pages) {
    const [width, height] = page.kind === 'group4' ? [page.width, page.height] : [page.raster.width, page.raster.height];
    const channels = page.kind === 'group4' ? 1 : page.raster.channels === 1 ? 1 : 3;
    // As a Blob it may lie outside of memory.
    const strip =
      page.kind === 'group4'
        ? page.bytes
        : new Blob([zlibSync(predicted(page.raster, channels), { level: 6 }) as Uint8Array<ArrayBuffer>]);
    const stripAt = append(strip);
    const dotsAcross = Math.round((width / page.widthMm) * 25.4 * 100);
    const dotsDown = Math.round((height / page.heightMm) * 25.4 * 100);
    const fields: Field[] = [
      // A page of several.
      [254, 4, [2]],
      [256, 4, [width]],
      [257, 4, [height]],
      [258, 3, page.kind === 'group4' ? [1] : new Array<number>(channels).fill(8)],
      [259, 3, [page.kind === 'group4' ? 4 : 8]],
      // Group 4: white is nought; grey: black is; colour: RGB.
      [262, 3, [page.kind === 'group4' ? 0 : channels === 1 ? 1 : 2]],
      ...(number ? [] : [[269, 2, `${title.replace(/[^\x20-\x7e]/g, '?')}\0`] as Field]),
      [273, 4, [stripAt]],
      [277, 3, [channels]],
      [278, 4, [height]],
      [279, 4, [bytesIn(strip)]],
      [282, 5, [dotsAcross, 100]],
      [283, 5, [dotsDown, 100]],
      [296, 3, [2]],
      [297, 3, [number, count]],
      [305, 2, 'Libretto\0'],
      ...(page.kind === 'group4' ? [] : [[317, 3, [2]] as Field]),
    ];
    const directory = new Uint8Array(2 + fields.length * 12 + 4);
    const view = new DataView(directory.buffer);
    view.setUint16(0, fields.length, true);
    fields.forEach(([tag, type, values], i) => {
      const p = 2 + i * 12;
      const list = typeof values === 'string' ? [...values].map((c) => c.charCodeAt(0)) : values;
      const count = type === 5 ? list.length / 2 : list.length;
      view.setUint16(p, tag, true);
      view.setUint16(p + 2, type, true);
      view.setUint32(p + 4, count, true);
      const bytes = packed(type, list);
      if (count * sizes[type] <= 4) directory.set(bytes, p + 8);
      else view.setUint32(p + 8, append(bytes), true);
    });
    const directoryAt = append(directory);
    new DataView(link.part.buffer, link.part.byteOffset).setUint32(link.place, directoryAt, true);
    link = { part: directory, place: directory.length - 4 };
    number++;
  }
  return parts;
}

function packed(type: Field[1], values: readonly number[]): Uint8Array {
  const wide = type === 2 ? 1 : type === 3 ? 2 : 4;
  const bytes = new Uint8Array(values.length * wide);
  const view = new DataView(bytes.buffer);
  values.forEach((v, i) =>
    wide === 1 ? view.setUint8(i, v) : wide === 2 ? view.setUint16(i * 2, v, true) : view.setUint32(i * 4, v, true),
  );
  return bytes;
}

/** Each sample less the one to its left: neighbours are alike, and small numbers pack well. */
function predicted({ width, height, channels, data }: Pixels, out: 1 | 3): Uint8Array {
  const bytes = new Uint8Array(width * height * out);
  for (let y = 0, q = 0; y < height; y++)
    for (let x = 0, p = y * width * channels; x < width; x++, p += channels)
      for (let k = 0; k < out; k++, q++) bytes[q] = data[p + k]! - (x ? data[p + k - channels]! : 0);
  return bytes;
}
