import { lookOf, type Outline, type Page } from '@libretto/model';
import { getPhoto, getRender, getThumb, putRender, putThumb, type Rendered, type Thumb } from '../store/files';
import { priority } from './pool';
import { pagePool } from './pools';
import type { WorkRecipe } from './page.worker';
import { WorkProblem } from './problem';

/** What a page image is for: `screen` 1400 px long, `sheet` as proof sheets show it, `print` 300 dpi at most, `draft` while something is moved. */
export type ImageUse = 'screen' | 'sheet' | 'print' | 'draft';

const limits = { draft: { maxEdgePx: 520 }, screen: { maxEdgePx: 1400 }, print: { dpi: 300 } } as const;
const sheetEdgePx = 640;
const thumbEdgePx = 256;

/** Raised when the core makes pages differently, so that cached images are made anew. */
const coreVersion = 14;

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
export const imageKey = (page: Page, use: ImageUse): string => `${coreVersion}/${page.photoId}/${lookOf(page)}/${use}`;
/** What a thumbnail was made of. */
const thumbLook = (look: string) => `${coreVersion}/${look}`;

interface Making<T> {
  made: Promise<T>;
  users: number;
  stop: AbortController;
}

const underWay = new Map<string, Making<unknown>>();

/** Work that several may want: it is done once, and given up when nobody wants it any more. */
function together<T>(key: string, signal: AbortSignal | undefined, make: (signal: AbortSignal) => Promise<T>): Promise<T> {
  let making = underWay.get(key) as Making<T> | undefined;
  if (!making) {
    const stop = new AbortController();
    making = { made: make(stop.signal), users: 0, stop };
    underWay.set(key, making);
    const over = () => underWay.get(key) === making && underWay.delete(key);
    making.made.then(over, over);
  }
  const shared = making;
  shared.users++;
  signal?.addEventListener(
    'abort',
    () => {
      if (--shared.users > 0) return;
      // Whoever asks next begins anew.
      if (underWay.get(key) === shared) underWay.delete(key);
      shared.stop.abort();
    },
    { once: true },
  );
  return shared.made;
}

async function photoOf(page: Page): Promise<Blob> {
  const photo = await getPhoto(page.photoId);
  if (!photo) throw new WorkProblem('photo-gone');
  return photo;
}

/** A cache that is full or broken is no reason not to show a page. */
const cached = (write: Promise<unknown>) => write.catch(() => {});

interface Shown {
  screen: Rendered;
  sheet: Rendered;
  thumb: Thumb;
}

function show(page: Page, rank: number, signal?: AbortSignal): Promise<Shown> {
  return together(imageKey(page, 'screen'), signal, async (stop) => {
    const photo = await photoOf(page);
    const { smaller, ...screen } = await pagePool.run(
      (api) => api.show(page.photoId, photo, workRecipe(page), page.alone, limits.screen, [sheetEdgePx, thumbEdgePx]),
      rank,
      stop,
    );
    const sheet = { ...screen, ...smaller[0]! };
    const thumb = { ...smaller[1]!, look: thumbLook(lookOf(page)) };
    await Promise.all([
      cached(putRender(imageKey(page, 'screen'), screen)),
      cached(putRender(imageKey(page, 'sheet'), sheet)),
      cached(putThumb(page.id, thumb)),
    ]);
    return { screen, sheet, thumb };
  });
}

/** A page's image from the cache, or made now. Asking twice makes it once; with a signal it is given up when all who asked have gone. */
export async function pageImage(
  page: Page,
  use: ImageUse,
  rank: number = priority.onScreen,
  signal?: AbortSignal,
): Promise<Rendered> {
  const key = imageKey(page, use);
  const made = use === 'draft' ? undefined : await getRender(key).catch(() => undefined);
  if (made) return made;
  signal?.throwIfAborted();
  if (use === 'screen' || use === 'sheet') return (await show(page, rank, signal))[use];
  return together(key, signal, async (stop) => {
    const photo = await photoOf(page);
    const image = await pagePool.run(
      (api) => api.make(page.photoId, photo, workRecipe(page), page.alone, limits[use], use === 'print' ? 'print' : 'screen'),
      rank,
      stop,
    );
    if (use !== 'draft') await cached(putRender(key, image));
    return image;
  });
}

/** A page's thumbnail as it was kept last, and whether it shows the page as it is now. */
export async function keptThumb(pageId: string, look: string): Promise<{ thumb: Thumb; current: boolean } | null> {
  const thumb = await getThumb(pageId).catch(() => undefined);
  return thumb ? { thumb, current: thumb.look === thumbLook(look) } : null;
}

/** A page's thumbnail, made anew, and what the page is like. */
export async function makeThumb(page: Page, signal?: AbortSignal): Promise<{ thumb: Thumb; made: NonNullable<Page['made']> }> {
  const { thumb, screen } = await show(page, priority.ahead, signal);
  return { thumb, made: madeOf(screen) };
}

/** What a page is like, from its image. */
export const madeOf = ({ widthMm, heightMm, sizeName, photoDpi, filter }: Rendered): NonNullable<Page['made']> => ({
  widthMm,
  heightMm,
  sizeName,
  dpi: Math.round(photoDpi),
  filter,
});
