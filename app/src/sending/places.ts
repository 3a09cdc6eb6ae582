import { placesAnswerSchema } from '@libretto/model';
import { placesLearned } from '../store/library';
import { named, readTexts, writeTexts } from '../store/texts';
import { noticed } from '../store/session';
import type { AppDispatch } from '../store/store';

/** Asks the server which places there are; without it, those of its last answer are shown, so that a document can be sent on its way with nobody there. */
export function learnPlaces() {
  return async (dispatch: AppDispatch): Promise<void> => {
    try {
      const answer = await fetch('/api/places', { signal: AbortSignal.timeout(10_000) });
      if (answer.status === 401) dispatch(noticed({ code: 'notice.signedOut' }));
      if (!answer.ok) throw new Error(String(answer.status));
      const told = placesAnswerSchema.parse(await answer.json());
      dispatch(placesLearned(told.places));
      await writeTexts({ [named.places]: JSON.stringify(told) }).catch(() => {});
    } catch {
      // The outbox says so when something waits.
      const text = (await readTexts([named.places]).catch(() => ({}) as Record<string, string | null>))[named.places];
      const known = text ? placesAnswerSchema.safeParse(safely(text)) : null;
      if (known?.success) dispatch(placesLearned(known.data.places));
    }
  };
}

function safely(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}
