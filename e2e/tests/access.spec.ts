import { AxeBuilder } from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { begin, bringIn, smallPhoto } from './walk';

/** What axe-core finds (WCAG 2.2 A and AA, and its best practices) in either theme, as short lines. */
async function violations(page: Page): Promise<string[]> {
  const lines: string[] = [];
  for (const colorScheme of ['light', 'dark'] as const) {
    await page.emulateMedia({ colorScheme });
    // What comes and goes is judged once it is there.
    await page.waitForTimeout(400);
    // There are no frames, which is what the other mode opens a second page for.
    const axe = new AxeBuilder({ page }).options({ preload: false }).setLegacyMode();
    // Of the other theme only what depends on its colours.
    if (colorScheme === 'dark') axe.withRules(['color-contrast', 'link-in-text-block']);
    const { violations: found } = await axe.analyze();
    for (const { id, nodes } of found)
      lines.push(`${colorScheme} ${id}: ${nodes.map((n) => n.target.join(' ')).join(' | ')}: ${nodes[0]!.html.slice(0, 160)}`);
  }
  return lines;
}

const clean = async (page: Page, title: RegExp) => {
  expect(await violations(page)).toEqual([]);
  await expect(page).toHaveTitle(title);
  await expect(page.getByRole('main')).toHaveCount(1);
};

test('every screen, light and dark: nothing that axe-core knows of is in anybody’s way', async ({ page }) => {
  test.setTimeout(900_000);
  await begin(page, '/');
  await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
  await clean(page, /^Shelf · Libretto$/);
  await page.goto('/capture?from=files');
  await expect(page.getByText('Each photograph becomes a page')).toBeVisible();
  await clean(page, /^Bring in photographs · Libretto$/);
  await bringIn(page, ['hull-survey-1', 'hull-survey-2'].map(smallPhoto));
  await clean(page, /^\d{4}-\d\d-\d\d .* · Libretto$/);
  await page.getByLabel('More for page 1').click();
  await expect(page.getByRole('menuitem', { name: 'Move later' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await expect(page.getByTestId('file-size')).toBeVisible({ timeout: 60_000 });
  expect(await violations(page)).toEqual([]);
  await page.getByRole('checkbox', { name: /Workshop/ }).click();
  await page.getByRole('button', { name: 'Send to Workshop' }).click();
  await expect(page.getByTestId('delivery-arrived')).toBeVisible({ timeout: 60_000 });
  await clean(page, /^Outbox · Libretto$/);
  await page.goto('/help?at=capture');
  await expect(page.getByRole('heading', { name: 'Taking pages' })).toBeVisible();
  await clean(page, /^Help · Libretto$/);
  await page.goto('/places');
  await expect(page.getByTestId('place')).toHaveCount(3);
  await clean(page, /^Places · Libretto$/);
  await page.getByRole('button', { name: 'Add a place' }).click();
  await page.getByRole('button', { name: /Mail account/ }).click();
  await expect(page.getByLabel('Mail server')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.goto('/');
  await expect(page.getByTestId('document-row')).toBeVisible();
  await clean(page, /^Shelf/);
  await page.getByTestId('document-row').click();
  await page.getByTestId('leaf').first().click();
  await expect(page.getByTestId('edges-stage')).toBeVisible();
  await expect(page.getByTestId('page-size')).toBeVisible({ timeout: 60_000 });
  await clean(page, /^Page 1 of 2 · Libretto$/);
  await page.getByRole('tab', { name: 'Edges' }).focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('tab', { name: 'Finish' })).toHaveAttribute('aria-selected', 'true');
  await expect(page.getByRole('radio').locator('img')).toHaveCount(6, { timeout: 60_000 });
  await clean(page, /^Page 1 of 2/);
  await page.goto('/capture?camera=stand-in:pile');
  await expect(page.getByRole('meter', { name: 'Whole' })).toHaveAttribute('aria-valuenow', '100', { timeout: 60_000 });
  await page.getByRole('switch', { name: 'Automatic shutter' }).click();
  await page.getByRole('button', { name: /^Take page/ }).click();
  await expect(page.getByTestId('tray-leaf').locator('img').first()).toBeVisible({ timeout: 60_000 });
  await clean(page, /^Capture · Libretto$/);
  await page.getByTestId('tray-leaf').first().click();
  await expect(page.getByAltText(/finished/)).toBeVisible({ timeout: 60_000 });
  expect(await violations(page)).toEqual([]);
  await page.goto('/capture');
  await expect(page.getByRole('alert')).toBeVisible();
  await clean(page, /^Capture/);
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto('/');
  await page.getByTestId('document-row').last().click();
  await expect(page.getByTestId('leaf').locator('img')).toHaveCount(2, { timeout: 60_000 });
  await clean(page, /^\d{4}-\d\d-\d\d /);
  await page.getByTestId('leaf').first().click();
  await expect(page.getByTestId('edges-stage')).toBeVisible();
  await clean(page, /^Page 1/);
  await page.getByRole('button', { name: 'Keys', exact: true }).click();
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test('what lies over the shelf, light and dark: large first pages, several documents at once, a folder that sends', async ({
  page,
}) => {
  // As long as it takes: axe looks at whole screens, twice each.
  test.setTimeout(900_000);
  await begin(page);
  await bringIn(page, [smallPhoto('hull-survey-1')]);
  await page.goto('/');
  const view = async () => {
    await page.getByRole('button', { name: 'Order', exact: true }).click();
    await page.getByRole('menuitem', { name: 'First pages large' }).click();
  };
  await view();
  await expect(page.getByTestId('document-cover')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await view();
  await page.getByLabel(/^More for/).click();
  await page.getByRole('menuitem', { name: 'Select' }).click();
  await page.getByRole('toolbar').getByRole('button', { name: 'Send' }).click();
  await expect(page.getByRole('dialog')).toContainText('Send 1 document');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('toolbar').getByRole('button', { name: 'More' }).click();
  await page.getByRole('menuitem', { name: 'Names by pattern' }).click();
  await expect(page.getByRole('dialog').getByRole('checkbox').first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'End selecting' }).click();
  await page.getByRole('button', { name: 'New folder' }).click();
  await page.getByLabel('Name of the folder').fill('Invoices');
  await page.keyboard.press('Enter');
  await page.getByTestId('folder-row').click();
  await page.getByRole('button', { name: 'Send by itself' }).click();
  await page.getByRole('checkbox', { name: /Yard records/ }).click();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('button', { name: 'goes to Yard records' })).toBeVisible();
});
