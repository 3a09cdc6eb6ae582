import { expect, test } from '@playwright/test';
import { filmed } from '../film';
import { picturesOf, sheetOf, slopeOf } from './sheets';
import { begin, listen, settled } from './walk';

test('a scripted run of ten sheets before a real camera stream: ten pages, in order, none blurred, and a reload finds them', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const errors = listen(page);
  await begin(page, '/capture');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(filmed.length, { timeout: 150_000 });
  // The film goes round: what comes now was taken before.
  await expect(page.getByText(/taken before/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('switch', { name: 'Pages take themselves' }).click();
  await expect(page.getByLabel('Storing')).toHaveCount(0);
  await expect(page.getByTestId('tray-leaf')).toHaveCount(filmed.length);
  await page.reload();
  await expect(page.getByTestId('tray-leaf')).toHaveCount(filmed.length);
  await expect(page.getByRole('switch', { name: 'Pages take themselves' })).toHaveAttribute('aria-checked', 'false');
  await page.getByRole('button', { name: `Done · ${filmed.length}` }).click();
  await settled(page, filmed.length);
  const pictures = await picturesOf(page, 'leaf');
  expect(await Promise.all(pictures.map((p) => sheetOf(p, filmed)))).toEqual(filmed);
  for (const picture of pictures) expect(await slopeOf(picture)).toBeGreaterThan(0.15);
  expect(errors).toEqual([]);
});
