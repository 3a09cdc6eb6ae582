import { meantBy, writeSlip, type Slip } from '@libretto/model/slip';
import { followSlip } from '../store/arranging';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { parsed } from '../store/records';
import type { AppDispatch, RootState } from '../store/store';
import { locked } from '../store/tabs';
import { named, readTexts, writeTexts } from '../store/texts';
import { jobOf } from './jobs';
import type { SeenSlip } from './read.worker';

/** What a slip is known by: all that it says, so that nobody can print another one under its id. */
export async function slipKey(slip: Slip): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(writeSlip(slip)));
  return Array.from(new Uint8Array(digest).subarray(0, 20), (b) => b.toString(16).padStart(2, '0')).join('');
}

/**
 * Follows a cover slip that has been read: once, so that undoing it is the last word. One that was not printed here may be anybody's, so where it sends to is asked first.
 *
 * @returns false while pages may still come in behind it: they would stand in the wrong document.
 */
export function takeSlip(pageId: string, { slip, ticks }: SeenSlip) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<boolean> => {
    const page = getState().library.page[pageId];
    if (page && jobOf(getState(), 'import', page.documentId)) return false;
    const key = await slipKey(slip);
    const { library } = getState();
    const document = page && library.document[page.documentId];
    if (!document?.pageIds.includes(pageId)) return true;
    // Behind other pages and with none behind it, it is not theirs: it stays a page until there are some.
    if (document.pageIds.length > 1 && document.pageIds.at(-1) === pageId) return false;
    const known = library.settings[settingsId]?.slips?.includes(key) ?? false;
    const meant = meantBy(slip, ticks);
    const asked = known ? meant.asks : { ...meant.sendsTo, ...meant.asks };
    await dispatch(
      followSlip(document, page, {
        name: slip.name,
        sendsTo: known ? meant.sendsTo : {},
        ...(Object.keys(asked).length && { asks: { id: key, why: known ? 'tick' : 'strange', sendsTo: asked } }),
      }),
    );
    return true;
  };
}

/** A slip that may not be followed yet, with its page. */
export interface WaitingSlip extends SeenSlip {
  pageId: string;
  documentId: string;
}

/** Follows the slips that wait and `more`, as far as they can be; the others are kept for later, since their pages are not read again. */
export function followSlips(...more: WaitingSlip[]) {
  return (dispatch: AppDispatch, getState: () => RootState): Promise<void> =>
    locked('libretto-slips', async () => {
      const kept = parsed<WaitingSlip[]>((await readTexts([named.slips]))[named.slips], []);
      const waiting: WaitingSlip[] = [];
      for (const slip of [...kept.filter(({ pageId }) => !more.some((m) => m.pageId === pageId)), ...more]) {
        const { loaded, summary } = getState().library;
        const { pageId, documentId } = slip;
        // Of a document that is not open it is not known what stands behind the slip.
        const later =
          loaded[documentId] === 'here' ? !(await dispatch(takeSlip(pageId, slip))) : summary[documentId]?.deletedAt === null;
        if (later) waiting.push(slip);
      }
      if (waiting.length || kept.length) await writeTexts({ [named.slips]: JSON.stringify(waiting) });
    });
}

/** As many slips are remembered. */
const mostSlips = 500;

/** A slip is one of ours from now on: what it says is followed without asking. */
export function keepSlip(key: string) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const settings = getState().library.settings[settingsId]!;
    const slips = [key, ...(settings.slips ?? []).filter((s) => s !== key)].slice(0, mostSlips);
    await dispatch(changeSettings(settings, { slips }));
  };
}
