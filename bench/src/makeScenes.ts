/**
 * Writes photographs of our own with their truth, for training and measuring the finder on other paper and other desks than the development photographs': the demo's
 * sheets and invented ones (bands, rules, pictures up to the edge, dark cards), one to four on a desk or none at all.
 *
 *     tsx bench/src/makeScenes.ts DIR COUNT [SEED]
 */
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { createRaster, type Raster } from '@libretto/core';
import { usualCamera, usualLight } from '@libretto/demo/photographs';
import type { Desk } from '@libretto/demo/scene/desk';
import { photograph } from '@libretto/demo/scene/photograph';
import type { Bend, LaidSheet } from '@libretto/demo/scene/scene';

const desks: readonly Desk[] = ['oak', 'slate', 'felt', 'laminate', 'checked', 'wall'];
const longEdgePx = 1200;

type Roll = (from: number, to: number) => number;

function rolls(seed: number): Roll {
  let state = seed >>> 0;
  return (from, to) => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return from + ((to - from) * state) / 4294967296;
  };
}

/** A sheet that nobody wrote: paper, perhaps a band along an edge, rules, lines of strokes, a picture. 4 px a mm. */
function invented(widthMm: number, heightMm: number, roll: Roll): Raster {
  const [width, height] = [Math.round(widthMm * 4), Math.round(heightMm * 4)];
  const page = createRaster(width, height, 3);
  const dark = roll(0, 1) < (widthMm < 100 ? 0.35 : 0.06);
  const tint = () => [roll(0, 60), roll(0, 70), roll(10, 110)];
  const paper = dark ? tint() : [roll(232, 254), roll(228, 252), roll(190, 250)];
  const ink = dark ? [230, 225, 210] : [30, 30, 36];
  const box = (x0: number, y0: number, x1: number, y1: number, colour: readonly number[]) => {
    for (let y = Math.max(0, Math.round(y0)); y < Math.min(height, y1); y++)
      for (let x = Math.max(0, Math.round(x0)); x < Math.min(width, x1); x++)
        for (let c = 0; c < 3; c++) page.data[(y * width + x) * 3 + c] = colour[c]!;
  };
  box(0, 0, width, height, paper);
  const bright = [roll(20, 220), roll(20, 200), roll(20, 220)];
  const band = roll(0, 1);
  if (band < 0.25) box(0, 0, width, height * roll(0.05, 0.22), bright);
  else if (band < 0.33) box(0, height * roll(0.8, 0.94), width, height, bright);
  else if (band < 0.4) box(0, 0, width * roll(0.04, 0.2), height, bright);
  if (roll(0, 1) < 0.2) {
    const [top, bottom] = [height * roll(0, 0.3), height * roll(0.35, 0.7)];
    for (let y = Math.round(top); y < bottom; y += 6)
      for (let x = 0; x < width; x += 6) box(x, y, x + 6, y + 6, [roll(30, 200), roll(40, 190), roll(20, 160)]);
  }
  const margin = width * roll(0.06, 0.14);
  if (roll(0, 1) < 0.25) {
    const gap = roll(24, 40);
    for (let y = gap; y < height; y += gap) box(0, y, width, y + 1.5, [150, 170, 205]);
    box(margin, 0, margin + 2, height, [215, 120, 120]);
  }
  if (roll(0, 1) < 0.2) box(margin, height * 0.12, width - margin, height * 0.12 + 3, ink);
  const line = roll(14, 26);
  const from = height * roll(0.14, 0.4);
  const to = height * roll(0.5, 0.95);
  for (let y = from; y < to; y += line)
    for (let x = margin, end = width - margin - roll(0, 0.4) * width; x < end; x += roll(6, 14)) {
      const word = roll(10, 50);
      for (let k = x; k < Math.min(end, x + word); k += 7) box(k, y + roll(0, 3), k + roll(2, 5), y + line * 0.5, ink);
      x += word;
    }
  return page;
}

async function printed(): Promise<Map<string, Raster>> {
  const dir = fileURLToPath(new URL('../../demo/flat/', import.meta.url));
  const all = new Map<string, Raster>();
  for (const file of readdirSync(dir).filter((f) => f.endsWith('.png'))) {
    const { data, info } = await sharp(path.join(dir, file)).resize({ width: 1100, withoutEnlargement: true }).removeAlpha().raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
    all.set(path.parse(file).name, { width: info.width, height: info.height, channels: 3, data });
  }
  return all;
}

const sizes: readonly [number, number][] = [[210, 297], [210, 297], [215.9, 279.4], [148, 210], [80, 180], [105, 148], [297, 210]]; // prettier-ignore

function lay(
  i: number,
  roll: Roll,
  demo: ReadonlyMap<string, Raster>,
): { sheets: LaidSheet[]; category: string; spreadMm: number } {
  const kind = roll(0, 1);
  if (kind < 0.2) return { sheets: [], category: 'own-blank', spreadMm: 250 };
  if (kind < 0.4) {
    const count = Math.floor(roll(2, 4.99));
    const sheets = Array.from({ length: count }, (_, k): LaidSheet => {
      const tall = roll(0, 1) < 0.2;
      const [w, h] = tall ? [55, 85] : [85, 55];
      return { id: `card-${k}`, picture: invented(w, h, roll), widthMm: w, heightMm: h, xMm: (k % 2 ? 58 : -58) + roll(-8, 8), yMm: (k > 1 ? 52 : -52) + roll(-8, 8), angle: roll(-16, 16), bend: { kind: 'flat' } }; // prettier-ignore
    });
    return { sheets, category: 'own-cards', spreadMm: 200 };
  }
  const curl = roll(0, 1) < 0.25;
  const bend: Bend = curl ? { kind: 'curl', heightMm: roll(4, 22) } : { kind: 'flat' };
  const common = { xMm: roll(-12, 12), yMm: roll(-12, 12), angle: roll(-180, 180), bend };
  const names = [...demo.keys()].filter((n) => demo.get(n)!.height > 1.2 * demo.get(n)!.width);
  if (roll(0, 1) < 0.3) {
    const id = names[Math.floor(roll(0, names.length - 1e-6))]!;
    const picture = demo.get(id)!;
    return { sheets: [{ id, picture, widthMm: 210, heightMm: (210 * picture.height) / picture.width, ...common }], category: curl ? 'own-curl' : 'own-sheet', spreadMm: 297 }; // prettier-ignore
  }
  const [widthMm, heightMm] = sizes[i % sizes.length]!;
  return { sheets: [{ id: 'invented', picture: invented(widthMm, heightMm, roll), widthMm, heightMm, ...common }], category: curl ? 'own-curl' : 'own-invented', spreadMm: Math.max(widthMm, heightMm) }; // prettier-ignore
}

const [dir, count, seed = '1'] = process.argv.slice(2);
if (!dir || !(Number(count) > 0)) throw new Error('Say where to and how many: tsx bench/src/makeScenes.ts DIR COUNT [SEED]');
mkdirSync(dir, { recursive: true });
const demo = await printed();
const photos: unknown[] = [];
for (let i = 0; i < Number(count); i++) {
  const roll = rolls(Number(seed) * 7919 + i * 104729 + 17);
  roll(0, 1);
  const { sheets, category, spreadMm } = lay(i, roll, demo);
  const dim = roll(0, 1) < 0.2 ? 0.3 : 1;
  const landscape = roll(0, 1) < 0.4;
  const size: [number, number] = landscape ? [longEdgePx, longEdgePx * 0.75] : [longEdgePx * 0.75, longEdgePx];
  const { photo, pages } = photograph(
    {
      desk: desks[Math.floor(roll(0, desks.length - 1e-6))]!,
      sheets,
      camera: { ...usualCamera, at: [roll(-10, 10), roll(-10, 10)], distance: spreadMm * roll(1.05, 1.9), tilt: roll(0, 32), azimuth: roll(0, 360), roll: roll(-12, 12) }, // prettier-ignore
      light: {
        ...usualLight,
        ambient: usualLight.ambient * dim * roll(0.8, 1.1),
        lamp: { x: roll(-400, 400), y: roll(-400, 400), z: roll(350, 700), power: usualLight.lamp.power * dim },
        colour: [1, roll(0.9, 1), roll(0.72, 1.02)],
        ...(roll(0, 1) < 0.45 && { shadow: { x: roll(-60, 60), y: roll(-80, 80), width: 130, height: 250, angle: roll(-60, 60), softMm: roll(8, 70), depth: roll(0.4, 0.8) } }), // prettier-ignore
      },
      noise: dim < 1 ? roll(5, 10) : roll(1.5, 5),
      seed: i + 1,
    },
    ...size,
  );
  const file = `${category}-${String(i).padStart(4, '0')}.jpg`;
  await sharp(photo.data, { raw: { width: photo.width, height: photo.height, channels: photo.channels } }).jpeg({ quality: Math.round(roll(75, 93)) }).toFile(path.join(dir, file)); // prettier-ignore
  photos.push({ file, category, size: [photo.width, photo.height], pages });
}
writeFileSync(path.join(dir, 'truth.json'), JSON.stringify({ photos }));
