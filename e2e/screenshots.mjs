// Takes docs/screenshots anew from the demo: `npm run screenshots`. Needs a built app (npm start or npm test builds it).
import { spawn } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { chromium } from '@playwright/test';

const root = path.join(import.meta.dirname, '..');
const port = 4188;
const base = `http://127.0.0.1:${port}`;
const server = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
  cwd: root,
  env: {
    ...process.env,
    PORT: String(port),
    LIBRETTO_DATA: mkdtempSync(path.join(tmpdir(), 'libretto-shots-')),
    LIBRETTO_HOST: '127.0.0.1',
    LIBRETTO_TLS_PORT: '4189',
    LIBRETTO_NAME: 'libretto.example.org',
  },
});
await new Promise((resolve) => server.stdout.once('data', resolve));

const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
});
const page = await browser.newPage({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
page.on('pageerror', (error) => console.error(error.message));
const shot = (name) => page.screenshot({ path: path.join(root, 'docs/screenshots', `${name}.png`) });
const quiet = async () => {
  await page.waitForFunction(() => !/Finding edges|Bringing in:|Finishing/.test(document.body.innerText), null, {
    timeout: 120_000,
  });
  await page.waitForTimeout(1200);
};
const leaves = (n) =>
  page.waitForFunction((count) => document.querySelectorAll('[data-testid=leaf] img').length >= count, n, { timeout: 60_000 });
/** From the shelf, wherever on it a document stands. */
const open = async (document) => {
  await page.getByPlaceholder('Search names, words, dates').fill(document);
  await page.getByTestId('document-row').filter({ hasText: document }).first().click();
};
const send = async (document, place) => {
  await page.goto(base);
  await open(document);
  await page.getByRole('button', { name: 'Send', exact: true }).click();
  await page.getByRole('checkbox', { name: /Workshop/ }).waitFor();
  for (const box of await page.getByRole('checkbox').all()) {
    const label = await box.getAttribute('aria-label');
    const ticked = (await box.getAttribute('aria-checked')) === 'true';
    if (place.some((name) => name.test(label)) !== ticked) await box.click();
  }
  await page.waitForFunction(() => document.body.innerText.includes('fits a mail'), null, { timeout: 90_000 });
};

try {
  await page.goto(base);
  await page.getByText('Chandlery receipt').first().waitFor({ timeout: 60_000 });
  await quiet();
  await page.getByText('Bring in the demo').click();
  await page.getByTestId('document-row').filter({ hasText: 'Slip and Tide 2026' }).waitFor({ timeout: 120_000 });
  await quiet();

  await send('Hull survey Wren', [/Yard records/, /Owner and insurer/]);
  await shot('send');
  await page.getByRole('button', { name: /Send to 2/ }).click();
  await page.getByTestId('delivery-arrived').nth(1).waitFor({ timeout: 60_000 });
  await page.goto(`${base}/places`);
  await page.getByTestId('place').nth(2).waitFor();
  await page.getByRole('button', { name: 'More for Yard records' }).click();
  await page.getByRole('menuitem', { name: 'Try it' }).click();
  await page.getByText('It works').waitFor();
  await shot('places');
  await page.route('**/api/deliveries/**', (route) =>
    route.fulfill({
      status: 502,
      json: { state: 'failed', code: 'full', reason: 'The mailbox of Workshop is full', again: false },
    }),
  );
  await send('Timber docket', [/Workshop/]);
  await page.getByRole('button', { name: /^Send to/ }).click();
  await page.getByTestId('delivery-failed').waitFor();
  await shot('outbox');

  await page.goto(base);
  await page.getByTestId('document-row').filter({ hasText: 'Slip and Tide 2026' }).waitFor();
  await quiet();
  await page.waitForTimeout(6000);
  await shot('shelf');
  await open('Hull survey Wren');
  await leaves(3);
  await shot('proof');
  await page.getByTestId('leaf').nth(1).click();
  const corner = await page.getByTestId('corner-0').boundingBox();
  await page.mouse.move(corner.x + 22, corner.y + 22);
  await page.mouse.down();
  await page.mouse.move(corner.x + 34, corner.y + 38, { steps: 6 });
  await page.waitForTimeout(3000);
  await shot('edges');
  await page.mouse.up();
  await page.getByRole('button', { name: 'As found' }).click();
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.waitForFunction(() => document.querySelectorAll('[role=radio] img').length >= 4, null, { timeout: 60_000 });
  await page.waitForTimeout(1500);
  await shot('finish');
  await page.getByRole('tab', { name: 'Marks' }).click();
  const paper = page.locator('[data-testid=marks-stage][aria-busy=false] canvas');
  await paper.waitFor({ timeout: 60_000 });
  await page.waitForTimeout(500);
  const draw = async (tool, ...stroke) => {
    await page.getByRole('radio', { name: tool, exact: true }).click();
    const { x, y, width, height } = await paper.boundingBox();
    const at = ([u, v]) => [x + u * width, y + v * height];
    await page.mouse.move(...at(stroke[0]));
    await page.mouse.down();
    for (const point of stroke.slice(1)) await page.mouse.move(...at(point), { steps: 6 });
    await page.mouse.up();
    await page.waitForTimeout(200);
  };
  await draw('Highlight', [0.1, 0.485], [0.62, 0.485]);
  await draw('Cover', [0.1, 0.4], [0.55, 0.43]);
  await draw('Shapes', [0.3, 0.86], [0.52, 0.3]);
  await draw('Note', [0.16, 0.87]);
  await page.getByRole('textbox', { name: 'What the note says' }).fill('Ask the yard about frame 9');
  await page.locator('[aria-modal=true]').getByRole('button', { name: 'Done' }).click();
  await draw('Pen', [0.6, 0.24], [0.68, 0.2], [0.77, 0.25], [0.7, 0.31], [0.61, 0.29], [0.6, 0.23]);
  await shot('marks');
  await page.getByRole('tab', { name: 'Text' }).click();
  await page.getByLabel('Find on this page').fill('plating');
  await page.waitForTimeout(800);
  await shot('text');
  await page.getByLabel('Previous page').click();
  await page.getByRole('tab', { name: 'Text' }).click();
  await page.getByRole('button', { name: 'Take out as a table' }).click({ timeout: 120_000 });
  await page.getByText('Save as spreadsheet').waitFor();
  await page.waitForTimeout(800);
  await shot('table');
  await page.keyboard.press('Escape');
  await page.getByLabel('To the pages').click();
  await leaves(3);
  await quiet();
  await page
    .getByTestId('leaf')
    .nth(0)
    .click({ modifiers: ['Control'] });
  await page
    .getByTestId('leaf')
    .nth(1)
    .click({ modifiers: ['Control'] });
  await page.waitForTimeout(800);
  await shot('select');
  await page.goto(`${base}/capture?from=files`);
  await page.getByText('Each photograph becomes a page').waitFor();
  await page.waitForTimeout(800);
  await shot('bring-in');
  await page.goto(`${base}/settings`);
  await page.getByRole('heading', { name: 'On this device' }).waitFor();
  await page.waitForTimeout(800);
  await shot('settings');
  await page.goto(`${base}/help`);
  await page.getByRole('heading', { name: 'Taking pages' }).waitFor();
  await page.waitForTimeout(800);
  await shot('help');
  await page.goto(`${base}/phone`);
  await page.getByText('Paired devices').waitFor();
  await page.waitForTimeout(800);
  await shot('phone');
  await page.goto(`${base}/capture?camera=stand-in:pile`);
  await page.getByTestId('tray-leaf').locator('img').nth(3).waitFor({ timeout: 120_000 });
  await page.waitForFunction(
    () => [...document.querySelectorAll('[role=meter]')].every((m) => Number(m.getAttribute('aria-valuenow')) >= 60),
    null,
    { polling: 50, timeout: 60_000 },
  );
  await shot('capture');
  await page.getByRole('button', { name: /^Page 1/ }).click();
  await page.getByAltText('Page 1, finished').waitFor();
  await page.waitForTimeout(700);
  await shot('page-over');
  await page.getByRole('button', { name: 'Back to the camera' }).click();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(base);
  await open('Hull survey Wren');
  await leaves(3);
  await page.getByTestId('leaf').nth(0).click();
  await page.getByRole('tab', { name: 'Finish' }).click();
  await page.waitForFunction(() => document.querySelectorAll('[role=radio] img').length >= 4, null, { timeout: 60_000 });
  await page.waitForTimeout(6000);
  await shot('wide');
} finally {
  await browser.close();
  server.kill();
}
