import { pageMap } from '@libretto/core';
import type { Mark } from '@libretto/model';
import { markSchema } from '@libretto/model';
import { gridMap } from './gridMap';
import { boundsOf, changePicture, coverOver, drawMark, isUnder, rectOf, type MarkView, type Pen } from './markDrawing';

const quad = [[400, 300], [2600, 420], [2900, 3700], [250, 3500]] as const; // prettier-ignore
const places = 17;
const gridOf = (turn: 0 | 90) => {
  const { toPhoto } = pageMap({ quad, turn, widthMm: 210, heightMm: 297 });
  return Array.from({ length: places * places }, (_, n) => toPhoto([(n % places) / (places - 1), Math.floor(n / places) / (places - 1)])).flat(); // prettier-ignore
};

test('a grid of places stands for the page’s own map within a fifth of a millimetre, and back', () => {
  const exact = pageMap({ quad, turn: 0, widthMm: 210, heightMm: 297 });
  const grid = gridMap(gridOf(0), places);
  for (const place of [
    [0.03, 0.04],
    [0.5, 0.5],
    [0.71, 0.33],
    [0.97, 0.99],
  ] as const) {
    const [x, y] = grid.toPhoto(place);
    const [u, v] = exact.toPage([x, y]);
    expect(Math.hypot((u - place[0]) * 210, (v - place[1]) * 297)).toBeLessThan(0.2);
    const [bu, bv] = grid.toPage([x, y]);
    expect(Math.hypot(bu - place[0], bv - place[1])).toBeLessThan(1e-6);
  }
});

/** A picture of the page, 2 px a millimetre. */
const viewOf = (turn: 0 | 90 = 0): MarkView => ({
  width: turn ? 594 : 420,
  height: turn ? 420 : 594,
  pxPerMm: 2,
  toPage: pageMap({ quad, turn, widthMm: turn ? 297 : 210, heightMm: turn ? 210 : 297 }).toPage,
});
const onPhoto = (u: number, v: number) => pageMap({ quad, turn: 0, widthMm: 210, heightMm: 297 }).toPhoto([u, v]) as [number, number]; // prettier-ignore
const cover = (fill: 'black' | 'white' | 'paper'): Mark & { kind: 'cover' } => ({
  kind: 'cover',
  id: 'mark-1',
  from: onPhoto(0.25, 0.5),
  to: onPhoto(0.5, 0.6),
  fill,
});

test('what is covered is gone from the picture, and nothing else', () => {
  for (const channels of [1, 3, 4] as const) {
    const image = { width: 420, height: 594, channels, data: new Uint8ClampedArray(420 * 594 * channels).fill(77) };
    coverOver(image, cover('black'), viewOf());
    const at = (x: number, y: number) => image.data[(y * 420 + x) * channels];
    expect([at(106, 298), at(208, 355), at(103, 325), at(212, 325), at(150, 295), at(150, 358)]).toEqual([0, 0, 77, 77, 77, 77]);
  }
});

test('only what is kept is left, and what is painted round it has its paper’s colour', () => {
  const kept = { ...cover('black'), outside: true };
  const image = { width: 420, height: 594, channels: 1 as const, data: new Uint8ClampedArray(420 * 594).fill(77) };
  coverOver(image, kept, viewOf());
  const at = (x: number, y: number) => image.data[y * 420 + x];
  expect([at(107, 299), at(207, 354), at(103, 325), at(212, 325), at(150, 295), at(150, 358), at(0, 0), at(419, 593)]).toEqual([77, 77, 0, 0, 0, 0, 0, 0]); // prettier-ignore
  const paper = { ...image, data: new Uint8ClampedArray(420 * 594) };
  for (let y = 297; y < 357; y++) for (let x = 105; x < 211; x++) paper.data[y * 420 + x] = x % 3 ? 231 : 20;
  coverOver(paper, { ...kept, fill: 'paper' }, viewOf());
  expect(paper.data[10]).toBe(231);
});

test('a cover takes the colour of the paper round it, not that of the print', () => {
  const image = { width: 420, height: 594, channels: 3 as const, data: new Uint8ClampedArray(420 * 594 * 3) };
  for (let i = 0; i < 420 * 594; i++) image.data.set(i % 3 ? [240, 230, 200] : [20, 20, 20], i * 3);
  coverOver(image, cover('paper'), viewOf());
  expect([...image.data.slice((320 * 420 + 150) * 3, (320 * 420 + 150) * 3 + 3)]).toEqual([240, 230, 200]);
});

/** Print that is nowhere the same, on paper. */
function printed(turned = false) {
  const [width, height] = turned ? [594, 420] : [420, 594];
  const image = { width, height, channels: 1 as const, data: new Uint8ClampedArray(width * height).fill(240) };
  for (let y = 300; y < 350; y++) for (let x = 110; x < 200; x++) {
    // On the turned page the same print lies turned clockwise.
    const [px, py] = turned ? [593 - y, x] : [x, y];
    image.data[py * width + px] = 20 + ((x * 7 + y * 13) % 150);
  } // prettier-ignore
  return { image, at: (x: number, y: number) => image.data[turned ? x * width + 593 - y : y * width + x] };
}
const part = (more: Partial<Mark & { kind: 'part' }> = {}): Mark & { kind: 'part' } => ({ kind: 'part', id: 'mark-1', source: [onPhoto(0.25, 0.5), onPhoto(0.5, 0.6)], from: onPhoto(0.45, 0.7), to: onPhoto(0.7, 0.8), ...more }); // prettier-ignore
const spots = [[110, 300], [150, 320], [199, 349]] as const; // prettier-ignore

test('a part of the page put elsewhere is as it was, and leaves paper, or a copy of itself; on a turned page too', () => {
  for (const turned of [false, true]) {
    const was = printed(turned);
    for (const stays of [false, true]) {
      const now = printed(turned);
      changePicture(now.image, [part({ stays })], viewOf(turned ? 90 : 0));
      for (const [x, y] of spots) {
        // A fifth of the page to the right and down: 84 and 118.8 px.
        expect(Math.abs(now.at(x + 84, y + 119)! - was.at(x, y)!)).toBeLessThan(2);
        expect(now.at(x, y)).toBe(stays ? was.at(x, y) : 240);
      }
    }
  }
});

test('a part pulled to half its size is half as large, and what lies under it is gone', () => {
  const { image, at } = printed();
  changePicture(image, [part({ to: onPhoto(0.575, 0.75) })], viewOf());
  let ink = 0;
  for (let y = 360; y < 594; y++) for (let x = 0; x < 420; x++) ink += Number(at(x, y)! < 200);
  expect(ink / (90 * 50)).toBeCloseTo(0.25, 1);
  const inColour = { ...image, channels: 4 as const, data: new Uint8ClampedArray(420 * 594 * 4).fill(200) };
  changePicture(inColour, [part({ to: onPhoto(0.575, 0.75) })], viewOf());
  expect(inColour.data.every((v, i) => (i % 4 === 3 ? v >= 200 : v === 200))).toBe(true);
  const over = printed();
  changePicture(over.image, [part({ from: onPhoto(0.25, 0.5), to: onPhoto(0.5, 0.6), source: [onPhoto(0.1, 0.1), onPhoto(0.2, 0.2)] })], viewOf()); // prettier-ignore
  expect(spots.map(([x, y]) => over.at(x, y))).toEqual([240, 240, 240]);
});

test('what is covered later is gone from a part that was put there', () => {
  const { image, at } = printed();
  changePicture(image, [part(), { ...cover('black'), from: onPhoto(0.45, 0.7), to: onPhoto(0.7, 0.8) }], viewOf());
  expect(spots.map(([x, y]) => at(x + 84, y + 119))).toEqual([0, 0, 0]);
});

test('words stand neither where a part was taken from nor under it', () => {
  const box = (x: number, y: number) => ({ x, y, width: 20, height: 8 });
  const under = (x: number, y: number, stays = false) => isUnder(box(x, y), part({ stays }), viewOf());
  expect([under(150, 320), under(150, 320, true), under(230, 440), under(230, 440, true), under(20, 20)]).toEqual([true, false, true, true, false]); // prettier-ignore
});

test('a mark lies on the print: on a turned page it turns along', () => {
  const upright = rectOf(cover('black'), viewOf());
  const turned = rectOf(cover('black'), viewOf(90));
  [upright.width, upright.height].forEach((side, i) => expect([turned.height, turned.width][i]).toBeCloseTo(side, 6));
  expect(turned.x).toBeCloseTo(594 - upright.y - upright.height, 6);
  expect(turned.y).toBeCloseTo(upright.x, 6);
});

/** Notes what is drawn. */
function pen() {
  const calls: string[] = [];
  const note = (name: string) => (...args: number[]) => void calls.push(`${name} ${args.map((a) => (typeof a === 'number' ? Math.round(a) : a)).join(' ')}`); // prettier-ignore
  const context = new Proxy(
    { measureText: (text: string) => ({ width: text.length * 10 }), font: '' } as Record<string, unknown>,
    {
      get: (target, name: string) => target[name] ?? note(name),
    },
  ) as unknown as Pen;
  return { context, calls };
}

const stroke: Mark = { kind: 'ink', id: 'mark-1', points: [onPhoto(0.1, 0.1), onPhoto(0.2, 0.1), onPhoto(0.3, 0.12)], widthMm: 1, colour: 'red' }; // prettier-ignore
const note: Mark = { kind: 'note', id: 'mark-2', at: onPhoto(0.5, 0.1), along: onPhoto(0.6, 0.1), text: 'ask the yard about frame nine\nsoon', sizePt: 14, colour: 'blue' }; // prettier-ignore

test('a note is broken where the page ends, and at its own line ends', () => {
  const { context, calls } = pen();
  drawMark(context, note, viewOf());
  // 210 px of room, 10 a letter.
  expect(calls.filter((c) => c.startsWith('fillText')).map((c) => c.replace(/ -?\d+ -?\d+$/, ''))).toEqual([
    'fillText ask the yard about',
    'fillText frame nine',
    'fillText soon',
  ]);
});

test('bounds hold a stroke with its width', () => {
  const { context } = pen();
  const box = boundsOf(context, stroke, viewOf());
  expect([box.x, box.x + box.width].map(Math.round)).toEqual([41, 127]);
  expect(box.height).toBeCloseTo(0.02 * 594 + 2, 0);
});

test('an arrow has its head where it ends', () => {
  const { context, calls } = pen();
  drawMark(context, { kind: 'arrow', id: 'mark-3', from: onPhoto(0.1, 0.5), to: onPhoto(0.5, 0.5), widthMm: 1, colour: 'ink' }, viewOf()); // prettier-ignore
  expect(calls.filter((c) => c === 'lineTo 210 297')).toHaveLength(2);
});

test('marks are checked by their schema', () => {
  for (const mark of [stroke, note, cover('paper')]) expect(markSchema.safeParse(mark).success).toBe(true);
  expect(markSchema.safeParse({ ...note, text: '' }).success).toBe(false);
  expect(markSchema.safeParse({ ...stroke, colour: '#ff0000' }).success).toBe(false);
});
