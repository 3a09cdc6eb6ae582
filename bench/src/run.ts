import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from 'playwright-core';
import { filmedPile } from '@libretto/demo/reel/acts';
import { makeFilm } from '@libretto/demo/reel/film';
import { launch } from './chromium';
import { median } from './median';
import { served } from './served';

const port = 4189;

interface Watched {
  shutters: number[];
  shown: number[];
  finished: number[];
  longest: number;
  stalls: number[];
  frames: number;
}

/** Runs in the page: notes when the shutter went, when a page stood in the tray and when its finished picture did; and how long the thread was held up. */
function watch(): void {
  const w: Watched = { shutters: [], shown: [], finished: [], longest: 0, stalls: [], frames: 0 };
  (window as unknown as { watched: Watched }).watched = w;
  const has = (node: Node, id: string) =>
    node instanceof HTMLElement && (node.dataset.testid === id || node.querySelector(`[data-testid="${id}"]`) !== null);
  new MutationObserver((changes) => {
    const now = performance.now();
    for (const { addedNodes } of changes)
      for (const node of addedNodes) {
        if (has(node, 'flash')) w.shutters.push(now);
        if (has(node, 'tray-shot')) w.shown.push(now);
        if (
          node instanceof HTMLElement &&
          node.closest('[data-testid="tray-leaf"]') &&
          (node.tagName === 'IMG' || node.querySelector('img'))
        )
          w.finished.push(now);
      }
  }).observe(document, { childList: true, subtree: true });
  new PerformanceObserver((list) => {
    for (const { duration } of list.getEntries()) w.stalls.push(duration);
  }).observe({ type: 'longtask', buffered: true });
  let before = 0;
  const tick = (now: number) => {
    if (before) w.longest = Math.max(w.longest, now - before);
    before = now;
    w.frames++;
    requestAnimationFrame(tick);
  };
  requestAnimationFrame(tick);
}

/**
 * A run of ten sheets in the browser before Chromium's fake camera, which plays a film of the demo's pile: how long the main thread is held up at
 * most, and how soon a page stands in the tray, and its finished picture. Needs the built app.
 */
export async function benchRun(): Promise<void> {
  const film = path.join(mkdtempSync(path.join(tmpdir(), 'libretto-film-')), 'film.mjpeg');
  await makeFilm(filmedPile, film);
  const pages = filmedPile.acts.length;
  const server = await served(port);
  const browser = await launch('--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream', `--use-file-for-fake-video-capture=${film}`); // prettier-ignore
  try {
    const context = await browser.newContext({
      viewport: { width: 390, height: 844 },
      serviceWorkers: 'block',
      baseURL: `http://127.0.0.1:${port}`,
    });
    const page: Page = await context.newPage();
    await page.route('**/demo/truth.json', (route) => route.abort());
    // tsx names functions by a helper of its own, which the page has not.
    await page.addInitScript('globalThis.__name = (f) => f');
    await page.addInitScript(watch);
    await page.goto('/capture');
    await page.getByTestId('live').waitFor();
    // What is measured is the run, not the app's start.
    await page.waitForFunction(() => (window as unknown as { watched: Watched }).watched.shutters.length > 0, null, {
      timeout: 60_000,
    });
    await page.evaluate(() => {
      const { watched } = window as unknown as { watched: Watched };
      watched.stalls.length = 0;
      watched.longest = 0;
    });
    await page
      .getByTestId('tray-leaf')
      .nth(pages - 1)
      .waitFor({ timeout: 180_000 });
    await page.waitForFunction((n) => document.querySelectorAll('[data-testid="tray-leaf"] img').length >= n, pages, {
      timeout: 60_000,
    });
    const w = await page.evaluate(() => (window as unknown as { watched: Watched }).watched);
    const marks = await page.evaluate(() => {
      const of = (name: string) => performance.getEntriesByName(`libretto-${name}`).map((m) => m.startTime);
      return { shutter: of('shutter'), still: of('still'), saved: of('saved') };
    });
    const after = (later: readonly number[]) => later.map((t, i) => t - marks.shutter[i]!);
    const since = (later: readonly number[]) => later.slice(0, w.shutters.length).map((t, i) => t - w.shutters[i]!);
    console.log(
      `${pages} pages before a filmed camera: longest stall of the main thread ${Math.max(0, ...w.stalls).toFixed(0)} ms (${w.stalls.length} over 50 ms), longest gap between two frames ${w.longest.toFixed(0)} ms`,
    );
    console.log(
      `from the shutter to the page in the tray: median ${median(since(w.shown)).toFixed(0)} ms, most ${Math.max(...since(w.shown)).toFixed(0)} ms; to its finished picture: median ${median(since(w.finished)).toFixed(0)} ms`,
    );
    const [stillMs, savedMs] = [median(after(marks.still)), median(after(marks.saved))];
    console.log(
      `from the shutter to the device's still: median ${stillMs.toFixed(0)} ms; to "saved": median ${savedMs.toFixed(0)} ms, ${(savedMs - stillMs).toFixed(0)} ms after it`,
    );
    console.log(
      JSON.stringify({
        pages,
        stallMs: Math.round(Math.max(0, ...w.stalls)),
        stillMs: Math.round(stillMs),
        savedMs: Math.round(savedMs),
        finishedMs: Math.round(median(since(w.finished))),
      }),
    );
  } finally {
    await browser.close();
    server.kill();
  }
}
