import { createRaster, type Raster } from '../raster/raster';
import { noisePicture, random } from '../testing/pictures';
import { chooseFilter } from './auto';
import { enhance } from './enhance';
import { estimateLight } from './light';
import { closing, dilate } from './morphology';
import { sauvola } from './sauvola';
import { dropSpecks } from './specks';

/** A page with print, lit from the left and with a shadow's edge across it. */
function litPage(
  paper: readonly [number, number, number] = [250, 250, 250],
  light: readonly [number, number, number] = [1, 1, 1],
): Raster {
  const page = createRaster(420, 594, 3);
  const next = random(5);
  for (let y = 0; y < 594; y++)
    for (let x = 0; x < 420; x++) {
      const print = x > 40 && x < 380 && y > 40 && y % 18 < 3 && (x * 13) % 29 < 17;
      const level = (0.95 - 0.35 * (x / 420)) * (x > 200 && y > 300 ? 0.72 : 1);
      for (let k = 0; k < 3; k++)
        page.data[(y * 420 + x) * 3 + k] = (print ? 30 : paper[k]) * level * light[k] + (next() - 0.5) * 4;
    }
  return page;
}

const pixel = (r: Raster, x: number, y: number) =>
  Array.from(r.data.slice((y * r.width + x) * r.channels, (y * r.width + x) * r.channels + r.channels));

describe('Sauvola', () => {
  test('is the published formula with a naive window (Sauvola and Pietikäinen 2000)', () => {
    const grey = noisePicture(31, 23, 1, 9);
    const ours = sauvola(grey, { window: 9, k: 0.3, range: 128 });
    for (let y = 0; y < 23; y++)
      for (let x = 0; x < 31; x++) {
        const list: number[] = [];
        for (let j = Math.max(0, y - 4); j <= Math.min(22, y + 4); j++)
          for (let i = Math.max(0, x - 4); i <= Math.min(30, x + 4); i++) list.push(grey.data[j * 31 + i]);
        const m = list.reduce((s, v) => s + v, 0) / list.length;
        const deviation = Math.sqrt(list.reduce((s, v) => s + (v - m) ** 2, 0) / list.length);
        const threshold = m * (1 + 0.3 * (deviation / 128 - 1));
        if (Math.abs(grey.data[y * 31 + x] - threshold) > 1e-6)
          expect(ours.data[y * 31 + x]).toBe(grey.data[y * 31 + x] <= threshold ? 0 : 255);
      }
  });

  test('colour is refused', () => expect(() => sauvola(noisePicture(4, 4, 3))).toThrow('received 3'));
});

describe('even light', () => {
  test('paper is white and even under a lamp from the side and a shadow, print stays dark', () => {
    const out = enhance(litPage(), 'even-light');
    for (const [x, y] of [[15, 15], [410, 15], [15, 580], [410, 580], [120, 500], [300, 208]]) expect(Math.min(...pixel(out, x, y))).toBeGreaterThan(235); // prettier-ignore
    const dark = [];
    for (let x = 60; x < 360; x++) dark.push(pixel(out, x, 433)[1]);
    expect(Math.min(...dark)).toBeLessThan(60);
  });

  test.each([
    ['warm', [1, 0.94, 0.83]],
    ['greenish', [0.89, 1, 0.94]],
  ] as const)('%s lamp light is taken out, the pink of a pink copy is not', (_, lamp) => {
    const white = pixel(enhance(litPage([250, 250, 250], lamp), 'even-light'), 20, 20);
    expect(Math.max(...white) - Math.min(...white)).toBeLessThan(12);
    const pink = pixel(enhance(litPage([247, 207, 208]), 'even-light'), 20, 20);
    expect(pink[0] - pink[1]).toBeGreaterThan(15);
  });

  test('a coloured field keeps its colour', () => {
    const page = litPage();
    for (let y = 200; y < 320; y++) for (let x = 80; x < 200; x++) page.data.set([180, 40, 50], (y * 420 + x) * 3);
    const [r, g, b] = pixel(enhance(page, 'even-light'), 140, 260);
    expect(r - g).toBeGreaterThan(100);
    expect(Math.abs(g - b)).toBeLessThan(40);
  });

  test('a large black block stays black all over', () => {
    const page = litPage();
    for (let y = 180; y < 330; y++) for (let x = 100; x < 260; x++) page.data.set([38, 37, 36], (y * 420 + x) * 3);
    const out = enhance(page, 'even-light');
    for (const [x, y] of [[110, 190], [180, 255], [250, 320]]) expect(Math.max(...pixel(out, x, y))).toBeLessThan(90); // prettier-ignore
  });

  test('a dark slide is not turned white', () => {
    const slide = createRaster(300, 200, 3);
    for (let i = 0; i < 300 * 200; i++) slide.data.set(i % 300 > 100 && i % 300 < 130 ? [240, 240, 240] : [25, 30, 60], i * 3);
    const light = estimateLight(slide);
    expect(light.dark).not.toBeNull();
    expect(Math.max(...pixel(enhance(slide, 'even-light'), 20, 20))).toBeLessThan(80);
  });
});

describe('grey and ink', () => {
  test('ink is 0 and 255 only, paper is clean in light and shadow', () => {
    const out = enhance(litPage(), 'ink', { dpi: 300 });
    expect(out.channels).toBe(1);
    expect([...new Set(out.data)].sort()).toEqual([0, 255]);
    let ink = 0;
    for (let y = 0; y < 38; y++) for (let x = 0; x < 420; x++) if (!out.data[y * 420 + x]) ink++;
    expect(ink).toBe(0);
  });

  test('an empty page stays empty', () => {
    const blank = createRaster(200, 200, 3);
    const next = random(2);
    for (let i = 0; i < blank.data.length; i++) blank.data[i] = 200 + (next() - 0.5) * 10;
    const out = enhance(blank, 'ink').data;
    expect(out.filter((v) => v === 0).length).toBe(0);
  });

  test('original is the page itself', () => {
    const page = litPage();
    expect(enhance(page, 'original')).toEqual(page);
  });

  test('auto keeps colour where there is some', () => {
    const plain = litPage();
    expect(chooseFilter(plain).filter).toBe('grey');
    expect(chooseFilter(litPage([247, 207, 208])).filter).toBe('even-light');
    for (let y = 400; y < 430; y++) for (let x = 80; x < 300; x++) plain.data.set([40, 60, 190], (y * 420 + x) * 3);
    expect(chooseFilter(plain).filter).toBe('even-light');
  });

  test('specks below the limit go, strokes stay', () => {
    const page = createRaster(20, 20, 1);
    page.data.fill(255);
    page.data[5 * 20 + 5] = 0;
    for (let x = 3; x < 12; x++) page.data[12 * 20 + x] = 0;
    dropSpecks(page, 4);
    expect(page.data[5 * 20 + 5]).toBe(255);
    expect(page.data[12 * 20 + 6]).toBe(0);
  });
});

test('closing fills what is narrower than its window and the extremes are those of a naive window', () => {
  const plane = { width: 15, height: 11, data: Float32Array.from(noisePicture(15, 11, 1).data) };
  const ours = dilate(plane, 2).data;
  for (let y = 0; y < 11; y++)
    for (let x = 0; x < 15; x++) {
      let top = 0;
      for (let j = Math.max(0, y - 2); j <= Math.min(10, y + 2); j++)
        for (let i = Math.max(0, x - 2); i <= Math.min(14, x + 2); i++) top = Math.max(top, plane.data[j * 15 + i]);
      expect(ours[y * 15 + x]).toBe(top);
    }
  const line = { width: 15, height: 15, data: new Float32Array(225).fill(200) };
  for (let y = 0; y < 15; y++) line.data[y * 15 + 7] = 10;
  expect([...new Set(closing(line, 2).data)]).toEqual([200]);
});
