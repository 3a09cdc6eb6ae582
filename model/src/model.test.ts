import { recordVersions } from './migrations';
import { bytesInWords, fitsMail, mailBytes } from './sizes';
import { firstName, isSafeFileName, numberedName, safeFileName } from './names';
import { moved } from './order';
import { deliverySchema } from './deliveries';
import { lookingPage, pageSchema, recordSchemas, settingsSchema, firstSettings } from './records';

describe('file names', () => {
  test.each([
    ['2026-11-20 Hull survey Wren', '2026-11-20 Hull survey Wren.pdf'],
    ['Größe 1/2: "Mast"?', 'Größe 1-2- -Mast--.pdf'],
    ['../../etc/passwd', '-..-etc-passwd.pdf'],
    ['  .hidden.. ', 'hidden.pdf'],
    ['a\u0000b\r\nc', 'a b c.pdf'],
    ['invoice\u202efdp.exe', 'invoice fdp.exe.pdf'],
    ['', 'Untitled.pdf'],
    ['***', '---.pdf'],
    ['e\u0301te\u0301', 'été.pdf'],
  ])('%j becomes %j', (typed, file) => expect(safeFileName(typed, 'pdf')).toBe(file));

  // Microsoft, "Naming Files, Paths, and Namespaces": reserved device names, with any extension.
  test.each(['CON', 'nul', 'Com1', 'LPT9', 'aux.txt', 'prn '])('the device name %j is not used', (name) => {
    expect(safeFileName(name, 'pdf')).toMatch(/^_/);
  });

  test('long names are cut to whole characters within 255 bytes, with room for a number', () => {
    const long = safeFileName('⛵ Überführung '.repeat(40), 'pdf');
    expect(Buffer.byteLength(numberedName(long, 99))).toBeLessThanOrEqual(255);
    expect(long).not.toContain('\ufffd');
    expect(safeFileName('a'.repeat(400), 'pdf')).toHaveLength(184);
  });

  test('making a name safe twice changes nothing, whatever it was', () => {
    for (let i = 0; i < 500; i++) {
      const name = String.fromCharCode(...Array.from({ length: 1 + (i % 12) }, (_, k) => (i * 7919 + k * 104729) % 0x2fff));
      const once = safeFileName(name, 'pdf');
      expect(safeFileName(once.slice(0, -4), 'pdf')).toBe(once);
      expect(isSafeFileName(once)).toBe(true);
    }
  });

  test.each(['a/b.pdf', '..pdf', 'x.pdf ', 'nul.pdf', 'x', 'a\nb.pdf', 'x.p/f', '.pdf'])('%j is refused as it is', (name) =>
    expect(isSafeFileName(name)).toBe(false),
  );

  test('a taken name gets a number, a new document the date', () => {
    expect(numberedName('Docket.pdf', 1)).toBe('Docket.pdf');
    expect(numberedName('Docket.pdf', 3)).toBe('Docket (3).pdf');
    expect(firstName(new Date(2026, 10, 5, 9, 7))).toBe('2026-11-05 Scan 09.07');
  });
});

describe('order', () => {
  test.each([
    [0, 2, 'bca'],
    [2, 0, 'cab'],
    [1, 1, 'abc'],
    [0, 99, 'bca'],
    [5, 0, 'abc'],
  ])('from %i to %i', (from, to, result) => expect(moved([...'abc'], from, to).join('')).toBe(result));
});

describe('sizes', () => {
  test('a mail carries base64 in lines of 76 (RFC 2045, 6.8)', () => {
    for (const n of [1, 56, 57, 58, 1000, 123457]) {
      const lines = Buffer.alloc(n)
        .toString('base64')
        .match(/.{1,76}/g)!;
      expect(mailBytes(n)).toBe(lines.reduce((s, l) => s + l.length + 2, 0));
    }
    expect(fitsMail(14_000_000)).toBe(true);
    expect(fitsMail(15_000_000)).toBe(false);
  });

  test.each([
    [999, '999 bytes'],
    [311_200, '311 KB'],
    [999_600, '1.0 MB'],
    [2_140_000, '2.1 MB'],
    [26_400_000, '26 MB'],
  ])('%i bytes are %s', (bytes, words) => expect(bytesInWords(bytes)).toBe(words));
});

describe('records', () => {
  const page = lookingPage('page-1', 'document-1', 'photo-1');
  test('a page as stored is read; another version or a broken field is not', () => {
    expect(pageSchema.safeParse(page).success).toBe(true);
    expect(pageSchema.safeParse({ ...page, v: 1 }).success).toBe(false);
    expect(pageSchema.safeParse({ ...page, id: '../x' }).success).toBe(false);
    expect(
      pageSchema.safeParse({
        ...page,
        recipe: { v: 1, outline: { v: 1, quad: [[0, 0]], confidence: 1, source: 'hand' }, turn: 45, filter: 'auto' },
      }).success,
    ).toBe(false);
  });

  test('every kind of record carries a version', () => {
    for (const [kind, schema] of Object.entries(recordSchemas))
      expect(schema.shape.v.def.values[0]).toBe(recordVersions[kind as keyof typeof recordVersions]);
    expect(settingsSchema.parse(firstSettings)).toEqual(firstSettings);
  });

  test('a delivery needs the whole hash', () => {
    const hash = deliverySchema.shape.sha256;
    expect(hash.safeParse('ab'.repeat(32)).success).toBe(true);
    expect(hash.safeParse('AB'.repeat(32)).success).toBe(false);
  });
});
