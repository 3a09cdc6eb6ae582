/**
 * Trains the network that tells which way up a mark of print is, and writes `core/src/upright/weights.ts`.
 *
 *     tsx bench/src/trainTextOrientation.ts DIR...     folders of clean, upright pages (PNG or JPEG at about 200 dpi)
 *
 * Pages are blurred, made noisy and shrunk at random, as photographs are. One page in five is kept aside, and what is printed is measured on those.
 */
import { readdirSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { glyphViews, turnedView, viewCells } from '../../core/src/upright/glyphs';

const hidden = 24;
const inputs = viewCells * viewCells;
let seed = 12345;
const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 4294967296);
const normal = () => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());

async function worn(file: string): Promise<Raster> {
  const { width = 1000, height = 1000 } = await sharp(file).metadata();
  const scale = (1000 + random() * 900) / Math.max(width, height);
  let picture = sharp(file).resize(Math.round(width * scale), Math.round(height * scale));
  const blur = random() * 1.3;
  if (blur > 0.35) picture = picture.blur(blur);
  const turn = (random() - 0.5) * 5;
  const { data, info } = await picture
    .rotate(turn, { background: '#fff' })
    .removeAlpha()
    .toColourspace('b-w')
    .raw()
    .toBuffer({ resolveWithObject: true });
  const noise = random() * 14;
  const out = new Uint8Array(info.width * info.height);
  for (let i = 0; i < out.length; i++)
    out[i] = Math.max(0, Math.min(255, 25 + data[i * info.channels]! * 0.8 + normal() * noise));
  return { width: info.width, height: info.height, channels: 1, data: out };
}

const files = process.argv.slice(2).flatMap((dir) => readdirSync(dir).map((f) => path.join(dir, f)));
const pages: { views: Float32Array[]; test: boolean }[] = [];
for (const [i, file] of files.entries()) {
  const views: Float32Array[] = [];
  for (let k = 0; k < 2; k++) views.push(...glyphViews(await worn(file), 150));
  pages.push({ views, test: i % 5 === 4 });
}
const train = pages.filter((p) => !p.test).flatMap((p) => p.views);
console.log(`${files.length} pages, ${train.length} marks to learn from`);

const w1 = Float32Array.from({ length: inputs * hidden + hidden }, (_, i) => (i < inputs * hidden ? normal() * 0.06 : 0));
const w2 = Float32Array.from({ length: hidden * 4 + 4 }, (_, i) => (i < hidden * 4 ? normal() * 0.3 : 0));

function forward(x: Float32Array, h: Float32Array): number[] {
  const s = [w2[hidden * 4]!, w2[hidden * 4 + 1]!, w2[hidden * 4 + 2]!, w2[hidden * 4 + 3]!];
  for (let j = 0; j < hidden; j++) {
    let sum = w1[inputs * hidden + j]!;
    for (let i = 0, r = j * inputs; i < inputs; i++) sum += w1[r + i]! * x[i]!;
    h[j] = sum > 0 ? sum : 0;
    if (sum > 0) for (let k = 0; k < 4; k++) s[k] = s[k]! + w2[j * 4 + k]! * sum;
  }
  const top = Math.max(...s);
  const e = s.map((v) => Math.exp(v - top));
  const all = e.reduce((a, b) => a + b, 0);
  return e.map((v) => v / all);
}

const h = new Float32Array(hidden);
const epochs = Number(process.env.EPOCHS ?? 8);
const order = Uint32Array.from({ length: train.length }, (_, i) => i);
const m1 = new Float32Array(w1.length);
const m2 = new Float32Array(w2.length);
for (let epoch = 0; epoch < epochs; epoch++) {
  for (let i = order.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [order[i], order[j]] = [order[j]!, order[i]!];
  }
  let loss = 0;
  const g1 = new Float32Array(w1.length);
  const g2 = new Float32Array(w2.length);
  let inBatch = 0;
  for (const [n, index] of order.entries()) {
    let x = train[index]!;
    // A view turned clockwise by q quarters needs 4 − q more.
    const q = Math.floor(random() * 4);
    for (let k = 0; k < q; k++) x = turnedView(x);
    const label = (4 - q) % 4;
    const p = forward(x, h);
    loss -= Math.log(Math.max(1e-9, p[label]!));
    for (let k = 0; k < 4; k++) {
      const d = p[k]! - (k === label ? 1 : 0);
      g2[hidden * 4 + k] = g2[hidden * 4 + k]! + d;
      for (let j = 0; j < hidden; j++) g2[j * 4 + k] = g2[j * 4 + k]! + d * h[j]!;
    }
    for (let j = 0; j < hidden; j++) {
      if (h[j]! <= 0) continue;
      let d = 0;
      for (let k = 0; k < 4; k++) d += (p[k]! - (k === label ? 1 : 0)) * w2[j * 4 + k]!;
      g1[inputs * hidden + j] = g1[inputs * hidden + j]! + d;
      for (let i = 0, r = j * inputs; i < inputs; i++) g1[r + i] = g1[r + i]! + d * x[i]!;
    }
    if (++inBatch < 32 && n < order.length - 1) continue;
    const rate = 0.25 * (1 - (epoch + n / order.length) / epochs) + 0.002;
    const step = (w: Float32Array, m: Float32Array, g: Float32Array) => {
      for (let i = 0; i < w.length; i++) {
        m[i] = 0.9 * m[i]! - ((rate * g[i]!) / inBatch) * 0.1 - rate * 1e-5 * w[i]!;
        w[i] = w[i]! + m[i]!;
        g[i] = 0;
      }
    };
    step(w1, m1, g1);
    step(w2, m2, g2);
    inBatch = 0;
  }
  console.log(`epoch ${epoch + 1}: loss ${(loss / order.length).toFixed(3)}`);
}

let marksRight = 0;
let marksAll = 0;
let pagesRight = 0;
let pagesAll = 0;
for (const { views } of pages.filter((p) => p.test && p.views.length > 8)) {
  const sums = [0, 0, 0, 0];
  for (const x of views) {
    const p = forward(x, h);
    if (p.indexOf(Math.max(...p)) === 0) marksRight++;
    marksAll++;
    for (let k = 0; k < 4; k++) sums[k] = sums[k]! + Math.max(-3, Math.log(p[k]!));
  }
  if (sums.indexOf(Math.max(...sums)) === 0) pagesRight++;
  pagesAll++;
}
console.log(`kept aside: ${((100 * marksRight) / marksAll).toFixed(1)} % of the marks, ${pagesRight} of ${pagesAll} pages`);

/** Eight bits a weight are enough, and small. */
const packed = (w: Float32Array) => {
  const top = w.reduce((a, v) => Math.max(a, Math.abs(v)), 0);
  const bytes = Int8Array.from(w, (v) => Math.round((v / top) * 127));
  return `unpack('${Buffer.from(bytes.buffer).toString('base64')}', ${(top / 127).toPrecision(6)})`;
};
writeFileSync(
  new URL('../../core/src/upright/weights.ts', import.meta.url),
  `// Written by bench/src/trainTextOrientation.ts.
import { unpack } from './unpack';

export const hidden = ${hidden};
/** A row of 400 for each hidden unit, then their constants. */
export const inputWeights = ${packed(w1)};
/** Four for each hidden unit, then four constants. */
export const outputWeights = ${packed(w2)};
`,
);
