import type { Page, Touch } from '@libretto/model';
import { paintPage } from '../store/editing';
import { getPhoto } from '../store/files';
import { noticed } from '../store/session';
import type { AppDispatch, RootState } from '../store/store';
import type { Stroke } from './page.worker';
import { workRecipe } from './pageImages';
import { priority } from './pool';
import { pagePool } from './pools';

/** Strokes are kept one after the other, in the order in which they were painted. */
let painted: Promise<unknown> = Promise.resolve();

/** A stroke over the page as it is shown goes onto its photo, where it stays when corners move. */
export function paint(page: Page, { kind, ...stroke }: Stroke & Pick<Touch, 'kind'>) {
  return (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const place = async () => {
      const blob = await getPhoto(page.photoId);
      if (!blob) return void dispatch(noticed({ code: 'problem.photo-gone' }));
      const { points, radius } = await pagePool.run(
        (api) => api.onPhoto(page.photoId, blob, workRecipe(page), page.alone, stroke),
        priority.onScreen,
      );
      // As the page is by now: another stroke may have come before.
      const now = getState().library.page[page.id] ?? page;
      await dispatch(paintPage(now, { kind, points: points.map(([x, y]) => [x, y]), radius }));
    };
    const placed = painted.then(place);
    painted = placed.catch(() => {});
    return placed;
  };
}
