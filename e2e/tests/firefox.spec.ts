import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { begin, smallPhoto, listen, resting, settled } from './walk';

test('Firefox: three photographs, a corner, a filter, a name, a reload, sent to a folder and by mail; a torn file is refused', async ({
  page,
}, info) => {
  test.setTimeout(480_000);
  const errors = listen(page);
  await begin(page);
  const torn = info.outputPath('torn.jpg');
  writeFileSync(torn, readFileSync(smallPhoto('hull-survey-1')).subarray(0, 60_000));
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles([...['hull-survey-1', 'hull-survey-2', 'mooring-agreement-2'].map(smallPhoto), torn]);
  await settled(page, 3);
  await expect(page.getByText(/torn\.jpg/)).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss' }).click();

  await page.getByTestId('leaf').first().click();
  const handle = page.getByTestId('corner-0');
  await expect(handle).toBeVisible();
  const label = await handle.getAttribute('aria-label');
  const box = await resting(handle);
  await page.mouse.move(box.x + 22, box.y + 22);
  await page.mouse.down();
  await page.mouse.move(box.x + 30, box.y + 33, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText('Edges set by you')).toBeVisible();
  expect(await handle.getAttribute('aria-label')).not.toBe(label);
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.getByRole('radio', { name: /^Ink/ }).click();
  await page.reload();
  await expect(page.getByRole('radio', { name: /^Ink/ })).toHaveAttribute('aria-checked', 'true');
  await page.getByLabel('To the pages').click();
  await settled(page, 3);

  await page.getByLabel('Change the name').click();
  // `fill` is not heard by React over this channel: it is typed.
  await page.keyboard.press('ControlOrMeta+a');
  await page.keyboard.type('Überführung Wren');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Überführung Wren' })).toBeVisible();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /Yard records/ }).click();
  await page.getByRole('checkbox', { name: /Workshop/ }).click();
  await page.getByRole('button', { name: /^Send to / }).click();
  await expect(page.getByTestId('delivery-arrived')).toHaveCount(2, { timeout: 120_000 });
  await page.reload();
  await expect(page.getByTestId('delivery-arrived')).toHaveCount(2);
  expect(errors).toEqual([]);
});

test('Firefox: the demo camera’s first pages take themselves', async ({ page }) => {
  test.setTimeout(300_000);
  await begin(page, '/capture?camera=stand-in:pile');
  await expect(page.getByTestId('tray-leaf').nth(1)).toBeVisible({ timeout: 200_000 });
});
