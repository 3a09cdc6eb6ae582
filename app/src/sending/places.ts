import { placesAnswerSchema } from '@libretto/model';
import { placesLearned } from '../store/library';
import { noticed } from '../store/session';
import type { AppDispatch } from '../store/store';

/** Asks the server which places there are; without it, those known from before stay. */
export function learnPlaces() {
  return async (dispatch: AppDispatch): Promise<void> => {
    try {
      const answer = await fetch('/api/places', { signal: AbortSignal.timeout(10_000) });
      if (answer.status === 401) dispatch(noticed({ code: 'notice.signedOut' }));
      if (answer.ok) dispatch(placesLearned(placesAnswerSchema.parse(await answer.json()).places));
    } catch {
      // The outbox says so when something waits; there is nothing to do here.
    }
  };
}
