import path from 'node:path';
import sharp from 'sharp';
import { finish, type Raster } from '@libretto/core';
import { dibco } from './dibco';
import { flatPages, type FlatPagesOptions } from './flatPages';
import { loadOpenCv, textbookInk, type OpenCv } from './textbook';

/** What has no paper to be black on white, or is not shown whole. */
const left = new Set(['screen', 'whiteboard', 'cutoff']);
/** The rim that is left out, share of the longer side: half a pixel of the outline would decide there. */
const rim = 0.012;

async function inkOf(page: Raster, width: number, height: number): Promise<Uint8Array> {
  const { data } = await sharp(page.data, { raw: { width: page.width, height: page.height, channels: 1 } })
    .resize(width, height, { fit: 'fill', kernel: 'linear' })
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true });
  return inside(data, width, height, 128);
}

function inside(grey: Uint8Array, width: number, height: number, below: number): Uint8Array {
  const margin = Math.max(4, Math.floor(rim * Math.max(width, height)));
  const out: number[] = [];
  for (let y = margin; y < height - margin; y++) for (let x = margin; x < width - margin; x++) out.push(+(grey[y * width + x]! < below)); // prettier-ignore
  return Uint8Array.from(out);
}

/** Ink pages against the clean ones, by category, beside three textbook binarisations of the same cut-out. Flat paper only. */
export async function benchBinary(dir: string, pages: FlatPagesOptions): Promise<void> {
  const { cv } = await loadOpenCv();
  const methods: Record<string, (cv: OpenCv, page: Parameters<typeof finish>[0]) => Raster> = {
    ink: (_, page) => finish(page, { filter: 'ink' }).image,
    otsu: (_cv, page) => textbookInk(_cv, page.image, 'otsu'),
    mean: (_cv, page) => textbookInk(_cv, page.image, 'mean'),
    sauvola: (_cv, page) => textbookInk(_cv, page.image, 'sauvola'),
  };
  const names = Object.keys(methods);
  const scores = new Map<string, Record<string, { fMeasure: number; psnr: number }>[]>();
  for await (const { category, truth, flat } of flatPages(dir, pages)) {
    if (left.has(category) || !truth.flat || !['flat', 'dogear', 'stapled'].includes(truth.surface ?? '')) continue;
    const clean = await sharp(path.join(dir, truth.flat)).greyscale().raw().toBuffer({ resolveWithObject: true });
    const { width, height } = clean.info;
    const grey = new Uint8Array(clean.data);
    const wanted = inside(grey, width, height, Math.min(190, Math.max(90, otsuLevel(grey))));
    const row: Record<string, { fMeasure: number; psnr: number }> = {};
    for (const name of names) row[name] = dibco(wanted, await inkOf(methods[name]!(cv, flat), width, height));
    for (const key of [category, 'all']) scores.set(key, [...(scores.get(key) ?? []), row]);
  }
  if (!scores.size) return console.log('no flat page with a clean twin in this truth');
  console.log(`F-measure / PSNR dB   pages ${names.map((n) => n.padEnd(14)).join('')}`);
  const mean = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  for (const key of [...scores.keys()].filter((k) => k !== 'all').concat('all')) {
    const rows = scores.get(key)!;
    console.log(
      `${key.padEnd(22)}${String(rows.length).padEnd(6)}${names.map((n) => `${mean(rows.map((r) => r[n]!.fMeasure)).toFixed(1)} / ${mean(rows.map((r) => r[n]!.psnr)).toFixed(1)}`.padEnd(14)).join('')}`,
    );
  }
}

/** Otsu, "A threshold selection method from gray-level histograms", IEEE Trans. SMC 9 (1979). */
function otsuLevel(grey: Uint8Array): number {
  const counts = new Float64Array(256);
  for (const v of grey) counts[v]!++;
  const total = grey.length;
  const sum = counts.reduce((s, n, v) => s + n * v, 0);
  let [best, at, below, belowSum] = [-1, 0, 0, 0];
  for (let t = 0; t < 256; t++) {
    below += counts[t]!;
    belowSum += t * counts[t]!;
    if (!below || below === total) continue;
    const between = below * (total - below) * (belowSum / below - (sum - belowSum) / (total - below)) ** 2;
    if (between > best) [best, at] = [between, t];
  }
  return at;
}
