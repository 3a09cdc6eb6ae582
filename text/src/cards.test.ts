import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import ICAL from 'ical.js';
import { create } from 'qrcode';
import { createRaster } from '@libretto/core';
import { writeVcard } from '@libretto/formats/vcard';
import { contactOf, isCard } from './cards';
import { codeMeaning } from './codeMeaning';
import { codesIn, prepareCodes } from './codes';
import type { Word } from './words';

/** A card's lines, each so high, mm. */
const card = (...lines: [text: string, tall?: number][]) =>
  lines.map(([text, tall = 2.5], i) => ({
    words: text.split(' ').map((word, k): Word => ({ text: word, box: { x: 10 * k, y: 6 * i, width: 9, height: tall }, confidence: 0.98 })), // prettier-ignore
  }));
const fields = (lines: ReturnType<typeof card>, country: 'GB' | 'DE' | 'US' = 'GB') =>
  contactOf(lines, country).map(({ field, value }) => `${field}: ${value}`);

test('who, where and how: by the mail’s two halves, though the firm is set larger', () => {
  expect(
    fields(
      card(['Marram & Pole', 5], ['Ines Fenwick-Rao', 3], ['Sales manager'], ['Staithe Road 4, Saltmarsh'], ['tel +44 1632 960142'], ['i.fenwick-rao@marram-pole.example.com'], ['www.marram-pole.example']),
    ),
  ).toEqual([
    'name: Ines Fenwick-Rao',
    'organisation: Marram & Pole',
    'role: Sales manager',
    'phone: +44 1632 960142',
    'mail: i.fenwick-rao@marram-pole.example.com',
    'web: www.marram-pole.example',
    'address: Staithe Road 4, Saltmarsh',
  ]); // prettier-ignore
});

test('numbers of elsewhere, no fax, an address broken at its hyphen, blanks within the mail', () => {
  expect(fields(card(['Tobias Elm', 5], ['Tel 01632 960171'], ['Fax 01632 960172'], ['tobias @ elm-boats .example.com'], ['www.elm-'], ['boats.example']), 'US')).toEqual([
    'name: Tobias Elm',
    'phone: 01632 960171',
    'mail: tobias@elm-boats.example.com',
    'web: www.elm-boats.example',
  ]); // prettier-ignore
});

test('a page that is no card is none', () => {
  const parts = contactOf(card(['Tobias Elm'], ['tel 01632 960171']));
  expect([isCard(parts, 85, 55), isCard(parts, 210, 297), isCard([], 85, 55)]).toEqual([true, false, false]);
});

test('vCard 4.0 (RFC 6350) as ical.js reads it: escapes, folded lines, several contacts', () => {
  const long = `Werft für Boote; Bau, Pflege \\ ${'und Überholung '.repeat(9)}`.trim();
  const file = writeVcard([
    { name: ['Ines Fenwick-Rao'], organisation: [long], role: ['Sales'], phone: ['+44 1632 960142', '01632/960143'], mail: ['i@example.com'], web: ['www.example.com'], address: ['Staithe Road 4, Saltmarsh'] },
    { organisation: ['Tern Sails'] },
  ]); // prettier-ignore
  for (const line of file.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75);
  const [first, second] = (ICAL.parse(file) as unknown[]).map((c) => new ICAL.Component(c as never));
  const value = (name: string) => first!.getFirstPropertyValue(name);
  expect([value('version'), value('fn'), value('title'), value('email'), value('url')]).toEqual(['4.0', 'Ines Fenwick-Rao', 'Sales', 'i@example.com', 'https://www.example.com']); // prettier-ignore
  expect([value('org')].flat()).toEqual([long]);
  expect(value('n')).toEqual(['Fenwick-Rao', 'Ines', '', '', '']);
  expect(first!.getAllProperties('tel').map((p) => p.getFirstValue())).toEqual(['tel:+441632960142', 'tel:01632960143']);
  expect(value('adr')).toEqual(['', '', 'Staithe Road 4, Saltmarsh', '', '', '', '']);
  expect(second!.getFirstPropertyValue('fn')).toBe('Tern Sails');
});

test('a QR code that node-qrcode makes is read, with its place', async () => {
  const wasm = readFileSync(createRequire(__filename).resolve('zxing-wasm/reader/zxing_reader.wasm'));
  prepareCodes({ binary: wasm.buffer.slice(wasm.byteOffset, wasm.byteOffset + wasm.byteLength) as ArrayBuffer });
  const text = 'https://saltmarsh.example.org/slip/2';
  const { modules } = create(text, {});
  const page = createRaster(600, 800, 1);
  page.data.fill(255);
  const px = 4;
  for (let y = 0; y < modules.size * px; y++)
    for (let x = 0; x < modules.size * px; x++)
      if (modules.get(Math.floor(y / px), Math.floor(x / px))) page.data[(y + 300) * 600 + x + 200] = 20;
  const [code, ...more] = await codesIn(page);
  expect(more).toEqual([]);
  expect(code).toMatchObject({ kind: 'QR Code', text });
  expect(Math.abs(code!.box.x - 200)).toBeLessThan(8);
  expect(Math.abs(code!.box.y - 300)).toBeLessThan(8);
});

test.each([
  ['https://example.org/a', 'link'],
  ['BEGIN:VCARD\nVERSION:4.0', 'contact'],
  ['WIFI:T:WPA;S:quay;P:x;;', 'network'],
  ['mailto:a@example.com', 'mail'],
  ['tel:+441632960142', 'phone'],
  ['javascript:alert(1)', 'text'],
  ['4006381333931', 'text'],
])('%s is meant as %s', (text, meaning) => expect(codeMeaning(text)).toBe(meaning));
