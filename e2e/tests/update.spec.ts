import { appendFileSync, cpSync, mkdtempSync, readFileSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import { buildApp } from '@libretto/server/app';
import { begin } from './walk';

test.use({ serviceWorkers: 'allow' });

const root = path.join(import.meta.dirname, '../..');

test('a new version waits, is offered, and is never swapped under an open tab', async ({ page, context }) => {
  const webRoot = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-update-')), 'dist');
  cpSync(path.join(root, 'app/dist'), webRoot, { recursive: true, filter: (file) => !/\.(br|gz)$/.test(file) });
  const app = await buildApp({ places: [], dataDir: mkdtempSync(path.join(tmpdir(), 'libretto-update-')), webRoot });
  try {
    await app.listen({ host: '127.0.0.1', port: 0 });
    const address = `http://127.0.0.1:${(app.server.address() as AddressInfo).port}/`;
    await begin(page, address);
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
    // Taken over by the first one of all: nothing to say about that.
    await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller?.state)).toBe('activated');
    await expect(page.getByText('A new version is ready.')).toHaveCount(0);
    const second = await context.newPage();
    await begin(second, address);
    await expect(second.getByText('Nothing on the shelf yet')).toBeVisible();
    await page.evaluate(() => void ((window as { old?: boolean }).old = true));

    appendFileSync(path.join(webRoot, 'sw.js'), '\n// version B');
    await page.evaluate(async () => (await navigator.serviceWorker.getRegistration())!.update());
    for (const tab of [page, second]) await expect(tab.getByText('A new version is ready.')).toBeVisible();
    expect(await page.evaluate(() => (window as { old?: boolean }).old)).toBe(true);

    await page.getByRole('button', { name: 'Reload' }).click();
    await expect.poll(() => page.evaluate(() => (window as { old?: boolean }).old).catch(() => true)).toBeUndefined();
    await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
    await expect(page.getByText('A new version is ready.')).toHaveCount(0);
    await expect(second.getByText('Libretto has been updated in another tab.')).toBeVisible();
    await second.getByRole('button', { name: 'Reload' }).click();
    await expect(second.getByText('Nothing on the shelf yet')).toBeVisible();
    expect(await page.evaluate(() => navigator.serviceWorker.controller?.scriptURL)).toBe(`${address}sw.js`);
  } finally {
    await app.close();
  }
});

test('installable: a manifest with icons that are there, in their sizes, and a place for what other apps share', async ({
  page,
}) => {
  await page.goto('/');
  // Chromium's own check of what it would install.
  const session = await page.context().newCDPSession(page);
  await session.send('Page.enable');
  const { installabilityErrors } = await session.send('Page.getInstallabilityErrors');
  expect(installabilityErrors.map((e) => e.errorId).filter((id) => id !== 'in-incognito')).toEqual([]);
  const { errors, data } = await session.send('Page.getAppManifest');
  expect(errors).toEqual([]);
  const manifest = JSON.parse(data!) as { icons: { src: string; sizes: string }[]; share_target: { action: string } };
  for (const { src, sizes } of manifest.icons) {
    // PNG, 11.2.2: width and height stand in the header's bytes 16 to 23.
    const png = await (await page.request.get(src)).body();
    expect(`${png.readUInt32BE(16)}x${png.readUInt32BE(20)}`).toBe(sizes);
  }
});

test('photographs that another app shares come in as pages', async ({ page }) => {
  await begin(page, '/');
  await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller?.state)).toBe('activated');
  const photo = [...readFileSync(path.join(root, 'demo/photos/timber-docket.jpg'))];
  // As the system does it: a form posted to the share target's address.
  await page.evaluate((bytes) => {
    const form = Object.assign(document.createElement('form'), { method: 'post', enctype: 'multipart/form-data', action: '/share-target' }); // prettier-ignore
    const input = Object.assign(document.createElement('input'), { type: 'file', name: 'files', multiple: true });
    const files = new DataTransfer();
    files.items.add(new File([new Uint8Array(bytes)], 'docket.jpg', { type: 'image/jpeg' }));
    input.files = files.files;
    form.append(input);
    document.body.append(form);
    form.submit();
  }, photo);
  await expect(page.getByTestId('leaf')).toHaveCount(1, { timeout: 60_000 });
  expect(await page.evaluate(async () => (await (await caches.open('libretto-shared')).keys()).length)).toBe(0);
});
