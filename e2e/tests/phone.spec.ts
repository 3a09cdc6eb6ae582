import { spawn, type ChildProcess } from 'node:child_process';
import { createHash, X509Certificate } from 'node:crypto';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { expect, test as base } from '@playwright/test';
import { bringIn, smallPhoto, listen } from './walk';

const [port, tlsPort] = [4211, 4212];
const phrase = 'salt marsh quay';
const desktop = `http://127.0.0.1:${port}`;
const phone = `https://localhost:${tlsPort}`;

/** A server that is open to its network (here to loopback only), and a browser that trusts its certificate. */
const test = base.extend<object, { server: string }>({
  server: [
    // Playwright wants the pattern, also an empty one.
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const data = mkdtempSync(path.join(tmpdir(), 'libretto-phone-'));
      const env = { ...process.env, PORT: String(port), LIBRETTO_TLS_PORT: String(tlsPort), LIBRETTO_DATA: data, LIBRETTO_HOST: '127.0.0.1', LIBRETTO_NAME: 'localhost', LIBRETTO_PASS_PHRASE: phrase }; // prettier-ignore
      const child: ChildProcess = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
        cwd: path.join(import.meta.dirname, '../..'),
        env,
        stdio: ['ignore', 'pipe', 'inherit'],
      });
      let said = '';
      await new Promise<void>((resolve) => child.stdout!.on('data', (chunk) => (said += String(chunk)).includes('SHA-256') && resolve())); // prettier-ignore
      expect(said).toContain(`On a phone of this network: ${phone}/`);
      expect(said).not.toContain(phrase);
      await use(data);
      child.kill();
    },
    { scope: 'worker' },
  ],
});

test.use({ serviceWorkers: 'allow', viewport: { width: 390, height: 844 }, isMobile: true, hasTouch: true });

test('a phone is refused, pairs by the code, works over TLS, and is a stranger again once it is removed', async ({
  playwright,
  server,
  browser,
}) => {
  test.setTimeout(240_000);
  const leaf = new X509Certificate(readFileSync(path.join(server, 'access/server.crt'), 'utf8'));
  const key = createHash('sha256')
    .update(leaf.publicKey.export({ type: 'spki', format: 'der' }))
    .digest('base64');
  // Trusts this one key, as a phone does once it has the authority.
  const trusting = await playwright.chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--headless', '--no-sandbox', '--disable-gpu', `--ignore-certificate-errors-spki-list=${key}`],
  });
  try {
    const context = await trusting.newContext({ viewport: { width: 390, height: 844 }, isMobile: true, hasTouch: true });
    const page = await context.newPage();
    await page.route('**/demo/truth.json', (route) => route.abort());
    await page.goto(`${phone}/document/any`);
    await expect(page).toHaveURL(`${phone}/sign-in`);
    await page.getByLabel('Pass phrase').fill('guess again');
    await page.getByRole('button', { name: 'Sign in' }).tap();
    await expect(page.getByRole('alert')).toContainText('not the pass phrase');

    // The computer shows the code; here its link is read instead of photographed.
    const desk = await (await browser.newContext()).newPage();
    await desk.route('**/demo/truth.json', (route) => route.abort());
    await desk.goto(`${desktop}/phone`);
    await expect(desk.getByAltText(`Code that opens ${phone}`)).toBeVisible();
    await expect(desk.getByText('No device is paired yet.')).toBeVisible();
    const { link, fingerprint } = (await (await fetch(`${desktop}/api/phone`)).json()) as { link: string; fingerprint: string };
    await expect(desk.getByText(/^([0-9A-F]{2}:){31}[0-9A-F]{2}$/)).toHaveText(fingerprint);

    const errors = listen(page);
    await page.goto(link);
    await page.getByRole('button', { name: 'Pair this device' }).tap();
    await expect(page.getByText('Nothing on the shelf yet')).toBeVisible();
    const [cookie] = await context.cookies(phone);
    expect(cookie).toMatchObject({ name: '__Host-libretto', httpOnly: true, secure: true, sameSite: 'Strict', path: '/' });
    expect(await page.evaluate(() => [window.isSecureContext, document.cookie])).toEqual([true, '']);
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
    await page.goto(`${phone}/capture?from=files`);
    await bringIn(page, [smallPhoto('timber-docket')]);
    await page.getByRole('button', { name: 'Send', exact: true }).tap();
    await page.getByRole('checkbox', { name: /Yard records/ }).tap();
    await page.getByRole('button', { name: 'Send to Yard records' }).tap();
    await expect(page.getByTestId('delivery-arrived')).toBeVisible({ timeout: 60_000 });
    expect(errors).toEqual([]);

    await desk.reload();
    await desk.getByRole('button', { name: /^Remove / }).click();
    await expect(desk.getByText('No device is paired yet.')).toBeVisible();
    expect(await page.evaluate(async () => (await fetch('/api/places')).status)).toBe(401);
    // What it holds stays with it, and it says what is the matter.
    await page.goto(`${phone}/phone`);
    await expect(page.getByText('This device is no longer paired.')).toBeVisible();
    await page.getByRole('link', { name: 'Sign in' }).tap();
    await page.getByLabel('Pass phrase').fill('Salt-Marsh quay');
    await page.getByRole('button', { name: 'Sign in' }).tap();
    await expect(page.getByTestId('document-row')).toHaveCount(1);
    await desk.context().close();
  } finally {
    await trusting.close();
  }
});
