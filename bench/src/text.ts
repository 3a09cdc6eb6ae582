import { execFile } from 'node:child_process';
import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import sharp, { type Sharp } from 'sharp';
import { finish, type Raster } from '@libretto/core';
import { characterError } from './characters';
import { flatPages, type FlatPagesOptions } from './flatPages';
import { loadOpenCv, textbookInk } from './textbook';

const run = promisify(execFile);
/** Script faces are beyond the reader. */
export const unread = new Set(['blankdesk', 'handwritten', 'whiteboard']);
export const mostEdgePx = 3600;

export const picture = ({ width, height, channels, data }: Raster) => {
  const raw = sharp(data, { raw: { width, height, channels } });
  return channels === 1 ? raw.toColourspace('b-w') : raw;
};

/**
 * Debian's Tesseract as an outside reader; large pages are shrunk first, as it reads no better beyond.
 *
 * @param dpi told to it, as a PDF tells it; without it the reader guesses, and splits pages into columns by its guess.
 */
export async function readByDebians(image: Sharp, file: string, dpi?: number): Promise<string> {
  await image
    .resize({ width: mostEdgePx, height: mostEdgePx, fit: 'inside', withoutEnlargement: true })
    .png({ compressionLevel: 1 })
    .toFile(file);
  try {
    const { stdout } = await run('tesseract', [file, '-', '-l', 'eng', '--psm', '3', ...(dpi ? ['--dpi', String(Math.round(dpi))] : [])], { env: { ...process.env, OMP_THREAD_LIMIT: '1' }, timeout: 120_000 }); // prettier-ignore
    return stdout;
  } catch {
    return '';
  } finally {
    rmSync(file, { force: true });
  }
}

/** How well an outside reader reads the finished pages, by category, beside the clean page, the plain cut-out and three textbook binarisations; *told*: Auto, with its resolution told. */
export async function benchText(dir: string, pages: FlatPagesOptions): Promise<void> {
  if (!existsSync('/usr/bin/tesseract')) return console.log('needs Debian’s tesseract-ocr');
  const work = mkdtempSync(path.join(tmpdir(), 'libretto-text-'));
  const { cv } = await loadOpenCv();
  const scores = new Map<string, Map<string, number[]>>();
  const readers: Promise<void>[] = [];
  for await (const { category, name, truth, flat } of flatPages(dir, pages)) {
    if (unread.has(category) || (truth.text?.length ?? 0) < 40) continue;
    const auto = finish(flat, { filter: 'auto' });
    const told = auto.dpi * Math.min(1, mostEdgePx / Math.max(auto.image.width, auto.image.height));
    const versions: Record<string, Sharp> = {
      ...(truth.flat && { clean: sharp(path.join(dir, truth.flat)) }),
      'cut-out': picture(flat.image),
      auto: picture(auto.image),
      told: picture(auto.image),
      ink: picture(finish(flat, { filter: 'ink' }).image),
      ...Object.fromEntries(
        (['otsu', 'mean', 'sauvola'] as const).map((method) => [method, picture(textbookInk(cv, flat.image, method))]),
      ),
    };
    for (const [version, image] of Object.entries(versions)) {
      const slot = readers.length >= 2 ? readers.shift() : undefined;
      await slot;
      readers.push(
        readByDebians(image, path.join(work, `${name}-${version}.png`), version === 'told' ? told : undefined).then((text) => {
          for (const row of [category, 'all']) {
            const columns = scores.get(row) ?? new Map<string, number[]>();
            scores.set(row, columns.set(version, [...(columns.get(version) ?? []), characterError(truth.text!, text)]));
          }
        }),
      );
    }
  }
  await Promise.all(readers);
  rmSync(work, { recursive: true, force: true });
  const all = scores.get('all');
  if (!all) return console.log('no page with text in this truth');
  const columns = [...all.keys()];
  console.log(`character error       pages ${columns.map((c) => c.padEnd(9)).join('')}`);
  for (const row of [...scores.keys()].filter((k) => k !== 'all').concat('all'))
    console.log(
      `${row.padEnd(22)}${String(scores.get(row)!.get('auto')!.length).padEnd(6)}${columns
        .map((c) => {
          const v = scores.get(row)!.get(c) ?? [];
          return (v.length ? (v.reduce((s, x) => s + x, 0) / v.length).toFixed(3) : '–').padEnd(9);
        })
        .join('')}`,
    );
}
