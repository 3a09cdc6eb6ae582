import type { Page, Photo } from '@libretto/model';
import { store } from '../store/store';

/** How far corners of pages that were shot from one position lie apart at most, share of the photo's longer side. */
const alikeShare = 0.12;

/** The other pages of a document whose photo is as large and whose page lay at about the same place: the camera stood still. */
export function shotAlike(page: Page, photo: Photo, pages: readonly Page[]): Page[] {
  const { photo: photos } = store.getState().library;
  const found = page.found?.source === 'found' ? page.found : page.recipe!.outline;
  return pages.filter((other) => {
    const its = photos[other.photoId];
    if (other.id === page.id || other.photoId === page.photoId || !other.recipe || !its) return false;
    if (its.width !== photo.width || its.height !== photo.height || !photo.width || !photo.height) return false;
    const near = alikeShare * Math.max(photo.width, photo.height);
    const from = other.recipe.outline;
    return (
      from.source === 'whole' || from.quad.every((p, i) => Math.hypot(p[0] - found.quad[i]![0], p[1] - found.quad[i]![1]) < near)
    );
  });
}
