import { fileURLToPath } from 'node:url';
import { openModule } from './chromium';
import { median } from './median';
import type { Words } from './words.page';

const wordsEach = 350;
const [openings, changes, queries] = [5, 20, 400];

/**
 * The index of all words in Chromium, on a shelf of so many pages: making it once, having it again at the next opening, keeping one page that was read anew, and searching.
 *
 * @param documents of one page and 350 words each.
 */
export async function benchWords(documents: number): Promise<void> {
  const { page, close } = await openModule(fileURLToPath(new URL('words.page.ts', import.meta.url)));
  try {
    const ready = () => page.waitForFunction(() => 'words' in globalThis);
    const words = <T>(call: (api: Words, n: number) => T | Promise<T>, n = 0) =>
      page.evaluate(`(${call.toString()})(globalThis.words, ${n})`) as Promise<Awaited<T>>;
    await ready();
    await words((api, n) => api.fill(n, 350), documents);
    const made = await words((api) => api.open());
    console.log(`${documents} pages of ${wordsEach} words: made in ${Math.round(made.filledMs)} ms, kept in ${Math.round(made.savedMs)} ms, once`); // prettier-ignore
    const loads: number[] = [];
    for (let i = 0; i < openings; i++) {
      await page.reload();
      await ready();
      loads.push((await words((api) => api.open())).filledMs);
    }
    const kept: number[] = [];
    for (let i = 0; i < changes; i++) kept.push(await words((api, n) => api.change(n, 350), i * 7));
    const times = (await words((api, n) => api.search(n), queries)).sort((a, b) => a - b);
    const figures = { makeMs: made.filledMs, loadMs: median(loads), keepOneMs: median(kept), searchMs: median(times), searchP95Ms: times[Math.floor(times.length * 0.95)]! }; // prettier-ignore
    console.log(
      `at the next opening ${loads.map(Math.round).join(', ')} ms; one page kept ${kept.map(Math.round).join(', ')} ms`,
    );
    console.log(JSON.stringify(Object.fromEntries(Object.entries(figures).map(([key, ms]) => [key, +ms.toFixed(1)]))));
  } finally {
    await close();
  }
}
