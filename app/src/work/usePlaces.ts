import { useEffect, useState } from 'react';
import type { Page } from '@libretto/model';
import { getPhoto, photoGrid } from '../store/files';
import { gridMap, type GridMap } from './gridMap';
import { imageKey, workRecipe } from './pageImages';
import { priority } from './pool';
import { pagePool } from './pools';

export interface Places {
  map: GridMap;
  widthMm: number;
  heightMm: number;
}

/** Where the places of a page lie in its photo, once the worker has told. */
export function usePlaces(page: Page | null): Places | null {
  const [held, setHeld] = useState<{ key: string; places: Places } | null>(null);
  // Marks do not move the page.
  const bare = page && { ...page, recipe: { ...page.recipe!, filter: 'original' as const, marks: undefined as never } };
  const key = bare ? imageKey(bare, 'draft') : '';
  useEffect(() => {
    if (!page) return;
    let live = true;
    void (async () => {
      const blob = await getPhoto(page.photoId);
      if (!blob) return;
      const { photo, widthMm, heightMm } = await pagePool.run((api) => api.places(page.photoId, blob, workRecipe(page), page.alone, photoGrid), priority.onScreen + 1); // prettier-ignore
      if (live) setHeld({ key, places: { map: gridMap(photo, photoGrid), widthMm, heightMm } });
    })().catch(() => {});
    return () => {
      live = false;
    };
    // The key names all of the page that decides where it lies.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return held?.key === key ? held.places : null;
}
