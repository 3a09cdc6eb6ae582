import { lookOf, type Outline, type Page } from '@libretto/model';
import { getPhoto, getRender, getThumb, putRender, putThumb, type Rendered, type Thumb } from '../store/files';
import { priority } from './pool';
import { pagePool } from './pools';
import type { WorkRecipe } from './heldPage';
import { WorkProblem } from './problem';

/** What a page image is for: `print` 300 dpi at most, `screen` 1400 px of it, `sheet` as proof sheets show it, `draft` while something is moved. */
export type ImageUse = 'screen' | 'sheet' | 'print' | 'draft';

const draftEdgePx = 520;
const edgesPx = { screen: 1400, sheet: 640, thumb: 256 };

/** Raised when the core makes pages differently, so that cached images are made anew. */
const coreVersion = 15;

/** What told how the sides of an outline bend. */
const sidesFrom: Partial<Record<Outline['source'], WorkRecipe['sidesFrom'] & string>> = { hand: 'hand', whole: 'lines' };

export function workRecipe(page: Page): WorkRecipe {
  const { outline, turn, filter, size, adjust, mirror, tidy, touches, marks } = page.recipe!;
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
    ...(marks?.length && { marks }),
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

interface Made {
  print: Rendered;
  screen: Rendered;
  sheet: Rendered;
  thumb: Thumb;
}

/** Makes a page's images, all at once: the file that leaves is there before it is asked for, and what is shown is what is sent. */
function make(page: Page, rank: number, signal?: AbortSignal): Promise<Made> {
  return together(imageKey(page, 'print'), signal, async (stop) => {
    const photo = await photoOf(page);
    const { smaller, ...print } = await pagePool.run(
      (api) => api.make(page.photoId, photo, workRecipe(page), page.alone, Object.values(edgesPx)),
      rank,
      stop,
    );
    const screen = { ...print, ...smaller[0]! };
    const sheet = { ...print, ...smaller[1]! };
    const thumb = { ...smaller[2]!, look: thumbLook(lookOf(page)) };
    await Promise.all([
      cached(putRender(imageKey(page, 'print'), print)),
      cached(putRender(imageKey(page, 'screen'), screen)),
      cached(putRender(imageKey(page, 'sheet'), sheet)),
      cached(putThumb(page.id, thumb)),
    ]);
    return { print, screen, sheet, thumb };
  });
}

/** A page's image from the cache, or made now. Asking twice makes it once; with a signal it is given up when all who asked have gone. */
export async function pageImage(
  page: Page,
  use: ImageUse,
  rank: number = priority.onScreen,
  signal?: AbortSignal,
): Promise<Rendered> {
  const made = use === 'draft' ? undefined : await getRender(imageKey(page, use)).catch(() => undefined);
  if (made) return made;
  signal?.throwIfAborted();
  if (use !== 'draft') return (await make(page, rank, signal))[use];
  return together(imageKey(page, use), signal, async (stop) => {
    const photo = await photoOf(page);
    return pagePool.run((api) => api.draft(page.photoId, photo, workRecipe(page), page.alone, draftEdgePx), rank, stop);
  });
}

/** A page's thumbnail as it was kept last, and whether it shows the page as it is now. */
export async function keptThumb(pageId: string, look: string): Promise<{ thumb: Thumb; current: boolean } | null> {
  const thumb = await getThumb(pageId).catch(() => undefined);
  return thumb ? { thumb, current: thumb.look === thumbLook(look) } : null;
}

/** A page's thumbnail, made anew, and what the page is like. */
export async function makeThumb(page: Page, signal?: AbortSignal): Promise<{ thumb: Thumb; made: NonNullable<Page['made']> }> {
  const { thumb, screen } = await make(page, priority.ahead, signal);
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
