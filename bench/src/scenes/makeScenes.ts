/**
 * Writes photographs of our own with their truth, for training and measuring the finder on other paper and other desks than the development photographs': the demo's
 * sheets and invented ones (bands, rules, pictures up to the edge, dark cards), one to four on a desk or none at all. Half of the desks are invented too; some sheets lie among
 * others, are held by a finger or go on beyond the picture.
 *
 *     tsx bench/src/scenes/makeScenes.ts DIR COUNT [SEED] [bare]      bare: nothing stands on them, as on the backs of pages
 */
import { mkdirSync, readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { usualCamera } from '@libretto/demo/photographs';
import type { Desk } from '@libretto/demo/scene/desk';
import { photograph } from '@libretto/demo/scene/photograph';
import type { Bend, LaidSheet, TruePage } from '@libretto/demo/scene/scene';
import { below, inventedDesk, noPage } from './desks';
import { inventedPaper } from './paper';
import { anyLight } from './light';
import { rolls, type Roll } from './roll';

const [dir, count, seed = '1', which] = process.argv.slice(2);
const bare = which === 'bare';
const desks: readonly Desk[] = ['oak', 'slate', 'felt', 'laminate', 'checked', 'wall'];
const longEdgePx = 1200;

async function printed(): Promise<Map<string, Raster>> {
  const dir = fileURLToPath(new URL('../../../demo/flat/', import.meta.url));
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
  if (kind < 0.2 && !bare) return { sheets: [], category: 'own-blank', spreadMm: 250 };
  if (kind < 0.4) {
    const count = Math.floor(roll(2, 4.99));
    const sheets = Array.from({ length: count }, (_, k): LaidSheet => {
      const tall = roll(0, 1) < 0.2;
      const [w, h] = tall ? [55, 85] : [85, 55];
      return { id: `card-${k}`, picture: inventedPaper(w, h, roll, bare), widthMm: w, heightMm: h, xMm: (k % 2 ? 58 : -58) + roll(-8, 8), yMm: (k > 1 ? 52 : -52) + roll(-8, 8), angle: roll(-16, 16), bend: { kind: 'flat' } }; // prettier-ignore
    });
    return { sheets, category: 'own-cards', spreadMm: 200 };
  }
  const curl = roll(0, 1) < 0.25;
  const bend: Bend = curl ? { kind: 'curl', heightMm: roll(4, 22) } : { kind: 'flat' };
  const common = { xMm: roll(-12, 12), yMm: roll(-12, 12), angle: roll(-180, 180), bend };
  const names = [...demo.keys()].filter((n) => demo.get(n)!.height > 1.2 * demo.get(n)!.width);
  if (roll(0, 1) < 0.3 && !bare) {
    const id = names[Math.floor(roll(0, names.length - 1e-6))]!;
    const picture = demo.get(id)!;
    return { sheets: [{ id, picture, widthMm: 210, heightMm: (210 * picture.height) / picture.width, ...common }], category: curl ? 'own-curl' : 'own-sheet', spreadMm: 297 }; // prettier-ignore
  }
  const [widthMm, heightMm] = sizes[i % sizes.length]!;
  return { sheets: [{ id: 'invented', picture: inventedPaper(widthMm, heightMm, roll, bare), widthMm, heightMm, ...common }], category: curl ? 'own-curl' : 'own-invented', spreadMm: Math.max(widthMm, heightMm) }; // prettier-ignore
}

const flat: Bend = { kind: 'flat' };

/** Sheets that the page lies on, and pens, rulers and slips beside it; none reaches over it. */
function litter(roll: Roll, page: LaidSheet): { below: LaidSheet[]; beside: LaidSheet[] } {
  const around = (widthMm: number, heightMm: number, offMm: number): LaidSheet => {
    const way = roll(0, 2 * Math.PI);
    return { id: noPage, picture: inventedPaper(widthMm, heightMm, roll), widthMm, heightMm, xMm: page.xMm + Math.cos(way) * offMm, yMm: page.yMm + Math.sin(way) * offMm, angle: roll(-180, 180), bend: flat }; // prettier-ignore
  };
  const reach = Math.hypot(page.widthMm, page.heightMm) / 2;
  const below = Array.from({ length: Math.floor(roll(0, 3.99)) }, () => {
    const k = roll(0.6, 1);
    return around(page.widthMm * k, page.heightMm * k, reach * roll(0.4, 1.1));
  });
  const beside = Array.from({ length: Math.floor(roll(0, 3.99)) }, () => {
    const [w, h] = roll(0, 1) < 0.6 ? [roll(7, 14), roll(120, 180)] : [roll(30, 76), roll(30, 76)];
    return around(w, h, reach + Math.hypot(w, h) / 2 + 4);
  });
  return { below, beside };
}

/** Fingertips over the picture of a side: ovals the colour of skin, from outside inwards. */
function fingers(photo: Raster, page: TruePage, roll: Roll): void {
  const bright = roll(110, 240);
  const skin = [bright, bright * roll(0.62, 0.84), bright * roll(0.48, 0.74)];
  const [a, b] = [page.quad[1]!, page.quad[2]!];
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const [dx, dy] = [(b[0] - a[0]) / length, (b[1] - a[1]) / length];
  for (let k = Math.floor(roll(1, 2.99)), t = roll(0.15, 0.6); k > 0; k--, t += 0.16) {
    const [wide, far] = [length * roll(0.03, 0.055), length * roll(0.02, 0.08)];
    const [cx, cy] = [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t];
    const reach = Math.ceil(length * 0.4);
    for (let y = Math.max(0, Math.round(cy) - reach); y < Math.min(photo.height, cy + reach); y++)
      for (let x = Math.max(0, Math.round(cx) - reach); x < Math.min(photo.width, cx + reach); x++) {
        const along = (x - cx) * dx + (y - cy) * dy;
        // Positive outside: the outline runs clockwise.
        const out = (x - cx) * dy - (y - cy) * dx;
        const tip = out < wide - far ? ((out + far - wide) / wide) ** 2 : 0;
        if (out > 0.38 * length || out < -far || (along / wide) ** 2 + tip > 1) continue;
        const shade = 0.75 + 0.25 * Math.sqrt(1 - Math.min(1, (along / wide) ** 2));
        for (let c = 0; c < 3; c++) photo.data[(y * photo.width + x) * 3 + c] = skin[c]! * shade + roll(-3, 3);
      }
  }
}

if (!dir || !(Number(count) > 0)) throw new Error('Say where to and how many: tsx bench/src/makeScenes.ts DIR COUNT [SEED]');
mkdirSync(dir, { recursive: true });
const demo = await printed();
const photos: unknown[] = [];
for (let i = 0; i < Number(count); i++) {
  const roll = rolls(Number(seed) * 7919 + i * 104729 + 17);
  roll(0, 1);
  const { sheets, category, spreadMm } = lay(i, roll, demo);
  const strange = roll(0, 1) < 0.5;
  const [page] = sheets;
  const alone = sheets.length === 1 && page;
  const cluttered = alone && roll(0, 1) < 0.35 ? litter(roll, alone) : null;
  const cut = alone && !cluttered && roll(0, 1) < 0.2;
  const held = alone && !cut && roll(0, 1) < 0.15;
  const dim = roll(0, 1) < 0.2 ? 0.3 : 1;
  const landscape = roll(0, 1) < 0.4;
  const size: [number, number] = landscape ? [longEdgePx, longEdgePx * 0.75] : [longEdgePx * 0.75, longEdgePx];
  // Towards a side or corner so far that some of the sheet is lost.
  const aside = cut ? spreadMm * roll(0.3, 0.5) : roll(0, 10);
  const way = roll(0, 2 * Math.PI);
  const { photo, pages: seen } = photograph(
    {
      desk: desks[Math.floor(roll(0, desks.length - 1e-6))]!,
      sheets: [
        ...(strange ? [below(inventedDesk(roll), roll(-180, 180))] : []),
        ...(cluttered?.below ?? []),
        ...sheets,
        ...(cluttered?.beside ?? []),
      ],
      camera: { ...usualCamera, at: [aside * Math.cos(way), aside * Math.sin(way)], distance: spreadMm * roll(1.05, cut ? 1.4 : 1.9), tilt: roll(0, 32), azimuth: roll(0, 360), roll: roll(-12, 12) }, // prettier-ignore
      light: anyLight(roll, dim),
      noise: dim < 1 ? roll(5, 10) : roll(1.5, 5),
      seed: i + 1,
    },
    ...size,
  );
  const pages = seen.filter((p) => p.id !== noPage);
  if (held && pages[0]) fingers(photo, pages[0], roll);
  const outside = pages.some((p) => p.quad.some(([x, y]) => x < 0 || y < 0 || x >= photo.width || y >= photo.height));
  const kindOf = cluttered ? 'own-clutter' : outside ? 'own-cutoff' : held ? 'own-held' : category;
  const file = `${kindOf}-${String(i).padStart(4, '0')}.jpg`;
  await sharp(photo.data, { raw: { width: photo.width, height: photo.height, channels: photo.channels } }).jpeg({ quality: Math.round(roll(75, 93)) }).toFile(path.join(dir, file)); // prettier-ignore
  photos.push({ file, category: kindOf, size: [photo.width, photo.height], pages });
}
writeFileSync(path.join(dir, 'truth.json'), JSON.stringify({ photos }));
