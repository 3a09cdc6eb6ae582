import { readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { openModule } from './chromium';
import type { FindTimes } from './findTimes.page';
import { median } from './median';

/** So many photos are looked at before any time is taken: the first looks pay for code that is not compiled yet. Then each one so often by both in turn. */
const warmUp = 18;
const rounds = 5;

/**
 * How long our finder and the textbook's take for each photo in Chromium, where the app runs, ms: medians of some rounds.
 *
 * @param files JPEG photographs.
 */
export async function findTimes(dir: string, files: readonly string[]): Promise<{ ours: number; theirs: number }[]> {
  const { page, close } = await openModule(fileURLToPath(new URL('findTimes.page.ts', import.meta.url)));
  try {
    await page.waitForFunction(() => 'findTimes' in globalThis);
    const measure = (file: string, times: number) =>
      page.evaluate(([photo, n]) => (globalThis as unknown as { findTimes: FindTimes }).findTimes(photo, n), [
        readFileSync(path.join(dir, file)).toString('base64'),
        times,
      ] as const);
    for (const file of files.slice(0, warmUp)) await measure(file, 1);
    const all: { ours: number; theirs: number }[] = [];
    for (const file of files) {
      const times = await measure(file, rounds);
      const [ours, theirs] = [0, 1].map((i) => median(times.map((t) => t[i]!)));
      all.push({ ours: ours!, theirs: theirs! });
    }
    return all;
  } finally {
    await close();
  }
}
