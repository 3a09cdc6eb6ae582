import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { pile } from '@libretto/demo/reel/acts';
import { picturesOf, sheetOf } from './sheets';
import { begin, bringIn, smallPhoto, listen, order, settled } from './walk';

test('two tabs on one document: each shows what the other does; a page that one deletes stays deleted; a delivery goes once', async ({
  context,
}) => {
  const one = await context.newPage();
  const errors = listen(one);
  await begin(one);
  await bringIn(one, ['timber-docket', 'hull-survey-1'].map(smallPhoto));
  const address = one.url();
  const two = await context.newPage();
  await begin(two, address);
  await expect(two.getByTestId('leaf')).toHaveCount(2);

  await one.getByLabel('Change the name').click();
  await one.getByLabel('Name of the document').fill('Dockets of the week');
  await one.keyboard.press('Enter');
  await expect(two.getByRole('heading', { name: 'Dockets of the week' })).toBeVisible();
  const [first, second] = await order(one);
  await two.getByLabel('More for page 1').click();
  await two.getByRole('menuitem', { name: 'Delete' }).click();
  await expect.poll(() => order(one)).toEqual([second]);
  await one.getByLabel('Change the name').click();
  await one.getByLabel('Name of the document').fill('Dockets');
  await one.keyboard.press('Enter');
  await expect(two.getByRole('heading', { name: 'Dockets' })).toBeVisible();
  await two.reload();
  await expect.poll(() => order(two)).toEqual([second]);
  // The word at the bottom of the first tab is not there; its own undo takes back the name, and then the other tab's deletion.
  await one.getByRole('button', { name: 'Undo' }).first().click();
  await expect(two.getByRole('heading', { name: 'Dockets of the week' })).toBeVisible();

  // The upload is held until the second tab has started anew, and again.
  let uploads = 0;
  let letGo = () => {};
  const held = new Promise<void>((resolve) => (letGo = resolve));
  await context.route('**/api/deliveries/**', async (route) => {
    if (route.request().method() !== 'PUT') return route.continue();
    uploads++;
    await held;
    await route.continue();
  });
  await one.getByRole('button', { name: 'Send', exact: true }).click();
  await one.getByRole('checkbox', { name: /Yard records/ }).click();
  await one.getByRole('button', { name: 'Send to Yard records' }).click();
  await expect(one.getByTestId('delivery-sending')).toBeVisible({ timeout: 60_000 });
  await two.goto('/outbox');
  await expect(two.getByTestId('delivery-sending')).toBeVisible();
  await two.reload();
  await expect(two.getByTestId('delivery-sending')).toBeVisible();
  letGo();
  await expect(one.getByTestId('delivery-arrived')).toBeVisible({ timeout: 60_000 });
  await expect(two.getByTestId('delivery-arrived')).toBeVisible();
  expect(uploads).toBe(1);

  // The tab that carried closes: the other one carries on.
  await one.close();
  await two.goto(address);
  await two.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(two.getByRole('checkbox', { name: /Yard records/ })).toHaveAttribute('aria-checked', 'true');
  await two.getByRole('button', { name: 'Send to Yard records' }).click();
  await expect(two.getByTestId('delivery-arrived')).toHaveCount(2, { timeout: 60_000 });
  expect(first).not.toBe(second);
  expect(errors).toEqual([]);
});

test('a start that fails says so, hands the photographs out, and works when it is tried again', async ({ page }) => {
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  // From the next load on the records cannot be opened, until the page says otherwise.
  await page.addInitScript(() => {
    const open = indexedDB.open.bind(indexedDB);
    indexedDB.open = (name: string, version?: number) => {
      if (name === 'libretto' && !(window as { mended?: boolean }).mended)
        throw new DOMException('The quota has been exceeded', 'QuotaExceededError');
      return open(name, version);
    };
  });
  await page.goto('/');
  await expect(page.getByRole('alert')).toContainText('storage is full');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save the photographs' }).click();
  const file = await (await download).path();
  // A ZIP file (APPNOTE.TXT 4.3.7: local file header) that holds the photograph as it came.
  const zip = readFileSync(file);
  expect(zip.subarray(0, 4).toString('latin1')).toBe('PK\x03\x04');
  expect(zip.includes(readFileSync(smallPhoto('timber-docket')).subarray(2000, 4000))).toBe(true);
  await expect(page.getByText('1 photograph saved as a ZIP file')).toBeVisible();
  await page.evaluate(() => void ((window as { mended?: boolean }).mended = true));
  await page.getByRole('button', { name: 'Try again' }).click();
  await expect(page.getByTestId('document-row')).toHaveCount(1);
});

test('letters that cannot be fetched are stood in for', async ({ page }) => {
  await page.route('**/*.woff2', (route) => route.abort());
  await begin(page, '/');
  await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
});

test('on a full disk a changed page still shows and can still be sent', async ({ page }) => {
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    IDBObjectStore.prototype.put = function (this: IDBObjectStore, ...args: Parameters<typeof put>) {
      if (['renders', 'thumbs'].includes(this.name)) throw new DOMException('The quota has been exceeded', 'QuotaExceededError');
      return put.apply(this, args);
    };
  });
  await page.getByLabel('More for page 1').click();
  await page.getByRole('menuitem', { name: 'Turn' }).click();
  const upright = () => page.getByTestId('leaf').locator('img').evaluate((img) => (img as HTMLImageElement).naturalHeight > (img as HTMLImageElement).naturalWidth); // prettier-ignore
  await expect.poll(upright, { timeout: 60_000 }).toBe(true);
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByTestId('file-size')).toContainText('fits a mail', { timeout: 60_000 });
});

test('shutter, then Done at once: the page is there, and it is not black', async ({ page }) => {
  await begin(page, '/capture?camera=stand-in:pile');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByRole('meter', { name: 'Still' })).toHaveAttribute('aria-valuenow', '100', { timeout: 60_000 });
  await page.keyboard.press('PageDown');
  await page.keyboard.press('Escape');
  await expect(page).toHaveURL(/\/document\//);
  await settled(page, 1);
  const [picture] = await picturesOf(page, 'leaf');
  expect(
    await sheetOf(
      picture!,
      pile.acts.map((a) => a.sheet),
    ),
  ).toBe(pile.acts[0]!.sheet);
});

test('another lens while the shot is being taken: it is kept, and so is the next', async ({ page }) => {
  await begin(page, '/capture?camera=stand-in:pile');
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await expect(page.getByRole('meter', { name: 'Still' })).toHaveAttribute('aria-valuenow', '100', { timeout: 60_000 });
  await page.keyboard.press('PageDown');
  await page.getByLabel('Choose camera').click();
  await page.getByRole('menuitem', { name: 'Demo: a book' }).click();
  await expect(page.getByTestId('tray-leaf').locator('img')).toHaveCount(1, { timeout: 60_000 });
  await expect(page.getByRole('meter', { name: 'Whole' })).toHaveAttribute('aria-valuenow', '100', { timeout: 60_000 });
  await page.keyboard.press('PageDown');
  await expect(page.getByTestId('tray')).toHaveAttribute('data-count', /[23]/, { timeout: 60_000 });
  await expect(page.getByLabel(/^Saving page/)).toHaveCount(0, { timeout: 60_000 });
});

test('twice as large a letter on a phone: everything can be reached', async ({ page }) => {
  // A window half as wide and high with twice the pixels is what 200 % of 390 × 844 is.
  await page.setViewportSize({ width: 195, height: 422 });
  await begin(page);
  await bringIn(page, [smallPhoto('timber-docket')]);
  const reach = async (name: string | RegExp, role: 'button' | 'tab' | 'link' = 'button') => {
    const control = page.getByRole(role, { name, exact: typeof name === 'string' }).first();
    await control.scrollIntoViewIfNeeded();
    await control.click({ trial: true });
  };
  for (const name of ['Add pages', 'Send', 'Change the name', 'More for page 1', 'Add from files']) await reach(name);
  await page.getByTestId('leaf').click();
  await expect(page.getByTestId('page-size')).toBeVisible({ timeout: 60_000 });
  for (const name of ['As found', 'More ways', 'Done', 'Next page', 'More']) if (name !== 'Next page') await reach(name);
  await reach('Finish', 'tab');
  await page.getByRole('button', { name: 'To the pages' }).click();
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByTestId('file-size')).toBeVisible({ timeout: 60_000 });
  await reach('Cancel');
  await page.goto('/');
  for (const name of ['Shelf', 'Capture', /^Outbox/]) await reach(name, 'link');
  await page.goto('/capture?camera=stand-in:pile');
  for (const name of ['Close the camera', 'From files', /^Take page/]) await reach(name);
});

test('a backup is saved, and an empty browser has everything again after it is brought in', async ({ page, browser }) => {
  // Without a dialog of its own the browser saves it as it saves anything.
  await page.addInitScript(() => void delete (window as { showSaveFilePicker?: unknown }).showSaveFilePicker);
  await begin(page);
  await bringIn(page, ['timber-docket', 'hull-survey-1'].map(smallPhoto));
  const pages = await order(page);
  await page.goto('/settings');
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save a backup' }).click();
  const file = await (await download).path();
  await expect(page.getByTestId('backup-result')).toContainText('1 document, 2 pages');
  const elsewhere = await (await browser.newContext({ serviceWorkers: 'block' })).newPage();
  await begin(elsewhere, '/settings');
  await elsewhere.getByTestId('backup-input').setInputFiles(file);
  await expect(elsewhere.getByTestId('backup-result')).toContainText('1 added');
  await elsewhere.goto('/');
  await elsewhere.getByTestId('document-row').click();
  await settled(elsewhere, 2);
  expect(await order(elsewhere)).toEqual(pages);
  await elsewhere.context().close();
});
