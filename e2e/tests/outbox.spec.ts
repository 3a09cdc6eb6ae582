import { expect, test } from '@playwright/test';
import { begin, bringIn, smallPhoto } from './walk';

test('with the server out of reach a delivery waits with its reason, survives a reload and then goes by itself, once', async ({
  page,
}) => {
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  await page.route('**/api/deliveries/**', (route) => route.abort());
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /Workshop/ }).click();
  await page.getByRole('button', { name: 'Send to Workshop' }).click();
  await expect(page.getByTestId('delivery-waiting')).toContainText('the server does not answer');
  await page.reload();
  await expect(page.getByTestId('delivery-waiting')).toContainText('the server does not answer');
  await page.unroute('**/api/deliveries/**');
  await expect(page.getByTestId('delivery-arrived')).toHaveCount(1, { timeout: 40_000 });
});

test('a refusal needs the user: it says why, and trying again works', async ({ page }) => {
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  await page.route('**/api/deliveries/**', (route) =>
    route.fulfill({ status: 502, json: { state: 'failed', code: 'full', reason: 'Yard records is full', again: false } }),
  );
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /Yard records/ }).click();
  await page.getByRole('button', { name: 'Send to Yard records' }).click();
  await expect(page.getByTestId('delivery-failed')).toContainText('Yard records is full');
  await page.goto('/');
  await expect(page.getByText('One delivery did not arrive')).toBeVisible();
  await page.unroute('**/api/deliveries/**');
  await page.goto('/outbox');
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByTestId('delivery-arrived')).toHaveCount(1);
});

test('saving to the device hands out the same kind of file, with a safe name', async ({ page }) => {
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /This device/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save to this device' }).click();
  expect((await download).suggestedFilename()).toMatch(/^\d{4}-\d\d-\d\d [^:/]+\.pdf$/);
});

test('at wide size the shelf stands beside the pages; with a page open the page has the room', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket'), smallPhoto('hull-survey-1')]);
  await expect(page.getByPlaceholder('Search names, words, dates')).toBeVisible();
  // Looked at closely: from page to page, at its own size in all its dots, two beside each other.
  await page.keyboard.press('l');
  const look = page.getByTestId('look-closely');
  await expect(look.getByRole('heading', { name: 'Page 1 of 2' })).toBeVisible();
  await page.keyboard.press('ArrowRight');
  await expect(look.getByRole('heading', { name: 'Page 2 of 2' })).toBeVisible();
  await expect(look.locator('img')).toBeVisible();
  await page.keyboard.press('1');
  await expect(look.locator('img[data-fine]')).toBeVisible();
  await page.keyboard.press('d');
  await expect(look.locator('img')).toHaveCount(2);
  await page.keyboard.press('Escape');
  await expect(look).toHaveCount(0);
  await page.getByTestId('leaf').nth(1).click();
  await expect(page.getByTestId('edges-stage')).toBeVisible();
  await expect(page.getByTestId('leaf')).toHaveCount(2);
  await expect(page.getByPlaceholder('Search names, words, dates')).toHaveCount(0);
  const width = (locator: ReturnType<typeof page.locator>) => locator.evaluate((e) => e.getBoundingClientRect().width);
  await expect.poll(() => width(page.getByAltText('The photo as taken'))).toBeGreaterThanOrEqual(480);
  expect(await width(page.getByRole('main'))).toBeGreaterThan(0.6 * 1280);
  await page.keyboard.press('k');
  await expect(page.getByRole('heading', { name: 'Page 1 of 2' })).toBeVisible();
  await page.keyboard.press('f');
  await expect(page.getByTestId('finish-stage')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keys' })).toBeVisible();
  // Single keys can be switched off; then only the others act.
  await page.getByRole('switch', { name: 'Single-letter keys' }).click();
  await page.getByRole('dialog').getByRole('button', { name: 'Done' }).click();
  await page.keyboard.press('e');
  await expect(page.getByTestId('finish-stage')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('finish-stage')).toHaveCount(0);
});
