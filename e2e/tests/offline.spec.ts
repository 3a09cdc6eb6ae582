import { mkdtempSync, readdirSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { buildApp } from '@libretto/server/app';
import { startStandIns } from '@libretto/server/standins/start';
import { begin, bringIn, demoPhoto, smallPhoto } from './walk';

test.use({ serviceWorkers: 'allow' });

/** A server of its own over a built app, which can go away and come back at its address. */
async function aServer() {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'libretto-offline-'));
  const standIns = await startStandIns(dataDir);
  const listen = async (port: number) => {
    const app = await buildApp({
      places: standIns.places,
      dataDir,
      standIns,
      webRoot: path.join(import.meta.dirname, '../../app/dist'),
    });
    await app.listen({ host: '127.0.0.1', port });
    return app;
  };
  let app = await listen(0);
  const { port } = app.server.address() as AddressInfo;
  const gone = async () => {
    app.server.closeAllConnections();
    await app.close();
  };
  return {
    address: `http://127.0.0.1:${port}`,
    gone,
    back: async () => void (app = await listen(port)),
    /** Names of the PDFs that lie in the folder. */
    arrived: () => readdirSync(standIns.folder, { recursive: true, encoding: 'utf8' }).filter((name) => name.endsWith('.pdf')).map((name) => path.basename(name)), // prettier-ignore
    end: async () => {
      await gone();
      await standIns.close();
    },
  };
}

/** Opened, and kept for when there is no server. */
async function openKept(page: Page, address: string) {
  await begin(page, `${address}/`);
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller?.state)).toBe('activated');
}

async function sendToTheFolder(page: Page) {
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /Yard records/ }).click();
  await page.getByRole('button', { name: 'Send to Yard records' }).click();
  await expect(page.getByText(/the server does not answer/i).first()).toBeVisible({ timeout: 60_000 });
}

test('with the server gone: opened again, a page taken, finished, named and sent on its way; once the server is back it arrives, once', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const server = await aServer();
  try {
    await openKept(page, server.address);
    await server.gone();

    await page.reload();
    await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
    await page.goto(`${server.address}/capture?from=files`);
    await bringIn(page, [smallPhoto('timber-docket')]);
    await page.getByLabel('Change the name').click();
    await page.getByLabel('Name of the document').fill('Docket from the train');
    await page.keyboard.press('Enter');
    await page.getByTestId('leaf').first().click();
    await page.getByRole('tab', { name: 'Finish' }).click();
    await page.getByRole('radio', { name: /^Ink/ }).click();
    await page.getByLabel('To the pages').click();
    await sendToTheFolder(page);
    await page.reload();
    await expect(page.getByText(/Docket from the train\.pdf/)).toBeVisible();

    // It tries again by itself.
    await server.back();
    await expect(page.getByTestId('delivery-arrived')).toBeVisible({ timeout: 120_000 });
    await page.reload();
    await expect(page.getByTestId('delivery-arrived')).toHaveCount(1);
    expect(server.arrived()).toEqual(['Docket from the train.pdf']);
  } finally {
    await server.end();
  }
});

test('with the server back and no tab open, the browser sends what waits; the next tab hears that it has arrived, once', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const server = await aServer();
  const { address } = server;
  try {
    await openKept(page, address);
    const context = page.context();
    await page.goto(`${address}/capture?from=files`);
    await bringIn(page, [smallPhoto('timber-docket')]);
    await server.gone();
    await sendToTheFolder(page);
    const elsewhere = await context.newPage();
    const devtools = await context.newCDPSession(elsewhere);
    const registered = new Promise<string>((resolve) =>
      devtools.on('ServiceWorker.workerRegistrationUpdated', ({ registrations }) => {
        const own = registrations.find(({ scopeURL, isDeleted }) => scopeURL === `${address}/` && !isDeleted);
        if (own) resolve(own.registrationId);
      }),
    );
    await devtools.send('ServiceWorker.enable');
    const registrationId = await registered;
    await page.close();
    await server.back();
    // As the browser does by itself once there is a network; when that is it decides.
    const woken = { origin: address, registrationId, tag: 'libretto-outbox', lastChance: false };
    await expect
      .poll(
        async () => {
          if (!server.arrived().length) await devtools.send('ServiceWorker.dispatchSyncEvent', woken);
          return server.arrived().length;
        },
        { timeout: 120_000, intervals: [3000] },
      )
      .toBe(1);
    await elsewhere.goto(`${address}/outbox`);
    await expect(elsewhere.getByTestId('delivery-arrived')).toHaveCount(1, { timeout: 120_000 });
    expect(server.arrived()).toHaveLength(1);
  } finally {
    await server.end();
  }
});

test('an upload that is cut off goes on where it was', async ({ page }) => {
  test.setTimeout(300_000);
  const server = await aServer();
  try {
    await begin(page, `${server.address}/capture?from=files`);
    await bringIn(page, ['harbour-chart', 'yard-magazine'].map(demoPhoto));
    await page.getByRole('button', { name: 'Send', exact: true }).click();
    await page.getByRole('checkbox', { name: /Yard records/ }).click();
    await expect(page.getByTestId('file-size')).toContainText('fits a mail', { timeout: 120_000 });
    // A line on which it takes its time.
    const devtools = await page.context().newCDPSession(page);
    const line = (kBs: number) => devtools.send('Network.emulateNetworkConditions', { offline: false, latency: 0, downloadThroughput: -1, uploadThroughput: kBs * 1024 }); // prettier-ignore
    const starts: number[] = [];
    page.on('request', (request) => {
      if (request.method() === 'PATCH') starts.push(Number(request.headers()['upload-offset']));
    });
    await line(100);
    await page.getByRole('button', { name: 'Send to Yard records' }).click();
    await expect(page.getByTestId('delivery-sending').getByText(/[3-4]\d\d kB of/)).toBeVisible({ timeout: 60_000 });
    await server.gone();
    await expect(page.getByTestId('delivery-waiting')).toBeVisible({ timeout: 60_000 });
    await line(-1);
    await server.back();
    await expect(page.getByTestId('delivery-arrived')).toHaveCount(1, { timeout: 120_000 });
    expect(server.arrived()).toHaveLength(1);
    expect(starts[0]).toBe(0);
    expect(starts.at(-1)).toBeGreaterThan(100_000);
  } finally {
    await server.end();
  }
});
