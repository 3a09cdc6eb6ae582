import { expect, test } from '@playwright/test';
import { begin, listen, settled } from './walk';

test('by hand: button, Space and a pedal’s page key each take one, forty in a row without waiting', async ({ page }) => {
  test.setTimeout(300_000);
  await begin(page, '/capture');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByRole('meter', { name: 'Whole' })).not.toHaveAttribute('aria-valuenow', '0');
  await page.getByRole('button', { name: /^Take page/ }).click();
  await page.getByTestId('live').click();
  for (let i = 0; i < 39; i++) await page.keyboard.press(i % 2 ? 'Space' : 'PageDown');
  await expect(page.getByTestId('tray')).toHaveAttribute('data-count', '40');
  // The screen draws those that it shows; all of them are saved.
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0, { timeout: 150_000 });
  await expect(page.getByTestId('tray')).toHaveAttribute('data-count', '40');
  await expect(page.getByRole('button', { name: 'Done · 40' })).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.getByLabel('Hide the grid')).toBeVisible();
});

test('a camera that goes away in the middle loses no page, and can be opened again', async ({ page }) => {
  await begin(page, '/capture');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByRole('meter', { name: 'Whole' })).not.toHaveAttribute('aria-valuenow', '0');
  await page.getByRole('button', { name: /^Take page/ }).click();
  // One by hand, and what the shutter took before it was off.
  await expect(page.getByTestId('tray-leaf')).not.toHaveCount(0);
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0, { timeout: 60_000 });
  const taken = await page.getByTestId('tray-leaf').count();
  await page.getByTestId('live').evaluate((video) => {
    const [track] = ((video as HTMLVideoElement).srcObject as MediaStream).getVideoTracks();
    track!.stop();
    track!.dispatchEvent(new Event('ended'));
  });
  await expect(page.getByRole('alert')).toContainText('The camera was disconnected');
  await expect(page.getByTestId('tray-leaf')).toHaveCount(taken);
  await expect(page.getByRole('button', { name: /^Take page/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByTestId('live')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Take page/ })).toBeEnabled();
});

test('where an engine has no ImageCapture, announces no frames and has no VideoFrame, storage manager or idle time, pages are taken all the same', async ({
  page,
}) => {
  test.setTimeout(240_000);
  const errors = listen(page);
  await page.addInitScript(() => {
    for (const name of ['ImageCapture', 'VideoFrame', 'requestIdleCallback']) Reflect.deleteProperty(window, name);
    Reflect.deleteProperty(HTMLVideoElement.prototype, 'requestVideoFrameCallback');
    Object.defineProperty(navigator, 'storage', { value: undefined });
    Object.defineProperty(navigator, 'deviceMemory', { value: undefined });
  });
  await begin(page, '/capture');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByRole('meter', { name: 'Whole' })).not.toHaveAttribute('aria-valuenow', '0', { timeout: 60_000 });
  for (let i = 1; i <= 2; i++) {
    await page.getByRole('button', { name: /^Take page/ }).click();
    await expect(page.getByTestId('tray')).toHaveAttribute('data-count', String(i));
  }
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0, { timeout: 60_000 });
  await page.reload();
  await expect(page.getByTestId('tray')).toHaveAttribute('data-count', '2');
  await page.getByRole('button', { name: 'Done · 2' }).click();
  await settled(page, 2);
  expect(errors).toEqual([]);
});
