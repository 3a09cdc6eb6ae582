/**
 * Makes the demo anew: prints the sheets (Chromium lays them out), photographs them with the scene renderer and writes `photos/` with their
 * truth. `npm run demo:make [-- NAME...]`.
 */
import { mkdir, mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium } from 'playwright-core';
import sharp from 'sharp';
import type { Raster } from '@libretto/core';
import { shots, usualCamera, usualLight, type Shot } from './photographs';
import { photograph } from './scene/photograph';
import type { LaidSheet } from './scene/scene';
import { sheets } from './sheets/sheets';
import { style } from './sheets/style';

const out = fileURLToPath(new URL('../photos/', import.meta.url));
const flatDir = fileURLToPath(new URL('../flat/', import.meta.url));
const printDpi = 220;

/** Prints the wanted sheets to PNG at 220 dpi and returns their words. */
async function print(wanted: ReadonlySet<string>): Promise<Map<string, { picture: Raster; text: string }>> {
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--headless', '--no-sandbox', '--disable-gpu', '--allow-file-access-from-files'],
  });
  const printed = new Map<string, { picture: Raster; text: string }>();
  const page = await browser.newPage({ deviceScaleFactor: printDpi / 96 });
  const shell = path.join(await mkdtemp(path.join(tmpdir(), 'libretto-print-')), 'sheet.html');
  for (const sheet of sheets.filter(({ id }) => wanted.has(id))) {
    // A board is large and its writing coarse.
    const shrink = Math.min(1, 420 / Math.max(sheet.widthMm, sheet.heightMm));
    const px = (mm: number) => Math.round((mm / 25.4) * 96);
    await page.setViewportSize({
      width: Math.round(px(sheet.widthMm) * shrink),
      height: Math.round(px(sheet.heightMm) * shrink),
    });
    await writeFile(
      shell,
      `<!doctype html><meta charset="utf-8"><style>${style}</style><style>html{zoom:${shrink}}body{width:${sheet.widthMm}mm;height:${sheet.heightMm}mm;background:${sheet.background ?? '#fdfdfb'}}</style><body>${sheet.html}</body>`,
    );
    await page.goto(`file://${shell}`);
    await page.evaluate(() => document.fonts.ready);
    const png = await page.screenshot();
    await writeFile(`${flatDir}${sheet.id}.png`, png);
    const { data, info } = await sharp(png).removeAlpha().raw().toBuffer({ resolveWithObject: true });
    printed.set(sheet.id, {
      picture: { width: info.width, height: info.height, channels: 3, data },
      text: await page.evaluate(() => document.body.innerText),
    });
  }
  await browser.close();
  return printed;
}

async function shoot(shot: Shot, index: number, printed: Map<string, { picture: Raster; text: string }>) {
  const laid = shot.sheets.map((s): LaidSheet => {
    const sheet = sheets.find((o) => o.id === s.id)!;
    return {
      id: s.id,
      picture: printed.get(s.id)!.picture,
      widthMm: sheet.widthMm,
      heightMm: sheet.heightMm,
      xMm: s.xMm ?? 0,
      yMm: s.yMm ?? 0,
      angle: s.angle ?? 0,
      bend: s.bend ?? { kind: 'flat' },
      ...(s.spread && { spread: true }),
    };
  });
  const [width, height] = shot.landscape ? [4000, 3000] : [3000, 4000];
  const scene = {
    desk: shot.desk,
    sheets: laid,
    camera: { ...usualCamera, ...shot.camera },
    light: { ...usualLight, ...shot.light },
    noise: shot.noise ?? 5,
    seed: 100 + index,
  };
  const { photo, pages } = photograph(scene, width, height);
  const file = `${shot.file}.jpg`;
  const info = await sharp(photo.data, { raw: { width, height, channels: 3 } })
    .blur(0.75)
    .jpeg({ quality: shot.quality ?? 84 })
    .toFile(out + file);
  console.log(`${file} ${(info.size / 1e6).toFixed(2)} MB`);
  const text = shot.sheets.map((s) => printed.get(s.id)!.text).join('\n\n');
  return {
    file,
    document: shot.document,
    onShelf: shot.onShelf,
    category: shot.desk,
    size: [width, height],
    pages,
    text,
    bytes: info.size,
  };
}

const only = process.argv.slice(2);
await mkdir(out, { recursive: true });
await mkdir(flatDir, { recursive: true });
const wanted = shots.filter(({ file }) => !only.length || only.includes(file));
// The reel shows sheets that no photograph shows.
const shown = only.length ? wanted.flatMap((shot) => shot.sheets) : sheets;
const printed = await print(new Set(shown.map(({ id }) => id)));
const photos: Awaited<ReturnType<typeof shoot>>[] = [];
for (const shot of wanted) photos.push(await shoot(shot, shots.indexOf(shot), printed));
const before = only.length ? (JSON.parse(await readFile(`${out}truth.json`, 'utf8')) as { photos: typeof photos }).photos : [];
const all = shots.flatMap(({ file }) => [...photos, ...before].find((photo) => photo.file === `${file}.jpg`) ?? []);
await writeFile(`${out}truth.json`, `${JSON.stringify({ photos: all }, null, 1)}\n`);
