import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { DOMParser } from '@xmldom/xmldom';
import sharp from 'sharp';
import { packBits } from './bits';
import { encodeGroup4 } from './ccitt';
import { joined } from './parts';
import { writePdf } from './pdf';
import { srgbProfile } from './srgb';

const written = async (...args: Parameters<typeof writePdf>) => joined(await writePdf(...args));

const folder = mkdtempSync(path.join(tmpdir(), 'libretto-archival-'));

test('Little CMS (in sharp) takes the profile for sRGB: colours go through it within one level', async () => {
  const file = path.join(folder, 'srgb.icc');
  writeFileSync(file, srgbProfile());
  const colours = Buffer.from([
    0, 0, 0, 255, 255, 255, 128, 128, 128, 200, 30, 40, 20, 180, 60, 30, 60, 220, 250, 240, 10, 12, 12, 12,
  ]);
  const raw = { raw: { width: 8, height: 1, channels: 3 as const } };
  const through = await sharp(colours, raw).withIccProfile(file).png().toBuffer();
  const there = await sharp(through, { ignoreIcc: true } as never)
    .raw()
    .toBuffer();
  const off = [...there].map((v, i) => Math.abs(v - colours[i]!));
  expect(Math.max(...off)).toBeLessThanOrEqual(1);
  expect((await sharp(through).metadata()).icc!.length).toBe(srgbProfile().length);
});

/** Our own check of the rules that files of ours could break; not a certificate. */
test('the rules of PDF/A-2b (ISO 19005-2, from memory; numbers are its clauses)', async () => {
  const jpeg = new Uint8Array(await sharp({ create: { width: 60, height: 80, channels: 3, background: '#a33' } }).jpeg().toBuffer()); // prettier-ignore
  const raster = {
    width: 40,
    height: 30,
    channels: 1 as const,
    data: new Uint8ClampedArray(1200).map((_, i) => (i % 7 ? 255 : 0)),
  };
  const sizes = { widthMm: 80, heightMm: 100 };
  const words = { language: 'de', lines: [[{ text: 'Größe', x: 8, y: 8, width: 20, height: 4 }]] };
  const bytes = await written(
    [
      { ...sizes, kind: 'jpeg', components: 3, width: 60, height: 80, bytes: jpeg, words },
      { ...sizes, kind: 'group4', width: 40, height: 30, bytes: encodeGroup4(packBits(raster)) },
    ],
    { title: 'Größe & <Maß>', created: new Date('2026-11-20T10:00:00.400Z'), changed: new Date('2026-11-21T10:00:00Z') },
  );
  const file = path.join(folder, 'a.pdf');
  writeFileSync(file, bytes);
  execFileSync('qpdf', ['--check', file]);
  // 6.1.2: the header, and a comment of four bytes beyond ASCII behind it.
  expect(Buffer.from(bytes.subarray(0, 7)).toString()).toBe('%PDF-1.');
  const second = bytes.subarray(bytes.indexOf(10) + 1);
  expect([second[0], ...second.subarray(1, 5)].every((v, i) => (i ? v > 127 : v === 37))).toBe(true);
  const plain = execFileSync('qpdf', ['--qdf', '--object-streams=disable', file, '-'], { encoding: 'latin1', maxBuffer: 1e8 });
  const raw = Buffer.from(bytes).toString('latin1');
  // 6.1.3: an identifier, no encryption, nothing behind the end.
  expect(plain).toMatch(/\/ID \[\s*<[0-9a-f]{32}>\s*<[0-9a-f]{32}>\s*\]/i);
  expect(plain).not.toContain('/Encrypt');
  expect(raw.trimEnd().endsWith('%%EOF')).toBe(true);
  // 6.1.7.2, 6.1.12: no LZW, no files from outside, no optional content.
  expect(plain).not.toMatch(/LZWDecode|\/FFilter|\/EmbeddedFiles|\/OCProperties/);
  // 6.2.3: one output intent with an RGB profile.
  expect(plain).toMatch(/\/OutputIntents \[/);
  expect(plain.match(/\/S \/GTS_PDFA1/g)).toHaveLength(1);
  expect(plain).toMatch(/\/N 3/);
  // 6.2.4.3: device colours of the intent's kind, or grey.
  expect([...new Set(plain.match(/\/ColorSpace \/\w+/g))].sort()).toEqual(['/ColorSpace /DeviceGray', '/ColorSpace /DeviceRGB']);
  // 6.2.8: no interpolation, no alternates.
  expect(plain).not.toMatch(/\/Interpolate true|\/Alternates|\/OPI/);
  // 6.2.11.4: every font is embedded, with a mapping of its own glyphs.
  expect(plain.match(/\/Type \/Font\b/g)!.length).toBeGreaterThan(0);
  expect(plain.match(/\/FontFile2/g)).toHaveLength(plain.match(/\/Type \/FontDescriptor/g)!.length);
  expect(plain).toMatch(/\/CIDToGIDMap \d+ 0 R/);
  // 6.5, 6.6: no actions, no scripts, no transparency groups of another kind.
  expect(plain).not.toMatch(/\/JavaScript|\/OpenAction|\/AA\b|\/Launch/);
  // 6.6.2.1: metadata lie open, as UTF-8, and are XML.
  const start = raw.indexOf('<?xpacket begin="\u00ef\u00bb\u00bf"');
  expect(start).toBeGreaterThan(0);
  const packet = Buffer.from(raw.slice(start, raw.indexOf('<?xpacket end', start)), 'latin1').toString('utf8');
  const faults: string[] = [];
  const note = (fault: string) => void faults.push(fault);
  const xmp = new DOMParser({ errorHandler: { warning: note, error: note, fatalError: note } }).parseFromString(packet.slice(packet.indexOf('<x:')), 'text/xml'); // prettier-ignore
  expect(faults).toEqual([]);
  const attribute = (name: string) => [...Array.from(xmp.getElementsByTagName('rdf:Description'))].flatMap((d) => d.getAttribute(name) || [])[0]; // prettier-ignore
  // 6.6.4: part and conformance; 6.6.3: the same as in the information dictionary.
  expect([attribute('pdfaid:part'), attribute('pdfaid:conformance')]).toEqual(['2', 'B']);
  expect(xmp.getElementsByTagName('rdf:li')[0]!.textContent).toBe('Größe & <Maß>');
  expect([attribute('xmp:CreateDate'), attribute('xmp:ModifyDate')]).toEqual(['2026-11-20T10:00:00Z', '2026-11-21T10:00:00Z']);
  const info = execFileSync('pdfinfo', ['-rawdates', file], { encoding: 'utf8' });
  expect(info).toMatch(/Title:\s+Größe & <Maß>/);
  expect(info).toMatch(/CreationDate:\s+D:20261120100000Z/);
  expect(info).toMatch(/ModDate:\s+D:20261121100000Z/);
  expect([attribute('pdf:Producer'), attribute('xmp:CreatorTool')]).toEqual(['Libretto', 'Libretto']);
});
