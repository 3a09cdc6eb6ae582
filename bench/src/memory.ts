import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser } from 'playwright-core';
import sharp from 'sharp';
import { launch } from './chromium';
import { served } from './served';

const root = fileURLToPath(new URL('../..', import.meta.url));
const photos = path.join(root, 'demo/photos');
const port = 4198;
const pages = 40;
const everyMs = 50;
/** All is done when the renderer has had nothing to do for so long. */
const quietSeconds = 12;
const longestMs = 900_000;

/** What the renderer alone holds, in MB: pages that no file backs (`RssAnon`), which is what Chromium's own task manager goes by on Linux; 0 when it is gone. */
function anonymousMb(pid: number): number {
  try {
    return Number(/RssAnon:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;
  } catch {
    return 0;
  }
}

/** Processor time that a process has used, in s; Linux counts a hundred a second. */
function usedSeconds(pid: number): number {
  try {
    const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1]!.split(' ');
    return (Number(fields[11]) + Number(fields[12])) / 100;
  } catch {
    return 0;
  }
}

/** Most memory that the page and its workers held while photographs came in. */
async function measured(browser: Browser, files: readonly string[], reads: boolean) {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
  // tsx names functions by a helper of its own, which the page has not.
  await context.addInitScript('globalThis.__name = (f) => f');
  await context.addInitScript((saveData) => {
    Object.defineProperty(navigator, 'deviceMemory', { configurable: true, value: 2 });
    Object.defineProperty(navigator, 'connection', { configurable: true, value: { saveData } });
  }, !reads);
  const page = await context.newPage();
  await page.route('**/demo/truth.json', (route) => route.abort());
  const session = await browser.newBrowserCDPSession();
  await page.goto(`http://127.0.0.1:${port}/capture?from=files`);
  await page.getByTestId('file-input').first().waitFor({ state: 'attached' });
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  const renderers = processInfo.filter(({ type }) => type === 'renderer').map(({ id }) => id);
  const now = () => Math.max(...renderers.map(anonymousMb));
  const empty = now();
  let most = 0;
  const sampling = setInterval(() => (most = Math.max(most, now())), everyMs);
  const began = Date.now();
  await page
    .getByTestId('file-input')
    .first()
    .setInputFiles([...files]);
  // The proof sheet draws what is in sight only, so that it cannot tell when all is done.
  const used = () => Math.max(...renderers.map(usedSeconds));
  for (let quiet = 0, last = used(); quiet < quietSeconds && Date.now() - began < longestMs;) {
    await page.waitForTimeout(1000);
    quiet = used() - last < 0.1 ? quiet + 1 : 0;
    last = used();
  }
  clearInterval(sampling);
  const seconds = (Date.now() - began) / 1000 - quietSeconds;
  const shown = await page.locator('[data-testid="leaf"] img').count();
  if (!shown || (await page.getByText('Finding edges').count())) throw new Error('The photographs were not all made into pages');
  const after = now();
  await context.close();
  return { empty, most, after, seconds };
}

/**
 * Most memory of the page, its workers included, on a device that says it has 2 GB and so gets one worker: one photograph of 48 megapixels, and forty
 * photographs of 12 in one go. Needs the built app.
 */
export async function benchMemory(): Promise<void> {
  const dir = mkdtempSync(path.join(tmpdir(), 'libretto-bench-'));
  const names = readdirSync(photos).filter((name) => /^(hull|mooring|timber|mast|orange|kraft)/.test(name));
  const [width, height] = [4000, 3000];
  const twelve: string[] = [];
  for (let i = 0; i < pages; i++) {
    const file = path.join(dir, `p${i}.jpg`);
    await sharp(path.join(photos, names[i % names.length]!)).rotate().resize(height, width, { fit: 'fill' }).jpeg({ quality: 88 }).toFile(file); // prettier-ignore
    twelve.push(file);
  }
  const large = path.join(dir, 'large.jpg');
  await sharp(path.join(photos, names[0]!)).rotate().resize(2 * height, 2 * width, { fit: 'fill' }).jpeg({ quality: 88 }).toFile(large); // prettier-ignore
  const server = await served(port, dir);
  const said: Record<string, number> = {};
  try {
    for (const [name, files, reads] of [
      ['large', [large], false],
      ['run', twelve, false],
      ['read', twelve.slice(0, 6), true],
    ] as const) {
      // A browser of its own each: what one left behind does not count for the next.
      const browser = await launch();
      const { empty, most, after, seconds } = await measured(browser, files, reads);
      await browser.close();
      console.log(
        `${{ large: 'one photograph of 48 megapixels', run: `${pages} of 12 megapixels`, read: 'six of 12 megapixels, read as well' }[name]}: ${empty.toFixed(0)} MB before, ${most.toFixed(0)} MB at most, ${after.toFixed(0)} MB afterwards; ${seconds.toFixed(0)} s`,
      );
      said[`${name}Mb`] = Math.round(most);
    }
  } finally {
    server.kill();
  }
  console.log(JSON.stringify(said));
}
