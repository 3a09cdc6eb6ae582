import { expect, test } from '@playwright/test';
import { begin, smallPhoto } from './walk';

test('permission refused: it is said what to do, and files are one tap away', async ({ page }) => {
  await begin(page, '/capture');
  await expect(page.getByRole('alert')).toContainText('The camera was not allowed');
  const chooser = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: 'Bring in from files' }).click();
  await (await chooser).setFiles([smallPhoto('hull-survey-1')]);
  await expect(page.getByTestId('tray-leaf').locator('img')).toHaveCount(1, { timeout: 60_000 });
  await page.getByRole('button', { name: 'Done · 1' }).click();
  await expect(page.getByTestId('leaf')).toHaveCount(1);
});
