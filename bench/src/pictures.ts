import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp, { type OverlayOptions } from 'sharp';
import { analysePage, filters, findPages, finish, flatten, type Filter, type Quad, type Raster } from '@libretto/core';
import { decode } from '@libretto/cli/decode';

const root = fileURLToPath(new URL('../..', import.meta.url));
const photo = (name: string) => decode(path.join(root, 'demo/photos', `${name}.jpg`));
const gap = 12;

interface Panel {
  bytes: Buffer;
  width: number;
  height: number;
}

/** A picture so many px high, with what is drawn over it: SVG in its own px. */
async function panel({ width, height, channels, data }: Raster, high: number, over = ''): Promise<Panel> {
  const wide = Math.round((width * high) / height);
  const small = sharp(data, { raw: { width, height, channels } }).resize(wide, high);
  const svg = Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="${wide}" height="${high}" viewBox="0 0 ${width} ${height}">${over}</svg>`); // prettier-ignore
  const bytes = await small.composite([{ input: svg }]).toColourspace('srgb').png().toBuffer(); // prettier-ignore
  return { bytes, width: wide, height: high };
}

/** Panels in rows, each with a word below it. */
async function write(name: string, rows: { panel: Panel; word: string }[][]): Promise<void> {
  const wordPx = 26;
  const parts: OverlayOptions[] = [];
  let [y, widest] = [gap, 0];
  for (const row of rows) {
    let x = gap;
    const high = Math.max(...row.map((p) => p.panel.height));
    for (const { panel: p, word } of row) {
      parts.push({ input: p.bytes, left: x, top: y + high - p.height });
      const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${Math.max(p.width, 60)}" height="${wordPx}"><text x="0" y="17" font-family="sans-serif" font-size="14" fill="#333">${word}</text></svg>`;
      parts.push({ input: Buffer.from(svg), left: x, top: y + high });
      x += p.width + gap;
    }
    widest = Math.max(widest, x);
    y += high + wordPx + gap;
  }
  const to = path.join(root, 'docs/pictures');
  mkdirSync(to, { recursive: true });
  await sharp({ create: { width: widest, height: y, channels: 3, background: '#f4efe6' } })
    .composite(parts)
    .jpeg({ quality: 84 })
    .toFile(path.join(to, `${name}.jpg`));
  console.log(`docs/pictures/${name}.jpg`);
}

const outline = (points: readonly (readonly number[])[], stroke: number) =>
  `<polygon points="${points.map((p) => p.join(',')).join(' ')}" fill="none" stroke="#d02020" stroke-width="${stroke}"/>`;

/** Photographs with the outlines that are found in them, and their pages. */
async function finding(): Promise<void> {
  const rows = [];
  for (const name of ['hull-survey-1', 'engine-handbook', 'suppliers-cards']) {
    const image = await photo(name);
    const found = findPages(image);
    const stroke = image.width / 250;
    const drawn = found.map(({ quad, polygon }, i) => {
      const [cx, cy] = [0, 1].map((k) => quad.reduce((sum, p) => sum + p[k]!, 0) / 4);
      return `${outline(polygon ?? quad, stroke)}<text x="${cx}" y="${cy}" font-size="${image.height / 9}" fill="#d02020" text-anchor="middle">${i + 1}</text>`;
    });
    const high = found.length > 2 ? 130 : 300;
    const row = [{ panel: await panel(image, 300, drawn.join('')), word: `${name}.jpg` }];
    for (const [i, { quad, polygon }] of found.entries()) {
      const flat = flatten(image, { quad: quad as Quad, ...(polygon && { polygon }), turn: 0 });
      row.push({ panel: await panel(finish(flat, { filter: 'auto' }).image, high), word: `page ${i + 1}` });
    }
    rows.push(row);
  }
  await write('finding', rows);
}

/** Pages under every filter. */
async function finishing(): Promise<void> {
  const rows = [];
  for (const name of ['timber-docket', 'hull-survey-2', 'job-board']) {
    const image = await photo(name);
    const [{ quad }] = findPages(image) as [ReturnType<typeof findPages>[number]];
    const flat = flatten(image, { quad: quad as Quad, turn: 0 });
    const analysis = analysePage(flat);
    const row = [];
    for (const filter of Object.keys(filters) as Filter[]) {
      const auto = analysis.choice.filter === filter ? ', which Auto takes' : '';
      const { image: made } = finish(flat, { filter }, analysis);
      row.push({ panel: await panel(made, Math.round((230 * made.height) / made.width)), word: `${filter}${auto}` });
    }
    rows.push(row);
  }
  await write('finishing', rows);
}

/** Draws the pictures of the documentation from the demo's photographs. */
export async function drawPictures(): Promise<void> {
  await finding();
  await finishing();
}
