import { useEffect, useState } from 'react';
import type { Page } from '@libretto/model';
import { pageLearned } from '../state/library';
import { imageKey, pageImage, type ImageUse } from '../state/pageImages';
import { useAppDispatch } from '../state/store';
import { getPhoto, type Rendered } from '../storage/files';
import { priority, wasCancelled } from '../workers/pool';

export interface ShownImage {
  url: string | null;
  /** The image that `url` shows belongs to the page as it is now. */
  current: boolean;
  image: Rendered | null;
  problem: string | null;
}

/** Address of a page's image, made when needed; the former one stays until the new one is there. */
export function usePageImage(page: Page | undefined, use: ImageUse): ShownImage {
  const dispatch = useAppDispatch();
  const key = page?.recipe && page.state === 'ready' ? imageKey(page, use) : null;
  const [shown, setShown] = useState<{ key: string; url: string; image: Rendered } | null>(null);
  const [problem, setProblem] = useState<{ key: string; words: string } | null>(null);
  useEffect(() => {
    if (!key || !page) return;
    let live = true;
    // A draft that is overtaken by the next is not made.
    const overtaken = new AbortController();
    pageImage(
      page,
      use,
      use === 'draft' ? priority.onScreen + 1 : priority.onScreen,
      use === 'draft' ? overtaken.signal : undefined,
    ).then(
      (image) => {
        if (!live) return;
        setShown({ key, url: URL.createObjectURL(image.blob), image });
        if (use !== 'screen') return;
        const { widthMm, heightMm, sizeName, photoDpi, filter } = image;
        const made = { widthMm, heightMm, sizeName, dpi: Math.round(photoDpi), filter };
        if (JSON.stringify(made) !== JSON.stringify(page.made)) dispatch(pageLearned({ id: page.id, facts: { made } }));
      },
      (error: Error) => live && !wasCancelled(error) && setProblem({ key, words: error.message }),
    );
    return () => {
      live = false;
      overtaken.abort();
    };
    // The key names all of the page that decides its pixels.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => () => void (shown && setTimeout(() => URL.revokeObjectURL(shown.url), 1000)), [shown]);
  return {
    url: shown?.url ?? null,
    current: shown !== null && shown.key === key,
    image: shown?.image ?? null,
    problem: problem && problem.key === key ? problem.words : null,
  };
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
