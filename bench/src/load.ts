import type { Browser } from 'playwright-core';
import { launch } from './chromium';
import { median } from './median';
import { served } from './served';

const port = 4196;
const rounds = 5;
/** A phone of some years on a slow mobile network: 1.6 Mbit/s, 150 ms, a quarter of this machine's speed. */
const slowly = { offline: false, latency: 150, downloadThroughput: 1.6e6 / 8, uploadThroughput: 0.75e6 / 8 };
const slowdown = 4;

interface Visit {
  kB: number;
  drawnMs: number;
  usableMs: number;
}

/** From the address to a shelf that can be used; `again`: how long it takes the second time, with the offline copy there. */
async function visit(browser: Browser, slow: boolean, again: boolean): Promise<Visit & { secondMs: number }> {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  const page = await context.newPage();
  // The demo's photographs come after the shelf can be used: not part of it.
  await context.route('**/demo/**', (route) => route.abort());
  const session = await context.newCDPSession(page);
  await session.send('Network.enable');
  let bytes = 0;
  session.on('Network.loadingFinished', ({ encodedDataLength }) => (bytes += encodedDataLength));
  if (slow) {
    await session.send('Network.emulateNetworkConditions', slowly);
    await session.send('Emulation.setCPUThrottlingRate', { rate: slowdown });
  }
  const open = async () => {
    const began = Date.now();
    await page.goto(`http://127.0.0.1:${port}/`, { waitUntil: 'commit' });
    const drawn = page.locator('#first, [data-testid="shelf-list"]').first().waitFor().then(() => Date.now() - began); // prettier-ignore
    await page.getByText('Nothing on the shelf yet').waitFor();
    return { usableMs: Date.now() - began, drawnMs: await drawn };
  };
  const first = await open();
  const kB = bytes / 1000;
  let secondMs = 0;
  if (again) {
    await page.evaluate(async () => (await navigator.serviceWorker.ready).active?.state);
    await page.waitForTimeout(2000);
    secondMs = (await open()).usableMs;
  }
  await context.close();
  return { kB, ...first, secondMs };
}

/** Bytes and time to a usable shelf: first and second visit, and with network and processor slowed. Needs the built app. */
export async function benchLoad(): Promise<void> {
  const server = await served(port);
  const browser = await launch();
  try {
    const usual: (Visit & { secondMs: number })[] = [];
    const slow: Visit[] = [];
    for (let i = 0; i < rounds; i++) {
      usual.push(await visit(browser, false, true));
      slow.push(await visit(browser, true, false));
    }
    const of = <T>(list: T[], pick: (v: T) => number) => Math.round(median(list.map(pick)));
    console.log(
      `first visit: ${of(usual, (v) => v.kB)} kB, frame after ${of(usual, (v) => v.drawnMs)} ms, usable after ${of(usual, (v) => v.usableMs)} ms; second ${of(usual, (v) => v.secondMs)} ms`,
    );
    console.log(
      `at 1.6 Mbit/s, 150 ms, processor slowed ${slowdown} times: frame after ${of(slow, (v) => v.drawnMs)} ms, usable after ${of(slow, (v) => v.usableMs)} ms`,
    );
    console.log(
      JSON.stringify({
        kB: of(usual, (v) => v.kB),
        usableMs: of(usual, (v) => v.usableMs),
        slowUsableMs: of(slow, (v) => v.usableMs),
        secondMs: of(usual, (v) => v.secondMs),
      }),
    );
  } finally {
    await browser.close();
    server.kill();
  }
}
