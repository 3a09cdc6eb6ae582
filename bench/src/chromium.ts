import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { build } from 'esbuild';
import { chromium, type Browser, type Page } from 'playwright-core';

const { resolve } = createRequire(import.meta.url);

/** Debian's Chromium without a window. */
export const launch = (...args: string[]): Promise<Browser> =>
  chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--headless', '--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', ...args],
  }); // prettier-ignore

/** An address that nothing is asked of: all that the page loads is given to it. */
const nowhere = 'http://bench.invalid/';

/**
 * A page of Chromium in which a module of ours runs beside OpenCV's WebAssembly build (the global `cv`).
 *
 * @param entry the module's file. What it gives the page it puts on `globalThis`.
 */
export async function openModule(entry: string): Promise<{ page: Page; close: () => Promise<void> }> {
  const { outputFiles } = await build({
    entryPoints: [entry],
    bundle: true,
    write: false,
    format: 'esm',
    target: 'es2022',
    external: ['@techstark/opencv-js'],
    logLevel: 'warning',
  });
  const scripts: Record<string, string> = {
    'opencv.js': readFileSync(resolve('@techstark/opencv-js'), 'utf8'),
    'module.js': outputFiles[0]!.text,
  };
  const browser = await launch();
  const page = await browser.newPage();
  await page.route('**', (route) => {
    const script = scripts[new URL(route.request().url()).pathname.slice(1)];
    return script
      ? route.fulfill({ contentType: 'text/javascript', body: script })
      : route.fulfill({ contentType: 'text/html', body: '<script src="opencv.js"></script><script type="module" src="module.js"></script>' }); // prettier-ignore
  });
  await page.goto(nowhere);
  return { page, close: () => browser.close() };
}
