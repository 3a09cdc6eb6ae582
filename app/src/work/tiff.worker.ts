import * as Comlink from 'comlink';
import * as UTIF from 'utif2';
import type { DrawnPage, PagesApi } from './pagedFile';

// Bundled by scripts/build-pdf.mjs; TIFF 6.0 (Adobe 1992) gives the tags.
const tag = { kind: 't254', bits: 't258', orientation: 't274', across: 't282', down: 't283', unit: 't296' };
/** Fewer dots an inch are what programs write who know of none. */
const leastDpi = 90;
const mostPixels = 60e6;

let file: ArrayBuffer = new ArrayBuffer(0);
let pages: UTIF.IFD[] = [];
/** A tag's first value; a rational is its two parts. */
function number(ifd: UTIF.IFD, name: string): number {
  const first: unknown = (ifd[name] as unknown[] | undefined)?.[0];
  return Array.isArray(first) ? Number(first[0]) / Number(first[1]) : Number(first ?? NaN);
}

const api: PagesApi = {
  async open(bytes) {
    try {
      file = bytes;
      // A small copy of a page is none of its own (NewSubfileType, bit 0).
      pages = UTIF.decode(file).filter((ifd) => ifd.t256 && ifd.t257 && !(number(ifd, tag.kind) & 1));
    } catch {
      pages = [];
    }
    return pages.length ? { pages: pages.length } : { problem: 'damaged' };
  },

  async page(n): Promise<DrawnPage> {
    const ifd = pages[n - 1]!;
    if (number(ifd, 't256') * number(ifd, 't257') > mostPixels) throw new Error('too large');
    UTIF.decodeImage(file, ifd);
    const { width, height } = ifd;
    const samples = UTIF.toRGBA8(ifd);
    if (!width || !height || samples.length !== 4 * width * height) throw new Error('damaged');
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d')!;
    context.putImageData(new ImageData(new Uint8ClampedArray(samples.buffer as ArrayBuffer, samples.byteOffset, samples.length), width, height), 0, 0); // prettier-ignore
    // Opaque, on white.
    context.globalCompositeOperation = 'destination-over';
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, height);
    delete (ifd as Partial<UTIF.IFD>).data;
    const type = number(ifd, tag.bits) === 1 ? 'image/png' : 'image/jpeg';
    const blob = await canvas.convertToBlob({ type, quality: 0.92 });
    const inch = number(ifd, tag.unit) === 3 ? 2.54 : 1;
    const [across, down] = [number(ifd, tag.across) * inch, number(ifd, tag.down) * inch];
    const turn = ({ 3: 180, 6: 90, 8: 270 } as const)[number(ifd, tag.orientation) as 3] ?? 0;
    const known = across >= leastDpi && down >= leastDpi && number(ifd, tag.unit) !== 1;
    return { blob, type, width, height, words: [], turn, paper: known ? { widthMm: (width / across) * 25.4, heightMm: (height / down) * 25.4 } : null }; // prettier-ignore
  },
};

Comlink.expose(api);
