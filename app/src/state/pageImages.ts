import type { Outline, Page } from '@libretto/model';
import { getPhoto, getRender, putRender, type Rendered } from '../storage/files';
import { priority } from '../workers/pool';
import { pagePool } from '../workers/pools';
import type { WorkRecipe } from '../workers/page.worker';

/** What a page image is for: `screen` 1400 px long, `print` 300 dpi at most. */
export type ImageUse = 'screen' | 'print' | 'draft';

const limits = { draft: { maxEdgePx: 520 }, screen: { maxEdgePx: 1400 }, print: { dpi: 300 } } as const;

/** Raised when the core makes pages differently, so that cached images are made anew. */
const coreVersion = 12;

/** What told how the sides of an outline bend. */
const sidesFrom: Partial<Record<Outline['source'], WorkRecipe['sidesFrom'] & string>> = { hand: 'hand', whole: 'lines' };

export function workRecipe(page: Page): WorkRecipe {
  const { outline, turn, filter, size, adjust, mirror, tidy, touches } = page.recipe!;
  return {
    quad: outline.quad,
    ...(outline.source === 'whole' && { whole: true }),
    ...(outline.polygon && {
      polygon: outline.polygon,
      ...(sidesFrom[outline.source] && { sidesFrom: sidesFrom[outline.source] }),
    }),
    turn,
    ...(mirror && { mirror }),
    ...(tidy === false && { tidy }),
    ...(touches && { touches }),
    filter,
    ...(adjust && { adjust: adjust as WorkRecipe['adjust'] & object }),
    ...(size && { size: size as WorkRecipe['size'] & object }),
  };
}

/** Names a page's image by all that decides its pixels. */
export function imageKey(page: Page, use: ImageUse): string {
  return JSON.stringify([coreVersion, page.photoId, workRecipe(page), page.alone, use]);
}

const underWay = new Map<string, Promise<Rendered>>();

/** A page's image from the cache, or made now. Asking twice makes it once. */
export function pageImage(page: Page, use: ImageUse, rank: number = priority.onScreen, signal?: AbortSignal): Promise<Rendered> {
  const key = imageKey(page, use);
  const running = signal ? undefined : underWay.get(key);
  if (running) return running;
  const made = (async () => {
    const cached = use === 'draft' ? undefined : await getRender(key);
    if (cached) return cached;
    const photo = await getPhoto(page.photoId);
    if (!photo) throw new Error('The photo is no longer in this browser’s storage');
    const image = await pagePool.run(
      (api) => api.make(page.photoId, photo, workRecipe(page), page.alone, limits[use], use === 'print' ? 'print' : 'screen'),
      rank,
      signal,
    );
    if (use !== 'draft') await putRender(key, image);
    return image;
  })();
  if (signal) return made;
  underWay.set(key, made);
  void made.finally(() => underWay.delete(key)).catch(() => {});
  return made;
}
