import { writeFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { sharpness } from '@libretto/core';
import { demoSheet } from './walk';

/** The finished pictures of the tray's or the proof sheet's leaves, in the order in which they stand on screen. */
export async function picturesOf(page: Page, leaf: 'leaf' | 'tray-leaf'): Promise<Buffer[]> {
  const pictures: Buffer[] = [];
  for (const image of await page.getByTestId(leaf).locator('img').all())
    pictures.push(
      Buffer.from(
        await image.evaluate(async (img) =>
          Array.from(new Uint8Array(await (await fetch((img as HTMLImageElement).src)).arrayBuffer())),
        ),
      ),
    );
  return pictures;
}

const small = { width: 48, height: 64 };
async function grey(input: string | Buffer, turn = 0): Promise<number[]> {
  const upright = await sharp(input).rotate(turn).toBuffer();
  return [
    ...(await sharp(upright)
      .resize({ ...small, fit: 'fill' })
      .blur(0.6)
      .toColourspace('b-w')
      .raw()
      .toBuffer()),
  ];
}

function correlation(a: readonly number[], b: readonly number[]): number {
  const mean = (v: readonly number[]) => v.reduce((s, n) => s + n, 0) / v.length;
  const [m, n] = [mean(a), mean(b)];
  const dot = (u: readonly number[], p: number, v: readonly number[], q: number) =>
    u.reduce((s, x, i) => s + (x - p) * (v[i]! - q), 0);
  return dot(a, m, b, n) / Math.sqrt(dot(a, m, a, m) * dot(b, n, b, n));
}

const flats = new Map<string, number[]>();

/** Which of the demo's sheets a finished picture shows, whichever way up it is. */
export async function sheetOf(picture: Buffer, names: readonly string[]): Promise<string> {
  const turned = await Promise.all([0, 90, 180, 270].map((turn) => grey(picture, turn)));
  let best = { name: '', score: -1 };
  for (const name of names) {
    const flat = flats.get(name) ?? (await grey(demoSheet(name)));
    flats.set(name, flat);
    for (const ours of turned) {
      const score = correlation(ours, flat);
      if (score > best.score) best = { name, score };
    }
  }
  if (best.score <= 0.5) await writeFile(test.info().outputPath('unlike-any-sheet.jpg'), picture);
  expect(best.score).toBeGreaterThan(0.5);
  return best.name;
}

/** Slope of the print's edges; a picture out of focus lies far below 0.15. */
export async function slopeOf(picture: Buffer): Promise<number> {
  const { data, info } = await sharp(picture).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  return sharpness({ width: info.width, height: info.height, channels: info.channels as 1 | 3, data })?.slope ?? 1;
}
