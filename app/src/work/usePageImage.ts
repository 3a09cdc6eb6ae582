import equal from 'fast-deep-equal';
import { useEffect, useState } from 'react';
import type { Page, Problem, Summary } from '@libretto/model';
import { learnPage } from '../store/editing';
import { getPhoto, type Rendered } from '../store/files';
import { readKeys } from '../store/records';
import { keyOf } from '../store/texts';
import { useAppDispatch } from '../store/store';
import { imageKey, keptThumb, madeOf, makeThumb, pageImage, type ImageUse } from './pageImages';
import { priority, wasCancelled } from './pool';
import { problemOf } from './problem';

export interface ShownImage {
  url: string | null;
  /** The image that `url` shows belongs to the page as it is now. */
  current: boolean;
  image: Rendered | null;
  problem: Problem | null;
}

/** Address of a page's image, made when needed; the former one stays until the new one is there. What is no longer shown is no longer made. */
export function usePageImage(page: Page | undefined, use: ImageUse): ShownImage {
  const dispatch = useAppDispatch();
  const key = page?.recipe && page.state === 'ready' ? imageKey(page, use) : null;
  const [shown, setShown] = useState<{ key: string; url: string; image: Rendered } | null>(null);
  const [problem, setProblem] = useState<{ key: string; problem: Problem } | null>(null);
  useEffect(() => {
    if (!key || !page) return;
    let live = true;
    const unwanted = new AbortController();
    pageImage(page, use, use === 'draft' ? priority.onScreen + 1 : priority.onScreen, unwanted.signal).then(
      (image) => {
        if (!live) return;
        setShown({ key, url: URL.createObjectURL(image.blob), image });
        if (use !== 'screen' && use !== 'sheet') return;
        const made = madeOf(image);
        if (!equal(made, page.made)) void dispatch(learnPage(page, { made }));
      },
      (error: unknown) => live && !wasCancelled(error) && setProblem({ key, problem: problemOf(error) }),
    );
    return () => {
      live = false;
      unwanted.abort();
    };
    // The key names all of the page that decides its pixels.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => () => void (shown && setTimeout(() => URL.revokeObjectURL(shown.url), 1000)), [shown]);
  return {
    url: shown?.url ?? null,
    current: shown !== null && shown.key === key,
    image: shown?.image ?? null,
    problem: problem && problem.key === key ? problem.problem : null,
  };
}

/** A page as large as the screen; until that is there, as the proof sheet shows it. */
export function usePageOnScreen(page: Page): ShownImage {
  const large = usePageImage(page, 'screen');
  const small = usePageImage(large.image ? undefined : page, 'sheet');
  return large.image ? large : { ...small, current: false, problem: large.problem };
}

export interface ShownThumb {
  url: string | null;
  width: number;
  height: number;
}

/**
 * A page's thumbnail: what was kept at once, anew when the page looks otherwise by now.
 *
 * @param held the page, where it is at hand; it may be ahead of what is stored.
 */
export function useThumb(first: Summary['first'] | undefined, held?: Page): ShownThumb | null {
  const dispatch = useAppDispatch();
  const [shown, setShown] = useState<(ShownThumb & { pageId: string }) | null>(null);
  const { pageId, look } = first ?? { pageId: '', look: '' };
  useEffect(() => {
    if (!pageId) return;
    let live = true;
    const unwanted = new AbortController();
    const show = ({ blob, width, height }: { blob: Blob; width: number; height: number }) =>
      live && setShown({ pageId, url: URL.createObjectURL(blob), width, height });
    void (async () => {
      const kept = await keptThumb(pageId, look);
      if (kept) show(kept.thumb);
      if (kept?.current || !look || !live) return;
      const key = keyOf('page', pageId);
      const page = held ?? ((await readKeys([key])).records.get(key) as Page | undefined);
      if (!live || !page?.recipe || page.state !== 'ready') return;
      const { thumb, made } = await makeThumb(page, unwanted.signal);
      show(thumb);
      if (!equal(made, page.made)) void dispatch(learnPage(page, { made }));
    })().catch(() => {});
    return () => {
      live = false;
      unwanted.abort();
    };
    // The look names all of the page that decides its pixels.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [dispatch, pageId, look]);
  useEffect(() => () => void (shown?.url && URL.revokeObjectURL(shown.url)), [shown]);
  return shown && shown.pageId === pageId ? shown : null;
}

/** Address of a photo as taken. */
export function usePhotoUrl(photoId: string | undefined): string | null {
  const [held, setHeld] = useState<{ photoId: string; url: string } | null>(null);
  useEffect(() => {
    if (!photoId) return;
    let live = true;
    let url: string | null = null;
    void getPhoto(photoId).then((blob) => {
      if (!live || !blob) return;
      url = URL.createObjectURL(blob);
      setHeld({ photoId, url });
    });
    return () => {
      live = false;
      if (url) URL.revokeObjectURL(url);
    };
  }, [photoId]);
  return held && held.photoId === photoId ? held.url : null;
}
