import { mkdtempSync, readdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { buildApp } from '@libretto/server/app';
import { startStandIns } from '@libretto/server/standins/start';
import { begin, bringIn, smallPhoto } from './walk';

test.use({ serviceWorkers: 'allow' });

test('with the server gone: opened again, a page taken, finished, named and sent on its way; once the server is back it arrives, once', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const dataDir = mkdtempSync(path.join(tmpdir(), 'libretto-offline-'));
  const standIns = await startStandIns(dataDir);
  const start = async (port: number) => {
    const app = await buildApp({
      places: standIns.places,
      dataDir,
      standIns,
      webRoot: path.join(import.meta.dirname, '../../app/dist'),
    });
    await app.listen({ host: '127.0.0.1', port });
    return app;
  };
  let app = await start(0);
  const { port } = app.server.address() as AddressInfo;
  const address = `http://127.0.0.1:${port}`;
  try {
    await begin(page, `${address}/`);
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
    await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller?.state)).toBe('activated');
    app.server.closeAllConnections();
    await app.close();

    await page.reload();
    await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
    await page.goto(`${address}/capture?from=files`);
    await bringIn(page, [smallPhoto('timber-docket')]);
    await page.getByLabel('Change the name').click();
    await page.getByLabel('Name of the document').fill('Docket from the train');
    await page.keyboard.press('Enter');
    await page.getByTestId('leaf').first().click();
    await page.getByRole('tab', { name: 'Finish' }).click();
    await page.getByRole('radio', { name: /^Ink/ }).click();
    await page.getByLabel('To the pages').click();
    await page.getByRole('button', { name: 'Send', exact: true }).click();
    await page.getByRole('checkbox', { name: /Yard records/ }).click();
    await page.getByRole('button', { name: 'Send to Yard records' }).click();
    await expect(page.getByText(/the server does not answer/i).first()).toBeVisible({ timeout: 60_000 });
    await page.reload();
    await expect(page.getByText(/Docket from the train\.pdf/)).toBeVisible();

    // It tries again by itself.
    app = await start(port);
    await expect(page.getByTestId('delivery-arrived')).toBeVisible({ timeout: 120_000 });
    await page.reload();
    await expect(page.getByTestId('delivery-arrived')).toHaveCount(1);
    const arrived = readdirSync(standIns.folder, { recursive: true, encoding: 'utf8' }).filter((name) => name.endsWith('.pdf'));
    expect(arrived.map((name) => path.basename(name))).toEqual(['Docket from the train.pdf']);
  } finally {
    app.server.closeAllConnections();
    await app.close();
    await standIns.close();
  }
});
