import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { filmed } from '../film';
import { begin, demoSheet, listen, settled } from './walk';

/** Which of the filmed sheets the nth page of the tray or proof sheet shows, by its finished picture. */
async function sheetOf(page: Page, nth: number): Promise<string> {
  const bytes = await page
    .getByTestId('leaf')
    .nth(nth)
    .locator('img')
    .evaluate(async (img) => Array.from(new Uint8Array(await (await fetch((img as HTMLImageElement).src)).arrayBuffer())));
  const grey = async (input: string | Buffer) => [
    ...(await sharp(input).resize(48, 64, { fit: 'fill' }).blur(0.6).toColourspace('b-w').raw().toBuffer()),
  ];
  const ours = await grey(Buffer.from(bytes));
  let best = { name: '', score: -1 };
  for (const name of filmed) {
    const theirs = await grey(demoSheet(name));
    const mean = (v: number[]) => v.reduce((s, n) => s + n, 0) / v.length;
    const [a, b] = [mean(ours), mean(theirs)];
    const dot = (u: number[], m: number, v: number[], n: number) => u.reduce((s, x, i) => s + (x - m) * (v[i]! - n), 0);
    const score = dot(ours, a, theirs, b) / Math.sqrt(dot(ours, a, ours, a) * dot(theirs, b, theirs, b));
    if (score > best.score) best = { name, score };
  }
  expect(best.score).toBeGreaterThan(0.5);
  return best.name;
}

test('pages take themselves, one sheet after the other, and a reload finds every one of them', async ({ page }) => {
  const errors = listen(page);
  await begin(page, '/capture');
  await expect(page.getByTestId('live')).toBeVisible();
  await expect(page.getByTestId('tray-leaf').nth(2)).toBeVisible({ timeout: 90_000 });
  await page.getByRole('switch', { name: 'Pages take themselves' }).click();
  await expect(page.getByLabel('Storing')).toHaveCount(0);
  const taken = await page.getByTestId('tray-leaf').count();
  await page.reload();
  await expect(page.getByTestId('tray-leaf')).toHaveCount(taken);
  await expect(page.getByRole('switch', { name: 'Pages take themselves' })).toHaveAttribute('aria-checked', 'false');
  await page.getByRole('button', { name: `Done · ${taken}` }).click();
  await settled(page, taken);
  const seen = [];
  for (let i = 0; i < taken; i++) seen.push(await sheetOf(page, i));
  // The film goes round: each page is the sheet that follows the one before it.
  const first = filmed.indexOf(seen[0] as (typeof filmed)[number]);
  expect(seen).toEqual(seen.map((_, i) => filmed[(first + i) % filmed.length]));
  expect(errors).toEqual([]);
});

test('by hand: button, Space and a pedal’s page key each take one; the document opens where the run ended', async ({ page }) => {
  await begin(page, '/capture');
  await page.getByRole('switch', { name: 'Pages take themselves' }).click();
  await expect(page.getByTestId('live')).toBeVisible();
  await expect(page.getByRole('meter', { name: 'Whole' })).not.toHaveAttribute('aria-valuenow', '0');
  const before = await page.getByTestId('tray-leaf').count();
  await page.getByRole('button', { name: /^Take page/ }).click();
  await page.locator('body').click({ position: { x: 195, y: 300 } });
  await page.keyboard.press('Space');
  await page.keyboard.press('PageDown');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(before + 3, { timeout: 60_000 });
  await page.keyboard.press('g');
  await expect(page.getByLabel('Hide the grid')).toBeVisible();
});
