import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { packBits, type Bits } from './bits';
import { encodeGroup4 } from './ccitt';
import { jpegComponents, type PageImage } from './pageImage';
import { joined } from './parts';
import { writePdf } from './pdf';

const written = async (...args: Parameters<typeof writePdf>) => joined(await writePdf(...args));

const folder = mkdtempSync(path.join(tmpdir(), 'libretto-formats-'));

/** A one-strip TIFF 6.0 round a Group 4 stream, so that libtiff (in sharp) can decode it. */
function tiff(bits: Bits, stream: Uint8Array): Buffer {
  const entries: [number, number, number][] = [[256, 4, bits.width], [257, 4, bits.height], [258, 3, 1], [259, 3, 4], [262, 3, 0], [273, 4, 8], [277, 3, 1], [278, 4, bits.height], [279, 4, stream.length]]; // prettier-ignore
  const directory = 8 + stream.length + (stream.length & 1);
  const out = Buffer.alloc(directory + 2 + entries.length * 12 + 4);
  out.write('II*\0', 0, 'latin1');
  out.writeUInt32LE(directory, 4);
  out.set(stream, 8);
  out.writeUInt16LE(entries.length, directory);
  entries.forEach(([tag, type, value], i) => {
    const p = directory + 2 + i * 12;
    out.writeUInt16LE(tag, p);
    out.writeUInt16LE(type, p + 2);
    out.writeUInt32LE(1, p + 4);
    if (type === 3) out.writeUInt16LE(value, p + 8);
    else out.writeUInt32LE(value, p + 8);
  });
  return out;
}

const pictures: [string, number, number, (x: number, y: number) => boolean][] = [
  ['empty', 64, 20, () => false],
  ['all black', 33, 9, () => true],
  ['one pixel wide', 1, 40, (_x, y) => y % 3 === 0],
  ['stripes', 200, 50, (x) => x % 7 < 3],
  ['print', 700, 300, (x, y) => y % 20 < 9 && (x * 31 + y * 17) % 43 < 15],
  ['noise', 333, 77, (x, y) => ((x * 2654435761) ^ (y * 40503)) % 50 === 0],
  ['runs beyond 2560', 6000, 12, (x, y) => x > 100 + y * 50 && x < 5800 - y],
  ['diagonal', 300, 300, (x, y) => Math.abs(x - y) < 4],
];

describe('CCITT Group 4 (ITU-T T.6)', () => {
  test.each(pictures)('%s: libtiff decodes every pixel as it was', async (_name, width, height, black) => {
    const grey = {
      width,
      height,
      data: Uint8Array.from({ length: width * height }, (_, i) => (black(i % width, Math.floor(i / width)) ? 0 : 255)),
    };
    const bits = packBits(grey);
    const { data } = await sharp(tiff(bits, encodeGroup4(bits)))
      .toColourspace('b-w')
      .raw()
      .toBuffer({ resolveWithObject: true });
    let wrong = 0;
    for (let i = 0; i < grey.data.length; i++) if (data[i]! < 128 !== grey.data[i]! < 128) wrong++;
    expect(wrong).toBe(0);
  });

  test('lines are far smaller than their bits', () => {
    const [, width, height, black] = pictures[7]!;
    const bits = packBits({
      width,
      height,
      data: Uint8Array.from({ length: width * height }, (_, i) => (black(i % width, Math.floor(i / width)) ? 0 : 255)),
    });
    expect(encodeGroup4(bits).length).toBeLessThan(bits.data.length / 10);
  });
});

async function jpeg(width: number, height: number, grey: boolean): Promise<Uint8Array> {
  const picture = sharp({ create: { width, height, channels: 3, background: '#a33a1e' } });
  return new Uint8Array(await (grey ? picture.toColourspace('b-w') : picture).jpeg().toBuffer());
}

describe('PDF', () => {
  const file = path.join(folder, 'three.pdf');
  let first: Uint8Array;
  beforeAll(async () => {
    first = await jpeg(1240, 1754, false);
    const bits = packBits({
      width: 1000,
      height: 1414,
      data: Uint8Array.from({ length: 1414000 }, (_, i) => (i % 97 < 20 ? 0 : 255)),
    });
    const pages: PageImage[] = [
      { kind: 'jpeg', components: 3, bytes: first, width: 1240, height: 1754, widthMm: 210, heightMm: 297 },
      { kind: 'group4', bytes: encodeGroup4(bits), width: 1000, height: 1414, widthMm: 215.9, heightMm: 355.6 },
      { kind: 'jpeg', components: 1, bytes: await jpeg(640, 400, true), width: 640, height: 400, widthMm: 85, heightMm: 55 },
      { kind: 'jpeg', components: 3, bytes: first, width: 1240, height: 1754, widthMm: 210, heightMm: 297 },
    ];
    writeFileSync(
      file,
      await written(pages, {
        title: 'Überführung “Wren”',
        created: new Date('2026-11-20T09:00:00Z'),
        changed: new Date('2026-11-20T10:30:00Z'),
      }),
    );
  });

  test('qpdf finds nothing wrong', () => {
    expect(execFileSync('qpdf', ['--check', file]).toString()).toContain('No syntax or stream encoding errors found');
  });

  test('poppler reads title, dates and page sizes in mm', () => {
    const info = execFileSync('pdfinfo', ['-l', '9', '-isodates', file]).toString();
    expect(info).toMatch(/Title:\s+Überführung “Wren”/);
    expect(info).toMatch(/CreationDate:\s+2026-11-20T09:00:00/);
    expect(info).toMatch(/ModDate:\s+2026-11-20T10:30:00/);
    const sizes = [...info.matchAll(/Page\s+\d+ size:\s+([\d.]+) x ([\d.]+)/g)].map((m) =>
      [m[1], m[2]].map((pt) => (Number(pt) / 72) * 25.4),
    );
    const wanted = [[210, 297], [215.9, 355.6], [85, 55], [210, 297]]; // prettier-ignore
    expect(sizes).toHaveLength(4);
    sizes.forEach((size, i) => size.forEach((mm, k) => expect(Math.abs(mm - wanted[i]![k]!)).toBeLessThan(0.1)));
  });

  test('pictures lie in it once each, bilevel as CCITT at 1 bit, JPEGs byte for byte', () => {
    const list = execFileSync('pdfimages', ['-list', file]).toString().trim().split('\n').slice(2).map((l) => l.trim().split(/\s+/)); // prettier-ignore
    expect(list.map((l) => [l[5], l[7], l[8]])).toEqual([['rgb', '8', 'jpeg'], ['gray', '1', 'ccitt'], ['gray', '8', 'jpeg'], ['rgb', '8', 'jpeg']]); // prettier-ignore
    expect(list[0]![10]).toBe(list[3]![10]);
    execFileSync('pdfimages', ['-all', '-f', '1', '-l', '1', file, path.join(folder, 'out')]);
    expect(Buffer.compare(readFileSync(path.join(folder, 'out-000.jpg')), Buffer.from(first))).toBe(0);
  });

  test('the bilevel page is drawn black on white', async () => {
    execFileSync('pdftoppm', ['-r', '72', '-f', '2', '-l', '2', '-png', file, path.join(folder, 'drawn')]);
    const { channels } = await sharp(path.join(folder, 'drawn-2.png')).stats();
    // 20 of 97 pixels are ink.
    expect(Math.abs(channels[0]!.mean / 255 - 77 / 97)).toBeLessThan(0.03);
  });

  test('no page is no PDF', async () => {
    await expect(writePdf([], { title: 'x', created: new Date(), changed: new Date() })).rejects.toThrow('at least one page');
  });
});

// Encryption by ISO 32000-2, 7.6, as Debian's qpdf sees it.
test('a PDF with a password opens by it only, and shows nothing without', async () => {
  const bits: Bits = packBits({ width: 64, height: 64, data: new Uint8ClampedArray(4096).fill(255) });
  const words = { language: 'en', lines: [[{ text: 'Saltmarsh', x: 10, y: 10, width: 40, height: 6 }]] };
  const page: PageImage = { kind: 'group4', width: 64, height: 64, widthMm: 210, heightMm: 297, bytes: encodeGroup4(bits), words }; // prettier-ignore
  const meta = { title: 'Hull of the Wren', created: new Date(0), changed: new Date(0), password: 'oakum & tar' };
  const file = path.join(folder, 'locked.pdf');
  writeFileSync(file, await written([page], meta));
  const qpdf = (...args: string[]) => execFileSync('qpdf', [...args, file], { encoding: 'utf8', stdio: 'pipe' });
  expect(() => qpdf('--check')).toThrow(/invalid password/);
  expect(() => qpdf('--password=oakum', '--check')).toThrow(/invalid password/);
  expect(qpdf('--password=oakum & tar', '--check')).toMatch(/No syntax or stream encoding errors/);
  expect(qpdf('--password=oakum & tar', '--show-encryption')).toMatch(/AESv3/);
  expect(readFileSync(file).includes('Wren')).toBe(false);
  expect(execFileSync('pdftotext', ['-upw', 'oakum & tar', file, '-'], { encoding: 'utf8' })).toContain('Saltmarsh');
});

test('all pages on one paper: in the middle, never larger than they are, and their words with them, as poppler sees it', async () => {
  const bits = packBits({ width: 200, height: 100, data: new Uint8Array(200 * 100) });
  const words = { language: 'en', lines: [[{ text: 'Oakum', x: 10, y: 20, width: 30, height: 8 }]] };
  const sheet = (widthMm: number, heightMm: number): PageImage => ({ kind: 'group4', width: 200, height: 100, widthMm, heightMm, bytes: encodeGroup4(bits), words }); // prettier-ignore
  const file = path.join(folder, 'paper.pdf');
  // A card, a sheet as large as the paper, and one twice as wide.
  writeFileSync(file, await written([sheet(90, 50), sheet(297, 210), sheet(554, 277)], { title: 'Paper', created: new Date(0), changed: new Date(0), paper: { widthMm: 210, heightMm: 297 } })); // prettier-ignore
  execFileSync('qpdf', ['--check', file]);
  const boxes = execFileSync('pdftotext', ['-bbox', file, '-'], { encoding: 'utf8' });
  const mm = (attribute: string) => [...boxes.matchAll(new RegExp(`${attribute}="([\\d.]+)"`, 'g'))].map((m) => (Number(m[1]) / 72) * 25.4); // prettier-ignore
  expect([mm('width'), mm('height')].map((all) => all.map(Math.round))).toEqual([
    [297, 297, 297],
    [210, 210, 210],
  ]);
  const [left, right] = [mm('xMin'), mm('xMax')];
  // Scale 1, 1 and (297 − 20) / 554.
  for (const [i, at] of [(297 - 90) / 2 + 10, 10, (297 - 554 / 2) / 2 + 5].entries()) expect(Math.abs(left[i]! - at)).toBeLessThan(0.6); // prettier-ignore
  expect(right.map((v, i) => Math.round(v - left[i]!))).toEqual([30, 30, 15]);
  const drawn = path.join(folder, 'paper');
  execFileSync('pdftoppm', ['-r', '25.4', '-gray', '-png', file, drawn]);
  const { data, info } = await sharp(`${drawn}-3.png`).raw().toBuffer({ resolveWithObject: true });
  const black = (x: number, y: number) => data[(y * info.width + x) * info.channels]! < 128;
  expect([black(5, 105), black(14, 105), black(148, 40), black(148, 30)]).toEqual([false, true, true, false]);
});

test('the parts of a joined document stand in its outline, and in the labels of its pages, as Debian’s qpdf reads them', async () => {
  const bits = packBits({ width: 64, height: 64, data: new Uint8Array(64 * 64).fill(255) });
  const page: PageImage = { kind: 'group4', width: 64, height: 64, widthMm: 210, heightMm: 297, bytes: encodeGroup4(bits) };
  const file = path.join(folder, 'joined.pdf');
  const meta = { title: 'Hull survey', created: new Date(0), changed: new Date(0) };
  const read = async (...pages: PageImage[]) => {
    writeFileSync(file, await written(pages, meta));
    execFileSync('qpdf', ['--check', file]);
    return JSON.parse(
      execFileSync('qpdf', ['--json', '--json-key=outlines', '--json-key=pagelabels', file], { encoding: 'utf8' }),
    ) as {
      outlines: { title: string; destpageposfrom1: number; kids: unknown[] }[];
      pagelabels: { index: number; label: Record<string, unknown> }[];
    };
  };
  const { outlines, pagelabels } = await read(page, page, { ...page, begins: 'Übergabe 船' }, page, { ...page, begins: 'Timber docket' }); // prettier-ignore
  expect(outlines.map((o) => [o.title, o.destpageposfrom1])).toEqual([['Hull survey', 1], ['Übergabe 船', 3], ['Timber docket', 5]]); // prettier-ignore
  expect(pagelabels.map((l) => [l.index, l.label['/S'], l.label['/P']])).toEqual([[0, '/D', 'u:1-'], [2, '/D', 'u:2-'], [4, '/D', 'u:3-']]); // prettier-ignore
  expect(await read(page, page)).toMatchObject({ outlines: [], pagelabels: [] });
});

test('components of a JPEG are read from its frame, not taken for granted', async () => {
  expect(jpegComponents(await jpeg(8, 8, true))).toBe(1);
  expect(jpegComponents(await jpeg(8, 8, false))).toBe(3);
  expect(() => jpegComponents(new Uint8Array([0xff, 0xd8, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]))).toThrow('Not a JPEG');
});

test('a layered page is what lies under the ink with the ink’s colours over it, by poppler', async () => {
  // White paper with a black bar, in which a red one stands.
  const [width, height] = [400, 200];
  const data = new Uint8Array(width * height).fill(255);
  for (let y = 60; y < 140; y++) data.fill(0, y * width + 100, y * width + 300);
  const part = async (colours: readonly [string, string]) => {
    const half = await sharp({ create: { width: 25, height: 25, channels: 3, background: colours[1] } })
      .png()
      .toBuffer();
    const made = sharp({ create: { width: 50, height: 25, channels: 3, background: colours[0] } }).composite([{ input: half, left: 25, top: 0 }]); // prettier-ignore
    return { width: 50, height: 25, components: 3 as const, bytes: new Uint8Array(await made.jpeg({ quality: 95, chromaSubsampling: '4:4:4' }).toBuffer()) }; // prettier-ignore
  };
  const bits = packBits({ width, height, data });
  const page = { kind: 'layered' as const, width, height, maskWidth: width, maskHeight: height, widthMm: 100, heightMm: 50, bytes: encodeGroup4(bits), background: await part(['#ffffff', '#ffe9b0']), ink: await part(['#101010', '#c02020']) }; // prettier-ignore
  const dir = mkdtempSync(path.join(tmpdir(), 'libretto-layers-'));
  const file = path.join(dir, 'layers.pdf');
  writeFileSync(file, await written([page], { title: 'Layers', created: new Date(0), changed: new Date(0) }));
  execFileSync('pdftoppm', ['-r', '101.6', '-png', '-singlefile', file, path.join(dir, 'page')]);
  const { data: seen, info } = await sharp(path.join(dir, 'page.png')).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (x: number, y: number) => [...seen.subarray((y * info.width + x) * 3, (y * info.width + x) * 3 + 3)];
  const near = (x: number, y: number, colour: readonly number[]) =>
    expect(Math.max(...at(x, y).map((v, c) => Math.abs(v - colour[c]!)))).toBeLessThan(12);
  expect([info.width, info.height]).toEqual([width, height]);
  near(20, 20, [255, 255, 255]);
  near(380, 20, [255, 233, 176]);
  near(120, 100, [16, 16, 16]);
  near(280, 100, [192, 32, 32]);
  // Its edge is the mask's, to the dot.
  near(98, 100, [255, 255, 255]);
  near(102, 100, [16, 16, 16]);
});
