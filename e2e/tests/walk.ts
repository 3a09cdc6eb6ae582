import { readFile } from 'node:fs/promises';
import path from 'node:path';
import { expect, type Locator, type Page } from '@playwright/test';

const root = path.join(import.meta.dirname, '../..');
export const demoPhoto = (name: string) => path.join(root, 'demo/photos', `${name}.jpg`);
/** The same with fewer pixels; see film.ts. */
export const smallPhoto = (name: string) => path.join(process.env.E2E_DATA!, 'photos', `${name}.jpg`);
export const demoSheet = (name: string) => path.join(root, 'demo/flat', `${name}.png`);

/** Begins with an empty shelf: the demo stays away. Unless a test is about words, its browser saves data, so that no page is read unasked. */
export async function begin(page: Page, address = '/capture?from=files', { reads = false } = {}): Promise<void> {
  if (!reads)
    await page.addInitScript(() =>
      Object.defineProperty(navigator, 'connection', { configurable: true, value: { saveData: true } }),
    );
  await page.route('**/demo/truth.json', (route) => route.abort());
  await page.goto(address);
}

/** Brings files in from the capture screen and waits until every page has been looked at. */
export async function bringIn(page: Page, files: string[], pages = files.length): Promise<void> {
  await page.getByTestId('file-input').first().setInputFiles(files);
  await settled(page, pages);
}

/** Waits until so many pages are there and finished. */
export async function settled(page: Page, pages: number): Promise<void> {
  await expect(page.getByTestId('leaf')).toHaveCount(pages, { timeout: 120_000 });
  await expect(page.getByText('Finding edges')).toHaveCount(0, { timeout: 120_000 });
  await expect(page.getByTestId('leaf').locator('img')).toHaveCount(pages, { timeout: 120_000 });
}

/** The pages' ids in the order in which they stand. */
export async function order(page: Page): Promise<string[]> {
  return page.getByTestId('leaf').evaluateAll((leaves) => leaves.map((leaf) => (leaf as HTMLElement).dataset.page!));
}

/** Where something lies once it has stayed there for a while: a picture that comes in late lays the screen out anew. */
export async function resting(locator: Locator): Promise<{ x: number; y: number; width: number; height: number }> {
  for (let last = '', still = 0; ;) {
    const box = await locator.boundingBox();
    still = box && JSON.stringify(box) === last ? still + 1 : 0;
    if (box && still >= 3) return box;
    last = JSON.stringify(box);
    await locator.page().waitForTimeout(60);
  }
}

/** Counts errors of the page itself; what Paper says about native animation is harmless. */
export function listen(page: Page): string[] {
  const errors: string[] = [];
  page.on('pageerror', (error) => errors.push(error.message));
  page.on('console', (message) => {
    if (message.type() === 'error' && !/Failed to load resource|useNativeDriver/.test(message.text()))
      errors.push(message.text());
  });
  return errors;
}

/** Where a demo photograph's only page truly lies, and the photo's size. */
export async function demoTruth(name: string): Promise<{ quad: [number, number][]; size: [number, number] }> {
  const { photos } = JSON.parse(await readFile(path.join(root, 'demo/photos/truth.json'), 'utf8')) as {
    photos: { file: string; size: [number, number]; pages: { quad: [number, number][] }[] }[];
  };
  const photo = photos.find((p) => p.file === `${name}.jpg`)!;
  return { quad: photo.pages[0]!.quad, size: photo.size };
}
