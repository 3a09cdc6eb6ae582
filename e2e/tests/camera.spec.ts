import { expect, test } from '@playwright/test';
import { filmed } from '../film';
import { picturesOf, sheetOf, slopeOf } from './sheets';
import { begin, listen, settled } from './walk';

test('a scripted run of ten sheets before a real camera stream: ten pages, in order, none blurred, and a reload finds them', async ({
  page,
}) => {
  // The film goes on for two to four minutes, by how fast this machine is.
  test.setTimeout(480_000);
  const errors = listen(page);
  await begin(page, '/capture');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(filmed.length, { timeout: 300_000 });
  // The film goes round: what comes now was taken before.
  await expect(page.getByText(/taken before/)).toBeVisible({ timeout: 60_000 });
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0);
  await expect(page.getByTestId('tray-leaf').locator('canvas')).toHaveCount(0, { timeout: 60_000 });
  const taken = await Promise.all((await picturesOf(page, 'tray-leaf')).map((p) => sheetOf(p, filmed)));
  // Named, so that a failure tells which sheet was taken twice or missed.
  expect(taken.reverse()).toEqual(filmed);
  await page.reload();
  await expect(page.getByTestId('tray-leaf')).toHaveCount(filmed.length);
  await expect(page.getByRole('switch', { name: 'Automatic shutter' })).toHaveAttribute('aria-checked', 'false');
  await page.getByRole('button', { name: `Done · ${filmed.length}` }).click();
  await settled(page, filmed.length);
  const pictures = await picturesOf(page, 'leaf');
  expect(await Promise.all(pictures.map((p) => sheetOf(p, filmed)))).toEqual(filmed);
  for (const picture of pictures) expect(await slopeOf(picture)).toBeGreaterThan(0.15);
  expect(errors).toEqual([]);
});
