import { useEffect, useState } from 'react';
import { filterIds, type FilterId, type Page, type Problem } from '@libretto/model';
import { workRecipe } from '../work/pageImages';
import { getPhoto } from '../store/files';
import { priority, wasCancelled } from '../work/pool';
import { pagePool } from '../work/pools';
import { problemOf, WorkProblem } from '../work/problem';

export interface Details {
  /** Address of the detail under each filter. */
  urls: Partial<Record<FilterId, string>>;
  /** What Auto would take. */
  auto: FilterId | null;
  /** Why, in a few words. */
  why: string | null;
  /** Centre of the detail, shares of the page; null until the most telling spot is chosen. */
  at: readonly [number, number] | null;
  problem: Problem | null;
}

/** One detail of a page at full size under every filter, to be compared. Without `wanted` it is where the finest print is. */
export function useDetails(page: Page, wanted: readonly [number, number] | null, size: readonly [number, number]): Details {
  const [details, setDetails] = useState<Details & { key: string }>({
    key: '',
    urls: {},
    auto: null,
    why: null,
    at: null,
    problem: null,
  });
  const recipe = page.recipe ? workRecipe(page) : null;
  const key = JSON.stringify([
    page.photoId,
    recipe?.quad,
    recipe?.polygon,
    recipe?.turn,
    recipe?.size,
    recipe?.adjust,
    wanted,
    size,
  ]);
  useEffect(() => {
    if (!recipe) return;
    const controller = new AbortController();
    void (async () => {
      try {
        const photo = await getPhoto(page.photoId);
        if (!photo) throw new WorkProblem('photo-gone');
        const made = await pagePool.run(
          (api) => api.detail(page.photoId, photo, recipe, page.alone, wanted, size, filterIds),
          priority.onScreen,
          controller.signal,
        );
        if (!controller.signal.aborted)
          setDetails({
            key,
            urls: Object.fromEntries(made.details.map((d) => [d.filter, URL.createObjectURL(d.blob)])),
            auto: made.chosen,
            why: made.why,
            at: made.at,
            problem: null,
          });
      } catch (error) {
        if (!wasCancelled(error)) setDetails({ key, urls: {}, auto: null, why: null, at: null, problem: problemOf(error) });
      }
    })();
    return () => controller.abort();
    // The key names all that decides the details.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  useEffect(() => () => Object.values(details.urls).forEach((url) => URL.revokeObjectURL(url)), [details.urls]);
  return details;
}
