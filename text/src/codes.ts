import { prepareZXingModule, readBarcodes, type ReadInputBarcodeFormat } from 'zxing-wasm/reader';
import type { Raster } from '@libretto/core';
import { around, type Rect } from './words';

/** A machine-readable code on a page. */
export interface Code {
  /** Its symbology, as its standard calls it: `QR Code`, `EAN-13`, … */
  kind: string;
  text: string;
  box: Rect;
}

const kinds = {
  QRCode: 'QR Code', MicroQRCode: 'Micro QR Code', DataMatrix: 'Data Matrix', Aztec: 'Aztec Code', PDF417: 'PDF417', EAN13: 'EAN-13', EAN8: 'EAN-8', UPCA: 'UPC-A', UPCE: 'UPC-E', Code128: 'Code 128', Code39: 'Code 39', ITF: 'ITF',
} as const; // prettier-ignore
/** Beyond it a code is not read better, only more slowly, px. */
const mostEdge = 2400;

/** @param wasm the reader's program, or where it lies; else as its package has it. Once, before anything is read. */
export function prepareCodes(wasm: { binary: ArrayBuffer } | { url: string }): void {
  prepareZXingModule({ overrides: 'binary' in wasm ? { wasmBinary: wasm.binary } : { locateFile: () => wasm.url } });
}

/**
 * The codes on a page: ISO/IEC 18004 (QR), 16022 (Data Matrix), 24778 (Aztec), 15438 (PDF417), 15420 (EAN, UPC), 15417 (Code 128), 16388 (Code 39), 16390 (ITF), by zxing-cpp.
 *
 * @returns boxes in px of the page, from above.
 */
export async function codesIn(page: Raster): Promise<Code[]> {
  const step = Math.max(1, Math.max(page.width, page.height) / mostEdge);
  const [width, height] = [Math.floor(page.width / step), Math.floor(page.height / step)];
  const data = new Uint8ClampedArray(width * height * 4).fill(255);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++, p += 4) {
      const q = (Math.floor(y * step) * page.width + Math.floor(x * step)) * page.channels;
      const green = page.channels > 1 ? 1 : 0;
      data[p] = page.data[q]!;
      data[p + 1] = page.data[q + green]!;
      data[p + 2] = page.data[q + 2 * green]!;
    }
  const found = await readBarcodes({ data, width, height, colorSpace: 'srgb' } as Parameters<typeof readBarcodes>[0], { formats: Object.keys(kinds) as ReadInputBarcodeFormat[], tryHarder: true, maxNumberOfSymbols: 12 }); // prettier-ignore
  return found
    .filter((code) => code.isValid && code.text)
    .map((code) => {
      const { topLeft, topRight, bottomRight, bottomLeft } = code.position;
      const points = [topLeft, topRight, bottomRight, bottomLeft];
      const box = around(points.map(({ x, y }) => ({ x: x * step, y: y * step, width: 1, height: 1 })));
      return { kind: kinds[code.format as keyof typeof kinds] ?? code.format, text: code.text, box };
    })
    .sort((a, b) => a.box.y - b.box.y || a.box.x - b.box.x);
}
