import path from 'node:path';
import sharp from 'sharp';
import { finish, type Raster } from '@libretto/core';
import { labPlanes } from '@libretto/core/raster/colour';
import { boxMean } from '@libretto/core/raster/blur';
import { ciede2000 } from './ciede2000';
import { flatPages, type FlatPagesOptions } from './flatPages';

/** Both pages are compared at this size: a pixel is about half a millimetre of A4. */
const comparedEdgePx = 600;
/** A place is paper where the clean page is white all round it, a colour field where it has clear chroma all round, and a coloured stroke where it has clear chroma far from fields. */
const aroundPx = 3;
const whiteL = 97;
const fieldChroma = 15;
const strokeChroma = 18;
/** Not paper at all, or not meant to be made white. */
const left = new Set(['blankdesk', 'screen', 'whiteboard']);

interface Score {
  paper: number[];
  uneven: number[];
  colour: number[];
  strokes: number[];
}

/** CIE L* of the paper (100 is white), how much it varies over the page, and how far coloured fields and strokes are off, for the finished page and for the cut-out. */
export async function benchFinish(dir: string, pages: FlatPagesOptions): Promise<void> {
  const scores = new Map<string, Record<'auto' | 'cut', Score>>();
  const of = (key: string) => {
    const empty = (): Score => ({ paper: [], uneven: [], colour: [], strokes: [] });
    return scores.get(key) ?? scores.set(key, { auto: empty(), cut: empty() }).get(key)!;
  };
  for await (const { category, truth, flat } of flatPages(dir, pages)) {
    if (!truth.flat || left.has(category)) continue;
    const clean = await small(sharp(path.join(dir, truth.flat)));
    const pages = { auto: finish(flat, { filter: 'auto' }).image, cut: flat.image };
    for (const name of ['auto', 'cut'] as const) {
      const score = compare(clean, await small(asSharp(pages[name]), clean));
      if (!score) continue;
      for (const key of [category, 'all'])
        for (const measure of ['paper', 'uneven', 'colour', 'strokes'] as const)
          if (score[measure] !== null) of(key)[name][measure].push(score[measure]);
    }
  }
  console.log('               paper L*        uneven (σ of L*)  off by CIEDE2000: colour fields         coloured strokes');
  console.log('               auto    cut-out auto    cut-out   auto    cut-out pages   auto    cut-out pages');
  for (const key of [...scores.keys()].filter((k) => k !== 'all').concat('all')) {
    const { auto, cut } = of(key);
    const cell = (v: readonly number[], digits = 1) => (v.length ? (v.reduce((s, x) => s + x, 0) / v.length).toFixed(digits) : '–').padEnd(8); // prettier-ignore
    console.log(`${key.padEnd(15)}${cell(auto.paper)}${cell(cut.paper)}${cell(auto.uneven, 2)}${cell(cut.uneven, 2)}  ${cell(auto.colour)}${cell(cut.colour)}${String(auto.colour.length).padEnd(8)}${cell(auto.strokes)}${cell(cut.strokes)}${auto.strokes.length}`); // prettier-ignore
  }
}

const asSharp = ({ width, height, channels, data }: Raster) => sharp(data, { raw: { width, height, channels } });

async function small(image: ReturnType<typeof sharp>, like?: Raster): Promise<Raster> {
  const size = like ? { width: like.width, height: like.height, fit: 'fill' as const } : { width: comparedEdgePx, height: comparedEdgePx, fit: 'inside' as const }; // prettier-ignore
  const { data, info } = await image.resize(size).removeAlpha().toColourspace('srgb').raw().toBuffer({ resolveWithObject: true });
  return { width: info.width, height: info.height, channels: info.channels as 1 | 3, data };
}

function compare(clean: Raster, page: Raster) {
  const wanted = labPlanes(clean);
  const made = labPlanes(page);
  const n = clean.width * clean.height;
  const chroma = new Float32Array(n).map((_, i) => Math.hypot(wanted[1].data[i]!, wanted[2].data[i]!));
  const all = (test: (i: number) => boolean) =>
    boxMean({ ...wanted[0], data: new Float32Array(n).map((_, i) => Number(test(i))) }, aroundPx).data;
  const paper = all((i) => wanted[0].data[i]! > whiteL && chroma[i]! < 4);
  const field = all((i) => chroma[i]! > fieldChroma);
  const nearField = boxMean({ ...wanted[0], data: field.map((v) => Number(v > 0.999)) }, 2 * aroundPx).data;
  const light: number[] = [];
  const off: number[] = [];
  const strokes: number[] = [];
  for (let i = 0; i < n; i++) {
    if (paper[i]! > 0.999) light.push(made[0].data[i]!);
    const isStroke = chroma[i]! > strokeChroma && nearField[i]! === 0;
    if (field[i]! <= 0.999 && !isStroke) continue;
    const lab = (planes: typeof wanted) => [planes[0].data[i]!, planes[1].data[i]!, planes[2].data[i]!] as const;
    (isStroke ? strokes : off).push(ciede2000(lab(wanted), lab(made)));
  }
  if (light.length < 0.05 * n) return null;
  const meanOf = (v: readonly number[], least: number) =>
    v.length > least * n ? v.reduce((sum, x) => sum + x, 0) / v.length : null;
  const mean = light.reduce((s, v) => s + v, 0) / light.length;
  const spread = Math.sqrt(light.reduce((s, v) => s + (v - mean) ** 2, 0) / light.length);
  return { paper: mean, uneven: spread, colour: meanOf(off, 0.003), strokes: meanOf(strokes, 0.0005) };
}
