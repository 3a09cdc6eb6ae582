import { meantBy } from '@libretto/model/slip';
import { followSlip } from '../store/arranging';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import type { AppDispatch, RootState } from '../store/store';
import type { SeenSlip } from './read.worker';

/** Follows a cover slip that has just been read: once, so that undoing it is the last word. One that was not printed here may be anybody's, so where it sends to is asked first. */
export function takeSlip(pageId: string, { slip, ticks }: SeenSlip) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { library } = getState();
    const page = library.page[pageId];
    const document = page && library.document[page.documentId];
    if (!document?.pageIds.includes(pageId)) return;
    const known = library.settings[settingsId]?.slips?.includes(slip.id) ?? false;
    const meant = meantBy(slip, ticks);
    const asked = known ? meant.asks : { ...meant.sendsTo, ...meant.asks };
    await dispatch(
      followSlip(document, page, {
        name: slip.name,
        sendsTo: known ? meant.sendsTo : {},
        ...(Object.keys(asked).length && { asks: { id: slip.id, why: known ? 'tick' : 'strange', sendsTo: asked } }),
      }),
    );
  };
}

/** As many slips are remembered. */
const mostSlips = 500;

/** A slip is one of ours from now on: what it says is followed without asking. */
export function keepSlip(id: string) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const settings = getState().library.settings[settingsId]!;
    const slips = [id, ...(settings.slips ?? []).filter((s) => s !== id)].slice(0, mostSlips);
    await dispatch(changeSettings(settings, { slips }));
  };
}
