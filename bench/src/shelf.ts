import type { BrowserContext, Page } from 'playwright-core';
import sharp from 'sharp';
import { lookingPage, lookOf, type Document, type Page as PageRecord, type Recipe } from '@libretto/model';
import { launch } from './chromium';
import { median } from './median';
import { served } from './served';

const ports = { full: 4191, empty: 4192 };
const pagesEach = 4;
const portion = 500;
const starts = 5;
/** What a thumbnail's look begins with: the version of the core that the app names its cache by. */
const coreVersion = 13;

const names = ['Timber docket', 'Hull survey Wren', 'Chandlery receipt', 'Mooring agreement', 'Engine handbook', 'Tide briefing'];
const recipe: Recipe = { v: 1, outline: { v: 1, quad: [[10, 10], [200, 10], [200, 280], [10, 280]], confidence: 0.97, source: 'found' }, turn: 0, filter: 'grey' }; // prettier-ignore

/** Documents of four pages each, three years of them, as texts under their keys. */
function documents(from: number, to: number): { entries: Record<string, string>; firsts: [string, string][] } {
  const entries: Record<string, string> = {};
  const firsts: [string, string][] = [];
  for (let i = from; i < to; i++) {
    const id = `bench-document-${i}`;
    const at = new Date(Date.UTC(2026, 10, 20) - i * 9_460_800).toISOString();
    const pageIds = Array.from({ length: pagesEach }, (_, k) => `bench-page-${i}-${k}`);
    const document: Document = { v: 1, id, name: `${at.slice(0, 10)} ${names[i % names.length]} ${i}`, pageIds, createdAt: at, changedAt: at, deletedAt: null }; // prettier-ignore
    entries[`document:${id}`] = JSON.stringify(document);
    for (const pageId of pageIds) {
      const photoId = `photo-of-${pageId}`;
      const page: PageRecord = {
        ...lookingPage(pageId, id, photoId),
        state: 'ready',
        recipe,
        found: recipe.outline,
        made: { widthMm: 210, heightMm: 297, sizeName: 'a4', dpi: 220, filter: 'grey' },
      };
      entries[`page:${pageId}`] = JSON.stringify(page);
      entries[`photo:${photoId}`] = JSON.stringify({ v: 1, id: photoId, documentId: id, name: `${pageId}.jpg`, type: 'image/jpeg', bytes: 3_000_000, width: 3000, height: 4000, addedAt: at }); // prettier-ignore
      firsts.push([pageId, `${coreVersion}/${lookOf(page)}`]);
    }
  }
  return { entries, firsts };
}

async function fill(page: Page, count: number): Promise<void> {
  const thumb = [...(await sharp({ create: { width: 181, height: 256, channels: 3, background: '#fdfdfb' } }).composite([{ input: { text: { text: 'Hull survey\nplate readings', dpi: 90 } } }]).jpeg({ quality: 82 }).toBuffer())]; // prettier-ignore
  for (let from = 0; from < count; from += portion) {
    await page.evaluate(
      async ({ entries, firsts, bytes }) => {
        const open = (name: string) =>
          new Promise<IDBDatabase>((resolve, reject) => {
            const request = indexedDB.open(name);
            request.onsuccess = () => resolve(request.result);
            request.onerror = () => reject(request.error);
          });
        const done = (t: IDBTransaction) =>
          new Promise<void>((resolve, reject) => {
            t.oncomplete = () => resolve();
            t.onabort = () => reject(t.error);
          });
        const [records, files] = [await open('libretto'), await open('libretto-files')];
        const write = records.transaction('entries', 'readwrite');
        for (const [key, text] of Object.entries(entries)) write.objectStore('entries').put(text, key);
        const put = files.transaction('thumbs', 'readwrite');
        for (const [pageId, look] of firsts)
          put
            .objectStore('thumbs')
            .put({ look, width: 181, height: 256, type: 'image/jpeg', bytes: new Uint8Array(bytes).buffer }, pageId);
        await Promise.all([done(write), done(put)]);
        records.close();
        files.close();
      },
      { ...documents(from, Math.min(count, from + portion)), bytes: thumb },
    );
    process.stdout.write(`\r${Math.min(count, from + portion)} documents`);
  }
  // What follows from the records is made anew at the next start.
  await page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const request = indexedDB.open('libretto');
      request.onsuccess = () => resolve(request.result);
    });
    await new Promise((resolve) => {
      const t = db.transaction('entries', 'readwrite');
      t.objectStore('entries').delete('layout');
      t.oncomplete = resolve;
    });
    db.close();
  });
  process.stdout.write('\n');
}

async function open(context: BrowserContext, port: number, shown: string): Promise<{ page: Page; ms: number }> {
  const page = await context.newPage();
  await page.route('**/demo/truth.json', (route) => route.abort());
  const began = Date.now();
  await page.goto(`http://127.0.0.1:${port}/`, { waitUntil: 'commit' });
  await page.locator(shown).first().waitFor({ timeout: 300_000 });
  return { page, ms: Date.now() - began };
}

const rows = '[data-testid="document-row"]';
const longest = (page: Page, reset = false) =>
  page.evaluate((again) => {
    const w = window as unknown as { tasks: number[] };
    const most = Math.max(0, ...w.tasks);
    if (again) w.tasks.length = 0;
    return most;
  }, reset);

/** A year and more of somebody's paper beside an empty shelf: the start, scrolling, the search, deleting one, memory. Needs the built app. */
export async function benchShelf(count: number): Promise<void> {
  const servers = await Promise.all(Object.values(ports).map((port) => served(port)));
  const browser = await launch('--js-flags=--expose-gc', '--enable-precise-memory-info');
  try {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'block' });
    // tsx names functions by a helper of its own, which the page has not.
    await context.addInitScript('globalThis.__name = (f) => f');
    await context.addInitScript(() => {
      const tasks: number[] = [];
      (window as unknown as { tasks: number[] }).tasks = tasks;
      new PerformanceObserver((list) => list.getEntries().forEach((e) => tasks.push(e.duration))).observe({
        type: 'longtask',
        buffered: true,
      });
    });
    const first = await open(context, ports.full, 'text=Nothing on the shelf yet');
    await fill(first.page, count);
    await first.page.close();
    const built = await open(context, ports.full, rows);
    console.log(`${count} documents with ${count * pagesEach} pages; their summaries were made in ${built.ms} ms, once`);
    await built.page.close();

    const times = { full: [] as number[], empty: [] as number[] };
    for (let i = 0; i < starts; i++) {
      for (const [kind, shown] of [['empty', 'text=Nothing on the shelf yet'], ['full', rows]] as const) {
        const { page, ms } = await open(context, ports[kind], shown);
        times[kind].push(ms);
        process.stdout.write(`\r${kind} ${ms} ms  `);
        await page.close();
      }
    } // prettier-ignore
    const { page } = await open(context, ports.full, rows);
    await page.locator(`${rows} img`).first().waitFor();
    await page.waitForTimeout(1500);
    await longest(page, true);
    await page.mouse.move(195, 500);
    for (let i = 0; i < 60; i++) {
      await page.mouse.wheel(0, i < 40 ? 700 : 6000);
      await page.waitForTimeout(30);
    }
    const scrollTaskMs = await longest(page, true);
    await page.getByLabel('Search names, words, dates').pressSequentially('hull survey 99', { delay: 60 });
    await page.waitForTimeout(600);
    const searchTaskMs = await longest(page, true);
    const found = await page.locator(rows).count();
    await page.getByLabel('clear').or(page.getByLabel('Clear')).first().click();
    await page.waitForTimeout(1500);
    const deletes: number[] = [];
    for (let i = 0; i < 5; i++) {
      const more = page.getByLabel(/^More for/).first();
      const name = (await more.getAttribute('aria-label'))!;
      await more.click();
      const item = page.getByRole('menuitem', { name: 'Move to the bin' });
      await item.waitFor();
      await page.waitForTimeout(300);
      deletes.push(
        await item.evaluate(async (element, label) => {
          const began = performance.now();
          (element as HTMLElement).click();
          // Gone from the screen, and gone in storage.
          await new Promise<void>((resolve) => {
            const look = () => {
              const there = document.querySelector(`[aria-label="${label}"]`);
              if (!there && !document.documentElement.hasAttribute('data-saving')) resolve();
              else requestAnimationFrame(look);
            };
            requestAnimationFrame(look);
          });
          return performance.now() - began;
        }, name),
      );
    }
    const heapMB = await page.evaluate(() => {
      (globalThis as unknown as { gc?: () => void }).gc?.();
      return (performance as unknown as { memory: { usedJSHeapSize: number } }).memory.usedJSHeapSize / 1e6;
    });
    console.log(
      `starts: full ${times.full.join(', ')} ms, empty ${times.empty.join(', ')} ms; ${found} rows found; deletes ${deletes.map(Math.round).join(', ')} ms`,
    );
    console.log(
      JSON.stringify({
        firstRowMs: Math.round(median(times.full)),
        emptyMs: Math.round(median(times.empty)),
        scrollTaskMs: Math.round(scrollTaskMs),
        searchTaskMs: Math.round(searchTaskMs),
        deleteMs: Math.round(median(deletes)),
        heapMB: Math.round(heapMB),
      }),
    );
  } finally {
    await browser.close();
    servers.forEach((s) => s.kill());
  }
}
