import { test } from '@playwright/test';
import { picturesOf } from '../sheets';
import { writeFile } from 'node:fs/promises';
import { begin } from '../walk';
test('zz', async ({ page }) => {
  test.setTimeout(400_000);
  page.on('console', (m) => m.text().startsWith('ZZ') && console.log(m.text()));
  await begin(page, '/capture');
  await page.getByRole('button', { name: 'Look round with the stand-in' }).click();
  for (let i = 0; i < 110; i++) {
    await page.waitForTimeout(1000);
    if (await page.getByTestId('tray-leaf').count() >= 10) break;
  }
  console.log('count', await page.getByTestId('tray-leaf').count());
  await page.waitForTimeout(15000);
  let n = 0;
  for (const p of (await picturesOf(page, 'tray-leaf')).reverse()) await writeFile(`/tmp/scratch/zz-${n++}.jpg`, p);
});
