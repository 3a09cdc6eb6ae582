import { mostSenders, type KnownSender } from '@libretto/model';
import { partAfter } from '@libretto/text/sender';
import { changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import type { AppDispatch, RootState } from '../store/store';

/** A sender as it was taken off the page into a name. */
export interface TakenSender {
  text: string;
  sign?: string;
  /** The name with it, before anybody typed in it. */
  name: string;
}

/** What somebody has made of a sender in a name is how it is called from now on, wherever its line is read. */
export function learnSender({ text, sign = text, name }: TakenSender, kept: string) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const at = name.indexOf(text);
    const called = at < 0 ? null : partAfter(name, at, at + text.length, kept)?.trim();
    if (!called || called.length > 80) return;
    const settings = getState().library.settings[settingsId]!;
    const { senders = [] } = settings;
    const known = senders[0];
    if (known?.sign === sign && known.name === called) return;
    const next: KnownSender[] = [{ sign, name: called }, ...senders.filter((s) => s.sign !== sign)];
    await dispatch(changeSettings(settings, { senders: next.slice(0, mostSenders) }));
  };
}
