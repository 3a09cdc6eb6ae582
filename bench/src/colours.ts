import sharp from 'sharp';
import { finish, flatten, type Quad, type Raster } from '@libretto/core';
import { labPlanes } from '@libretto/core/raster/colour';
import { usualCamera, usualLight } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import type { Desk } from '@libretto/demo/scene/desk';
import { ciede2000 } from './ciede2000';
import { colourKinds, colourPaper, type ColourKind } from './scenes/colourPapers';
import { rolls } from './scenes/roll';

const desks: readonly Desk[] = ['oak', 'slate', 'felt', 'laminate', 'checked'];
const comparedEdgePx = 420;
/** What the print has that is no bare paper: darker than this or more colourful. */
const [bareL, bareChroma] = [94, 5];

interface Score {
  off: number;
  chroma: number;
  bare: number;
}

/** Pages full of colour, photographed by our renderer: how far off the print the page is (CIEDE2000, mean over it), how much of its chroma is kept (median ratio where it has some), how much of its print became bare paper; *Auto* and the cut-out, true outlines. */
export async function benchColours(count: number, keep?: string): Promise<void> {
  const all: Record<string, { auto: Score[]; cut: Score[]; filters: string[] }> = {};
  for (const kind of colourKinds) {
    const row = { auto: [] as Score[], cut: [] as Score[], filters: [] as string[] };
    for (let i = 0; i < count; i++) {
      const { clean, flat } = await photographed(kind, i);
      const auto = finish(flat, { filter: 'auto' });
      row.filters.push(auto.filter);
      const [wanted, made, cut] = [await small(clean), await small(auto.image, clean), await small(flat.image, clean)];
      row.auto.push(score(wanted, made));
      row.cut.push(score(wanted, cut));
      if (keep) await sideBySide(`${keep}/${kind}-${i}.png`, [wanted, cut, made]);
    }
    all[kind] = row;
    const mean = (scores: readonly Score[], of: keyof Score) => scores.reduce((sum, s) => sum + s[of], 0) / scores.length;
    const cell = (of: keyof Score, scale = 1, digits = 1) => `${(scale * mean(row.auto, of)).toFixed(digits)} (${(scale * mean(row.cut, of)).toFixed(digits)})`.padEnd(15); // prettier-ignore
    console.log(`${kind.padEnd(11)}${cell('off')}${cell('chroma', 1, 2)}${cell('bare', 100, 0)}${row.filters.join(' ')}  ${row.auto.map((s, i) => `${s.off.toFixed(0)}/${row.cut[i]!.off.toFixed(0)}`).join(' ')}`); // prettier-ignore
  }
  const mean = (v: readonly number[]) => +(v.reduce((a, b) => a + b, 0) / v.length).toFixed(3);
  const rows = Object.values(all);
  const of = (of: keyof Score, who: 'auto' | 'cut') => mean(rows.flatMap((r) => r[who].map((s) => s[of])));
  const farther = mean(rows.flatMap((r) => r.auto.map((s, i) => Number(s.off > r.cut[i]!.off + 0.5))));
  console.log(JSON.stringify({ off: of('off', 'auto'), offCut: of('off', 'cut'), chroma: of('chroma', 'auto'), bare: of('bare', 'auto'), bareCut: of('bare', 'cut'), farther })); // prettier-ignore
}

export async function photographed(kind: ColourKind, i: number) {
  const roll = rolls((colourKinds.indexOf(kind) + 1) * 7919 + i * 104729 + 5);
  roll(0, 1);
  const { picture, widthMm, heightMm } = await colourPaper(kind, roll);
  const long = Math.max(widthMm, heightMm);
  const dim = roll(0, 1) < 0.25 ? 0.4 : 1;
  const { photo, pages } = photograph(
    {
      desk: desks[i % desks.length]!,
      sheets: [{ id: kind, picture, widthMm, heightMm, xMm: 0, yMm: 0, angle: roll(-6, 6), bend: { kind: 'flat' } }],
      camera: { ...usualCamera, at: [0, 0], distance: long * roll(1.2, 1.6), tilt: roll(0, 20), azimuth: roll(0, 360), roll: widthMm > heightMm ? 90 : 0 }, // prettier-ignore
      light: {
        ...usualLight,
        ambient: usualLight.ambient * dim,
        lamp: { ...usualLight.lamp, x: roll(-400, 400), y: roll(-400, 400), power: usualLight.lamp.power * dim },
        colour: [1, roll(0.93, 1), roll(0.76, 1.02)],
        ...(roll(0, 1) < 0.4 && { shadow: { x: roll(-60, 60), y: roll(-80, 80), width: 130, height: 250, angle: roll(-40, 40), softMm: roll(20, 70), depth: roll(0.4, 0.7) } }), // prettier-ignore
      },
      noise: dim < 1 ? 7 : roll(1.5, 4),
      seed: i + 1,
    },
    1350,
    1800,
  );
  const raw = { width: photo.width, height: photo.height, channels: 3 as const };
  const jpeg = await sharp(photo.data, { raw }).jpeg({ quality: 85 }).toBuffer();
  const seen: Raster = { ...photo, data: await sharp(jpeg).raw().toBuffer() };
  const quad = pages[0]!.quad as unknown as Quad;
  const flat = flatten(seen, { quad, turn: 0, size: { widthMm, heightMm, name: null } });
  return { clean: picture, flat };
}

export async function small({ width, height, channels, data }: Raster, like?: Raster): Promise<Raster> {
  const scale = comparedEdgePx / Math.max((like ?? { width }).width, (like ?? { height }).height);
  const size = { width: Math.round((like?.width ?? width) * scale), height: Math.round((like?.height ?? height) * scale), fit: 'fill' as const }; // prettier-ignore
  const made = await sharp(data, { raw: { width, height, channels } }).resize(size).removeAlpha().toColourspace('srgb').raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
  return { width: made.info.width, height: made.info.height, channels: 3, data: made.data };
}

export function score(wanted: Raster, made: Raster): Score {
  const [a, b] = [labPlanes(wanted), labPlanes(made)];
  let [off, printed, bare, n] = [0, 0, 0, 0];
  const ratios: number[] = [];
  const margin = 6;
  for (let y = margin; y < wanted.height - margin; y++)
    for (let x = margin; x < wanted.width - margin; x++) {
      const i = y * wanted.width + x;
      const lab = (planes: typeof a) => [planes[0].data[i]!, planes[1].data[i]!, planes[2].data[i]!] as const;
      const [w, m] = [lab(a), lab(b)];
      off += ciede2000(w, m);
      n++;
      const [cw, cm] = [Math.hypot(w[1], w[2]), Math.hypot(m[1], m[2])];
      if (cw > 8) ratios.push(Math.min(1.2, cm / cw));
      if (w[0] > bareL && cw < bareChroma) continue;
      printed++;
      if (m[0] > 97 && cm < 3) bare++;
    }
  return { off: off / n, chroma: ratios.length ? ratios.reduce((s, r) => s + r, 0) / ratios.length : 1, bare: printed ? bare / printed : 0 }; // prettier-ignore
}

export async function sideBySide(file: string, images: readonly Raster[]): Promise<void> {
  const parts = images.map(({ width, height, data }, i) => ({ input: Buffer.from(data), raw: { width, height, channels: 3 as const }, left: i * (width + 8), top: 0 })); // prettier-ignore
  const { width, height } = images[0]!;
  await sharp({ create: { width: images.length * (width + 8), height, channels: 3, background: '#888' } }).composite(parts).png().toFile(file); // prettier-ignore
}
