import { expect, test } from '@playwright/test';
import { begin, bringIn, demoPhoto } from './walk';

test.use({ serviceWorkers: 'allow' });

test('the app itself works with no server and no network once it has been open', async ({ page, context }) => {
  await begin(page, '/');
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
  await page.waitForTimeout(1500);
  await context.setOffline(true);
  await page.reload();
  await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
  await page.goto('/capture?from=files');
  await bringIn(page, [demoPhoto('timber-docket')]);
  await context.setOffline(false);
});
