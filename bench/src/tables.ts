import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from 'playwright-core';
import sharp from 'sharp';
import { analysePage, findPages, finish, flatten, type Raster } from '@libretto/core';
import { nodeEngine } from '@libretto/cli/engine';
import { usualCamera } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import { style } from '@libretto/demo/sheets/style';
import { onPaper, readPage, tablesIn, type PageText } from '@libretto/text';
import { score } from './adjacency';
import { anyLight } from './scenes/light';
import { rolls } from './scenes/roll';
import { isRuled, tableKinds, tablePage, type TableKind, type TablePage } from './tablePages';

const printDpi = 220;
const photoPx = [2400, 3200] as const;

type Read = Pick<PageText, 'lines' | 'rules'> & { width: number; height: number; widthMm: number; heightMm: number };

/**
 * Tables on printed pages, photographed by our renderer and read by our own reader: F-measure of adjacency relations (Göbel et al., *ICDAR 2013 Table
 * Competition*: neighbouring cells right and below, blank ones passed over), the cells' text compared by letters and digits; and cells equal to the letter.
 *
 * @param each pages of each kind; @param keep folder for what was read, so that a second run only looks for tables.
 */
export async function benchTables(each: number, keep?: string): Promise<void> {
  const dir = keep ?? (await mkdtemp(path.join(tmpdir(), 'libretto-tables-')));
  mkdirSync(dir, { recursive: true });
  const pages = tableKinds.flatMap((kind) => Array.from({ length: each }, (_, i) => tablePage(kind, i + 1)));
  const engine = nodeEngine();
  const printer = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--headless', '--no-sandbox', '--disable-gpu', '--allow-file-access-from-files'] }); // prettier-ignore
  const sheet = await printer.newPage({ deviceScaleFactor: printDpi / 96 });
  const sums = new Map<TableKind | 'ruled, all' | 'unruled, all', { hit: number; said: number; true: number; right: number; cells: number; shapes: number; tables: number }>(); // prettier-ignore
  for (const [i, page] of pages.entries()) {
    const file = path.join(dir, `${page.id}.json`);
    if (!existsSync(file)) {
      const picture = await printed(sheet, page);
      writeFileSync(file, JSON.stringify(await read(picture, page, i)));
    }
    const its = JSON.parse(readFileSync(file, 'utf8')) as Read | null;
    const found = its ? tablesIn(onPaper(its, its.widthMm / its.width, its.heightMm / its.height)).tables : [];
    const got = score(page.tables, found.map((t) => t.rows)); // prettier-ignore
    if (got.hit < 0.8 * got.true || got.hit < 0.8 * got.said) console.log(`${page.id}: ${got.hit} of ${got.true}, ${got.said} said; ${found.map((t) => `${t.rows.length}×${t.rows[0]!.length}`).join(' ')} for ${page.tables.map((t) => `${t.length}×${t[0]!.length}`).join(' ')}`); // prettier-ignore
    for (const row of [page.kind, isRuled(page.kind) ? 'ruled, all' : 'unruled, all'] as const) {
      const sum = sums.get(row) ?? { hit: 0, said: 0, true: 0, right: 0, cells: 0, shapes: 0, tables: 0 };
      for (const key of Object.keys(sum) as (keyof typeof sum)[]) sum[key] += got[key];
      sums.set(row, sum);
    }
  }
  await printer.close();
  await engine.end();
  console.log('tables                pages  F      precision recall rows×columns  cells equal to the letter');
  const figures: Record<string, number> = {};
  for (const [row, s] of sums) {
    const [p, r] = [s.hit / Math.max(1, s.said), s.hit / Math.max(1, s.true)];
    const f = (2 * p * r) / Math.max(1e-9, p + r);
    figures[row] = Math.round(f * 1000) / 1000;
    console.log(`${row.padEnd(22)}${String(pages.filter((q) => q.kind === row || (row.endsWith('all') && isRuled(q.kind) === (row === 'ruled, all'))).length).padEnd(7)}${f.toFixed(3)}  ${p.toFixed(3)}     ${r.toFixed(3)}  ${`${s.shapes} of ${s.tables}`.padEnd(13)} ${(s.right / s.cells).toFixed(3)}`); // prettier-ignore
  }
  console.log(JSON.stringify(figures));

  async function read(picture: Raster, page: TablePage, at: number): Promise<Read | null> {
    const roll = rolls(31 + at);
    const { photo } = photograph(
      {
        desk: 'oak',
        sheets: [{ id: page.id, picture, widthMm: page.widthMm, heightMm: page.heightMm, xMm: roll(-4, 4), yMm: roll(-4, 4), angle: roll(-5, 5), bend: { kind: 'flat' } }], // prettier-ignore
        camera: {
          ...usualCamera,
          tilt: roll(4, 20),
          azimuth: roll(0, 360),
          distance: (usualCamera.distance * Math.max(page.heightMm, 1.34 * page.widthMm) * 1.06) / 297,
        },
        light: anyLight(roll, roll(0.7, 1)),
        noise: roll(2, 7),
        seed: 900 + at,
      },
      ...photoPx,
    );
    const outline = findPages(photo)[0];
    if (!outline) {
      console.log(`${page.id}: no page found`);
      return null;
    }
    const flat = flatten(
      photo,
      { quad: outline.quad, ...(outline.polygon && { polygon: outline.polygon }), turn: 0 },
      { alone: true },
    );
    const { image, widthMm, heightMm } = finish(flat, { filter: 'grey' }, analysePage(flat));
    const { lines, rules } = await readPage(image, engine, { widthMm });
    return { lines, rules, width: image.width, height: image.height, widthMm, heightMm };
  }
}

async function printed(sheet: import('playwright-core').Page, page: TablePage): Promise<Raster> {
  const px = (mm: number) => Math.round((mm / 25.4) * 96);
  await sheet.setViewportSize({ width: px(page.widthMm), height: px(page.heightMm) });
  await sheet.goto('about:blank');
  const file = path.join(await mkdtemp(path.join(tmpdir(), 'libretto-print-')), 'sheet.html');
  writeFileSync(file, `<!doctype html><meta charset="utf-8"><style>${style}</style><style>body{width:${page.widthMm}mm;height:${page.heightMm}mm;background:#fdfdfb}</style><body>${page.html}</body>`); // prettier-ignore
  await sheet.goto(`file://${file}`);
  await sheet.evaluate(() => document.fonts.ready);
  const { data, info } = await sharp(await sheet.screenshot()).removeAlpha().raw().toBuffer({ resolveWithObject: true }); // prettier-ignore
  return { width: info.width, height: info.height, channels: 3, data };
}
