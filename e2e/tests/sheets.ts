import { writeFile } from 'node:fs/promises';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { sharpness } from '@libretto/core';
import { demoSheet } from './walk';

/** The finished pages of the tray's or the proof sheet's leaves, as large as the bench shows them, in the order in which they stand on screen. */
export async function picturesOf(page: Page, leaf: 'leaf' | 'tray-leaf'): Promise<Buffer[]> {
  const ids = await page.getByTestId(leaf).evaluateAll((leaves) => leaves.map((l) => (l as HTMLElement).dataset.page!));
  const pictures = await page.evaluate(async (pageIds) => {
    const open = (name: string) =>
      new Promise<IDBDatabase>((resolve, reject) => {
        const request = indexedDB.open(name);
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(request.error);
      });
    const asked = <T>(request: IDBRequest<T>) =>
      new Promise<T>((resolve, reject) => {
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(request.error);
      });
    const [records, files] = [await open('libretto'), await open('libretto-files')];
    const out: number[][] = [];
    for (const id of pageIds) {
      const { photoId } = JSON.parse(await asked(records.transaction('entries').objectStore('entries').get(`page:${id}`)));
      const renders = () => files.transaction('renders').objectStore('renders');
      const keys = (await asked(renders().getAllKeys())) as string[];
      const key = keys.findLast((k) => k.includes(`/${photoId}/`) && k.endsWith('/screen'));
      if (!key) throw new Error(`Page ${id} is not finished`);
      const { bytes } = (await asked(renders().get(key))) as { bytes: ArrayBuffer };
      out.push([...new Uint8Array(bytes)]);
    }
    records.close();
    files.close();
    return out;
  }, ids);
  return pictures.map((bytes) => Buffer.from(bytes));
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
