import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from 'playwright-core';
import sharp from 'sharp';
import { analysePage, findPages, finish, flatten, type Filter, type Raster, type RenderedPage } from '@libretto/core';
import { nodeEngine } from '@libretto/cli/engine';
import { usualCamera } from '@libretto/demo/photographs';
import { photograph } from '@libretto/demo/scene/photograph';
import { style } from '@libretto/demo/sheets/style';
import { readPage, type PageText } from '@libretto/text';
import { anyLight } from './scenes/light';
import { rolls } from './scenes/roll';

const printDpi = 220;
const photoPx = [2400, 3200] as const;

/** A sheet to be printed; its pictures lie beside it. */
export interface Sheet {
  id: string;
  html: string;
  widthMm: number;
  heightMm: number;
}

/** What our own reader read on one. */
export type SheetRead = Pick<PageText, 'lines' | 'rules'> & {
  width: number;
  height: number;
  widthMm: number;
  heightMm: number;
};

/**
 * Prints sheets with the browser, photographs each by our renderer on an oak desk under some light, finds, flattens, finishes and reads it.
 *
 * @param keep folder for what was read, so that a second run only takes it up.
 * @param each hears each sheet with what was read on it; null where no page was found.
 */
export async function readSheets<S extends Sheet>(
  sheets: readonly S[],
  name: string,
  keep: string | undefined,
  each: (sheet: S, read: SheetRead | null, image: Raster | null) => void | Promise<void>,
  codes = false,
): Promise<void> {
  const dir = keep ?? (await mkdtemp(path.join(tmpdir(), `libretto-${name}-`)));
  mkdirSync(dir, { recursive: true });
  const engine = nodeEngine();
  const { paper, close } = await printer();
  for (const [at, sheet] of sheets.entries()) {
    const file = path.join(dir, `${sheet.id}.json`);
    let image: Raster | null = null;
    if (codes || !existsSync(file)) {
      const finished = await finishedSheet(paper, sheet, at);
      image = finished?.image ?? null;
      const { lines, rules } =
        finished && !codes ? await readPage(finished.image, engine, { widthMm: finished.widthMm }) : { lines: [], rules: [] };
      writeFileSync(
        file,
        JSON.stringify(
          finished && {
            lines,
            rules,
            width: finished.image.width,
            height: finished.image.height,
            widthMm: finished.widthMm,
            heightMm: finished.heightMm,
          },
        ),
      );
    }
    await each(sheet, JSON.parse(readFileSync(file, 'utf8')) as SheetRead | null, image);
  }
  await close();
  await engine.end();
}

/** A browser whose pages are paper. */
export async function printer() {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--headless', '--no-sandbox', '--disable-gpu', '--allow-file-access-from-files'],
  });
  const paper = await browser.newPage({ deviceScaleFactor: printDpi / 96 });
  return { paper, close: () => browser.close() };
}

/** A sheet printed, photographed and finished; null where no page was found. */
export async function finishedSheet(
  paper: import('playwright-core').Page,
  sheet: Sheet,
  at: number,
  filter: Filter = 'grey',
): Promise<RenderedPage | null> {
  return photographed(await printed(paper, sheet), sheet, at, filter);
}

function photographed(picture: Raster, { id, widthMm, heightMm }: Sheet, at: number, filter: Filter) {
  const roll = rolls(31 + at);
  const { photo } = photograph(
    {
      desk: 'oak',
      sheets: [
        { id, picture, widthMm, heightMm, xMm: roll(-4, 4), yMm: roll(-4, 4), angle: roll(-5, 5), bend: { kind: 'flat' } },
      ],
      camera: {
        ...usualCamera,
        tilt: roll(4, 20),
        azimuth: roll(0, 360),
        distance: (usualCamera.distance * Math.max(heightMm, 1.34 * widthMm) * 1.06) / 297,
      },
      light: anyLight(roll, roll(0.7, 1)),
      noise: roll(2, 7),
      seed: 900 + at,
    },
    ...photoPx,
  );
  const outline = findPages(photo)[0];
  if (!outline) {
    console.log(`${id}: no page found`);
    return null;
  }
  const flat = flatten(
    photo,
    { quad: outline.quad, ...(outline.polygon && { polygon: outline.polygon }), turn: 0 },
    { alone: true },
  );
  return finish(flat, { filter }, analysePage(flat));
}

async function printed(sheet: import('playwright-core').Page, page: Sheet): Promise<Raster> {
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
