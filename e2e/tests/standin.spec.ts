import { expect, test } from '@playwright/test';
import { pile } from '@libretto/demo/reel/acts';
import { picturesOf, sheetOf, slopeOf } from './sheets';
import { begin, listen, settled } from './walk';

const order = pile.acts.map((a) => a.sheet);

test('no camera: the stand-in is a tap away; its sheets take themselves, in order, each sharp', async ({ page }) => {
  test.setTimeout(480_000);
  const errors = listen(page);
  await begin(page, '/capture');
  await expect(page.getByRole('alert')).toContainText('No camera found');
  await page.getByRole('button', { name: 'Try the demo camera' }).click();
  await expect(page.getByTestId('tray-leaf').nth(4)).toBeVisible({ timeout: 200_000 });
  // Ten of them go before a camera in camera.spec.ts.
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0);
  await expect(page.getByTestId('tray-leaf').locator('canvas')).toHaveCount(0, { timeout: 180_000 });
  const pictures = (await picturesOf(page, 'tray-leaf')).reverse().slice(0, 5);
  expect(await Promise.all(pictures.map((p) => sheetOf(p, order)))).toEqual(order.slice(0, 5));
  for (const picture of pictures) expect(await slopeOf(picture)).toBeGreaterThan(0.15);
  expect(errors).toEqual([]);
});

test('the tab is closed after page six and opened again: six pages, and the run goes on', async ({ page, context }) => {
  test.setTimeout(300_000);
  await begin(page, '/capture?camera=stand-in:pile');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  for (const row of ['Whole', 'Close', 'Light', 'Still'])
    await expect(page.getByRole('meter', { name: row })).toHaveAttribute('aria-valuenow', '100', { timeout: 30_000 });
  for (let i = 0; i < 6; i++) await page.keyboard.press('PageDown');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(6, { timeout: 150_000 });
  // Their edges are still being looked for.
  await page.close();
  const again = await context.newPage();
  await begin(again, '/');
  await again.getByTestId('document-row').first().click();
  await settled(again, 6);
  await again.getByRole('button', { name: 'Add pages' }).click();
  await expect(again.getByTestId('tray-leaf')).toHaveCount(6);
});
