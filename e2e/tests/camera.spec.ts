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

test('by hand: button, Space and a pedal’s page key each take one, forty in a row without waiting', async ({ page }) => {
  await begin(page, '/capture');
  await page.getByRole('switch', { name: 'Pages take themselves' }).click();
  await expect(page.getByRole('meter', { name: 'Whole' })).not.toHaveAttribute('aria-valuenow', '0');
  await page.getByRole('button', { name: /^Take page/ }).click();
  await page.getByTestId('live').click();
  for (let i = 0; i < 39; i++) await page.keyboard.press(i % 2 ? 'Space' : 'PageDown');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(40, { timeout: 90_000 });
  await page.keyboard.press('g');
  await expect(page.getByLabel('Hide the grid')).toBeVisible();
});

test('a camera that goes away in the middle loses no page, and can be opened again', async ({ page }) => {
  await begin(page, '/capture');
  await expect(page.getByRole('meter', { name: 'Whole' })).not.toHaveAttribute('aria-valuenow', '0');
  const before = await page.getByTestId('tray-leaf').count();
  await page.getByRole('button', { name: /^Take page/ }).click();
  await expect(page.getByTestId('tray-leaf')).toHaveCount(before + 1);
  await page.getByTestId('live').evaluate((video) => {
    const [track] = ((video as HTMLVideoElement).srcObject as MediaStream).getVideoTracks();
    track!.stop();
    track!.dispatchEvent(new Event('ended'));
  });
  await expect(page.getByRole('alert')).toContainText('The camera went away');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(before + 1);
  await expect(page.getByRole('button', { name: /^Take page/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByTestId('live')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Take page/ })).toBeEnabled();
});
