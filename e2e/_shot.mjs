import { chromium } from 'playwright-core';
const b = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking'],
});
const ctx = await b.newContext({ viewport: { width: 390, height: 844 } });
const p = await ctx.newPage();
p.on('response', (r) => r.status() >= 400 && console.log(r.status(), r.url()));
p.on(
  'console',
  (m) =>
    ['error', 'warning'].includes(m.type()) &&
    !m.text().includes('useNativeDriver') &&
    console.log('console', m.type(), m.text().slice(0, 300)),
);
p.on('pageerror', (e) => console.log('pageerror', e.message.slice(0, 500)));
const base = 'http://127.0.0.1:4199';
const shot = (n) => p.screenshot({ path: `/tmp/w/${n}.png` });
const t0 = Date.now();
await p.goto(base);
await p
  .waitForFunction(
    () => document.body.innerText.includes('Chandlery receipt') && !document.body.innerText.includes('Finding edges'),
    null,
    { timeout: 90000 },
  )
  .catch((e) => console.log('t/o'));
console.log('demo ready', Date.now() - t0);
await p.getByText('Hull survey Wren').first().click();
await p.waitForFunction(() => document.querySelectorAll('[data-testid=leaf] img').length >= 3, null, { timeout: 60000 });
await p.waitForTimeout(500);
await shot('a1');
await p.getByTestId('leaf').nth(1).click();
await p.waitForTimeout(3500);
const c = await p.getByTestId('corner-0').boundingBox();
await p.mouse.move(c.x + 22, c.y + 22);
await p.mouse.down();
await p.mouse.move(c.x + 60, c.y + 70, { steps: 6 });
await p.waitForTimeout(2500);
await shot('a2');
await p.mouse.up();
await p.getByLabel('Undo').last().click();
await p.getByRole('tab', { name: 'Finish' }).click();
await p
  .waitForFunction(() => document.querySelectorAll('[role=radio] img').length >= 4, null, { timeout: 60000 })
  .catch(() => console.log('no details'));
await p.waitForTimeout(1000);
await shot('a3');
await p.getByLabel('To the proof sheet').click();
await p.waitForTimeout(500);
await p.getByRole('button', { name: 'Send' }).click();
await p.waitForTimeout(800);
await p
  .waitForFunction(() => document.body.innerText.includes('fits a mail'), null, { timeout: 60000 })
  .catch(() => console.log('no pdf'));
await p.getByRole('checkbox', { name: /Yard records/ }).click();
await p.getByRole('checkbox', { name: /Owner/ }).click();
await p.waitForTimeout(400);
await shot('a4');
await p.getByRole('button', { name: /Send to 2/ }).click();
await p.waitForTimeout(3000);
await shot('a5');
await p.goto(base + '/capture');
await p.waitForTimeout(2500);
await shot('a6');
await p.goto(base + '/');
await p.waitForTimeout(2000);
await p.getByText('Bring in the demo').click();
await p
  .waitForFunction(
    () =>
      document.body.innerText.includes('Paint chart') &&
      !document.body.innerText.includes('Finding edges') &&
      !document.body.innerText.includes('Bringing in'),
    null,
    { timeout: 120000 },
  )
  .catch((e) => console.log('t/o'));
await p.waitForTimeout(9000);
await shot('a7');
await p.setViewportSize({ width: 1280, height: 800 });
await p.waitForTimeout(500);
await shot('b1');
await p.getByText('Hull survey Wren').first().click();
await p.waitForTimeout(1500);
await shot('b2');
await p.getByTestId('leaf').nth(1).click();
await p.waitForTimeout(3000);
await p.getByRole('tab', { name: 'Finish' }).click();
await p.waitForTimeout(5000);
await shot('b3');
await p.getByText('Suppliers').first().click();
await p.waitForTimeout(3000);
await shot('b4');
await b.close();
