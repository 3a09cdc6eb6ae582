import { createRaster, type Raster } from '@libretto/core';
import { greyBmp } from './bmp';
import { calibrated } from './confidence';
import type { Engine } from './engine';
import { languageOf } from './language';
import type { Language } from './languages';
import { layoutOf, unreadShare, withoutRules, type Way } from './layout';
import { linesOf, textOf } from './order';
import { readPage } from './read';
import type { Recognised, Rect, Word } from './words';

/** A white page, 4 px a millimetre. */
function page(
  widthMm: number,
  heightMm: number,
  draw: (ink: (x: number, y: number, w: number, h: number) => void) => void,
): Raster {
  const raster = createRaster(widthMm * 4, heightMm * 4, 1);
  raster.data.fill(255);
  draw((x, y, w, h) => {
    for (let j = Math.round(y * 4); j < (y + h) * 4; j++)
      raster.data.fill(0, j * raster.width + Math.round(x * 4), j * raster.width + Math.round((x + w) * 4));
  });
  return raster;
}
/** Words of running text, 2 mm high, five a line, 5 mm apart. */
const column = (
  ink: (x: number, y: number, w: number, h: number) => void,
  x: number,
  y: number,
  width: number,
  lines: number,
) => {
  for (let i = 0; i < lines; i++) for (let k = 0; k < 5; k++) ink(x + (k * width) / 5, y + 5 * i, width / 5 - 1, 2);
};

describe('how a page is laid out', () => {
  test('one column is a block', () => {
    expect(
      layoutOf(
        page(210, 297, (ink) => column(ink, 20, 30, 170, 30)),
        210,
      ).way,
    ).toBe('block');
  });
  test('two columns of running text, the gutter 6 mm', () => {
    const two = page(210, 297, (ink) => {
      column(ink, 20, 30, 82, 30);
      column(ink, 108, 30, 82, 30);
    });
    expect(layoutOf(two, 210).way).toBe('columns');
  });
  test('a table is no columns: its cells are short', () => {
    const table = page(210, 297, (ink) => {
      for (let i = 0; i < 30; i++) for (const x of [20, 75, 120, 165]) ink(x, 30 + 6 * i, 14, 2);
    });
    expect(layoutOf(table, 210).way).toBe('block');
  });
  test('a receipt and a card are read as one sheet', () => {
    expect(
      layoutOf(
        page(80, 200, (ink) => column(ink, 8, 20, 60, 20)),
        80,
      ).way,
    ).toBe('sheet');
  });
  test('rules are found along and down, print is none; made paper they are gone', () => {
    const ruled = page(120, 100, (ink) => {
      ink(10, 20, 100, 0.5);
      ink(10, 20, 0.5, 60);
      column(ink, 15, 30, 60, 4);
    });
    const layout = layoutOf(ruled, 120);
    const at = (x: number, y: number) => layout.rules[Math.round(y * 4) * layout.width + Math.round(x * 4)];
    expect([at(60, 20.2), at(10.2, 60), at(16, 31)]).toEqual([1, 1, 0]);
    const bare = withoutRules(ruled, layout);
    expect([bare.data[81 * 480 + 240], bare.data[124 * 480 + 64]]).toEqual([255, 0]);
  });
});

test('ink that no word covers is told, a picture is not', () => {
  const sheet = page(210, 297, (ink) => {
    column(ink, 20, 30, 80, 20);
    column(ink, 110, 30, 80, 20);
    ink(40, 180, 100, 80);
  });
  const layout = layoutOf(sheet, 210);
  const left: Rect = { x: 80, y: 110, width: 320, height: 420 };
  expect(unreadShare(layout, [left], 210)).toBeCloseTo(0.5, 1);
  expect(unreadShare(layout, [left, { ...left, x: 440 }], 210)).toBeLessThan(0.05);
});

const word = (text: string, x: number, y: number, width = 30, height = 10): Word => ({
  text,
  box: { x, y, width, height },
  confidence: 1,
});

test('words of one height are a line from the left, whatever blocks they were found in; columns stay apart', () => {
  const blocks = [
    [word('Oak', 0, 0), word('Larch', 0, 20)],
    [word('2', 200, 1), word('14', 200, 21)],
  ];
  expect(textOf(linesOf(blocks, false))).toBe('Oak\t2\nLarch\t14');
  expect(textOf(linesOf(blocks, true))).toBe('Oak\nLarch\n\n2\n14');
});

test('numbers are trusted less than words of the same confidence', () => {
  expect(calibrated('timber', 97)).toBeGreaterThan(0.98);
  expect(calibrated('4471', 97)).toBeLessThan(0.95);
  expect([calibrated('x', 0), calibrated('x', 100)]).toEqual([0.05, 0.995]);
});

test.each<[Language, string]>([
  [
    'eng',
    'The vessel was surveyed afloat on the slip the day after, at the wish of her owner, before the change of insurance and the sale.',
  ],
  [
    'deu',
    'Das Schiff wurde am Tag danach auf der Helling besichtigt, auf Wunsch der Eignerin, vor dem Wechsel der Versicherung und dem Verkauf.',
  ],
  [
    'fra',
    'Le bateau a été examiné à flot puis sur la cale le lendemain, à la demande de sa propriétaire, avant le changement d’assurance.',
  ],
])('%s is told by its words', (language, text) => expect(languageOf(text)).toBe(language));
test('a title is too short to tell', () => expect(languageOf('Delivery docket')).toBeNull());

/** An engine that answers as it is told, and notes what it was asked. */
function engineOf(answers: (way: Way, language: Language) => Recognised[][]) {
  const asked: string[] = [];
  const engine: Engine = {
    recognise: async (picture, way, language, dpi) => {
      asked.push(`${way} ${language} ${Math.round(dpi)} ${picture.width}`);
      return answers(way, language);
    },
    end: async () => {},
  };
  return { engine, asked };
}
const said = (text: string, box: Rect, confidence = 95): Recognised => ({ text, box, confidence });

test('lost text is noticed, and read again another way', async () => {
  const sheet = page(210, 297, (ink) => {
    for (let i = 0; i < 30; i++) for (const x of [20, 165]) ink(x, 30 + 6 * i, 24, 2);
  });
  // In px of what the engine is given: 300 dpi.
  const up = 300 / 25.4;
  const row = (x: number) =>
    Array.from({ length: 30 }, (_, i) => said('word', { x: x * up, y: (30 + 6 * i) * up, width: 24 * up, height: 2 * up }));
  const { engine, asked } = engineOf((way) => (way === 'block' ? [row(20)] : [[...row(20), ...row(165)]]));
  const read = await readPage(sheet, engine, { widthMm: 210, sure: true });
  // Read below 180 dpi, so it is enlarged to 300.
  expect(asked.slice(0, 2)).toEqual(['block eng 300 2480', 'sheet eng 300 2480']);
  expect([read.lines.length, read.lines[0]!.words.length]).toEqual([30, 2]);
});

test('what stays unread is said', async () => {
  const sheet = page(210, 297, (ink) => column(ink, 20, 30, 170, 30));
  const { engine } = engineOf(() => [[said('word', { x: 0, y: 0, width: 4, height: 4 })]]);
  expect((await readPage(sheet, engine, { widthMm: 210 })).unread).toBeGreaterThan(0.9);
});

test('a page in another language is read again in it; one that is set is not', async () => {
  const german = 'Das Schiff wurde am Tag danach auf der Helling besichtigt auf Wunsch der Eignerin vor dem Wechsel der Versicherung und dem Verkauf'.split(' '); // prettier-ignore
  const sheet = page(210, 297, (ink) => ink(7, 10.3, 2, 0.5));
  const { engine, asked } = engineOf(() => [german.map((w, i) => said(w, { x: 80 + 30 * i, y: 120, width: 28, height: 8 }))]);
  expect((await readPage(sheet, engine, { widthMm: 210 })).language).toBe('deu');
  await readPage(sheet, engine, { widthMm: 210, language: 'fra', sure: true });
  expect(asked.map((a) => a.split(' ')[1])).toEqual(['eng', 'deu', 'fra']);
});

test('specks, rules and junk are no words; a nought between digits is one', async () => {
  const sheet = page(210, 297, (ink) => ink(60, 60, 20, 2));
  const at = (x: number): Rect => ({ x, y: 100, width: 20, height: 10 });
  const { engine } = engineOf(() => [[said('|', at(100)), said('E', { x: 0, y: 0, width: 9, height: 9 }), said('junk', at(200), 12), said('2O.11.2026', at(300)), said('word', at(400))]]); // prettier-ignore
  const read = await readPage(sheet, engine, { widthMm: 210 });
  expect(read.text).toBe('20.11.2026\tword');
  const nothing = engineOf(() => [[said('|', at(100))]]);
  expect(await readPage(sheet, nothing.engine, { widthMm: 210 })).toMatchObject({ lines: [], text: '' });
});

describe('words that a file brings along', () => {
  // Two columns of thirty lines, 4 px a millimetre.
  const sheet = page(210, 297, (ink) => {
    for (const x of [20, 110]) column(ink, x, 30, 80, 30);
  });
  const lines = [20, 110].flatMap((x) => Array.from({ length: 30 }, (_, i) => Array.from({ length: 5 }, (_w, k) => ({ text: `${x}/${i}/${k}`, box: { x: (x + 16 * k) * 4, y: (30 + 5 * i) * 4, width: 60, height: 8 } })))); // prettier-ignore
  test('are taken, in its order where it has columns, and nothing is read', async () => {
    const { engine, asked } = engineOf(() => []);
    const read = await readPage(sheet, engine, { widthMm: 210, words: lines.flat() });
    expect(asked).toEqual([]);
    expect(read.lines.map((line) => line.words.map((w) => w.text).join(' '))).toEqual(
      lines.map((line) => line.map((w) => w.text).join(' ')),
    );
    expect(new Set(read.lines.flatMap((line) => line.words.map((w) => w.confidence)))).toEqual(new Set([1]));
  });

  test('are not enough where much of the print has none', async () => {
    const { engine, asked } = engineOf(() => [[said('word', { x: 240, y: 360, width: 90, height: 24 })]]);
    await readPage(sheet, engine, { widthMm: 210, words: lines.slice(0, 20).flat() });
    expect(asked).not.toEqual([]);
  });
});

test('a page with nothing on it is not given to the engine; one small mark on it is', async () => {
  const back = createRaster(1654, 2339, 1);
  back.data.forEach((_, i) => (back.data[i] = 236 + (i % 9)));
  const { engine, asked } = engineOf(() => []);
  expect(await readPage(back, engine, { widthMm: 210 })).toMatchObject({ lines: [], text: '', unread: 0 });
  expect(asked).toEqual([]);
  for (let y = 0; y < 16; y++) back.data.fill(150, (300 + y) * 1654 + 200, (300 + y) * 1654 + 203);
  await readPage(back, engine, { widthMm: 210 });
  expect(asked).not.toEqual([]);
});

test('the picture for the engine is an 8-bit BMP as Microsoft lays it out, rows from the bottom', () => {
  const bmp = greyBmp({ width: 3, height: 2, channels: 1, data: Uint8Array.from([1, 2, 3, 4, 5, 6]) });
  const view = new DataView(bmp.buffer);
  expect([bmp[0], bmp[1], view.getUint32(2, true), view.getUint32(10, true), view.getInt32(18, true), view.getInt32(22, true), view.getUint16(28, true)]) // prettier-ignore
    .toEqual([0x42, 0x4d, bmp.length, 1078, 3, 2, 8]);
  expect([...bmp.subarray(1078)]).toEqual([4, 5, 6, 0, 1, 2, 3, 0]);
});
