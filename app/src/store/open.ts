import { emptyShelf, firstSettings, readRecord, type Document, type Settings, type Summary } from '@libretto/model';
import { commit } from './commit';
import { allFilings, filed, isFull } from './files';
import { forgetStep, unfinishedSteps } from './journal';
import { held, opened, purged, reading, settingsId, stored, type Library } from './library';
import { layoutOf, rebuild } from './mend';
import { purge, type Gone } from './purge';
import { layout, parsed, readKeys, recordKeys, setAside, steps, type Drawer, type Kept, type Posted, type Read } from './records';
import { drawers, named, readTexts, keyOf } from './texts';
import { noticed, started } from './session';
import type { AppDispatch, Extra, RootState } from './store';
import { liveTabs, openTab } from './tabs';

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState, extra: Extra) => T;

/** What photographs without a document are called. */
let nameOfLost = 'Recovered photographs';
export const nameLostBy = (name: string) => void (nameOfLost = name);

const settingsKey = keyOf('settings', settingsId);
const shelfKey = keyOf('shelf', emptyShelf.id);

/**
 * Reads what the shelf needs (summaries, settings, open deliveries, steps), and finishes what a stop in the middle has left. Whatever fails on the
 * way ends in a screen that says so; what was read is never thrown away for what was not.
 */
export function openLibrary(): Thunk<Promise<boolean>> {
  return async (dispatch, _getState, extra) => {
    dispatch(started('opening'));
    try {
      await openTab(extra.tab);
      await finishJournal(extra.tab);
      const laidOut = layoutOf((await readTexts([named.layout]))[named.layout]) === layout;
      const rebuilt = laidOut ? null : await rebuild(nameOfLost);
      const { aside = [], ...shelf } = await readShelf(rebuilt?.fromNothing ? {} : await readTexts(shelfKeys));
      // Before anything is written over what cannot be read.
      await setAside(aside);
      dispatch(opened({ ...shelf, aside: [...(rebuilt?.aside ?? []), ...aside] }));
      dispatch(started('ready'));
    } catch (error) {
      const code = isFull(error) ? 'full' : /denied|insecure|not allowed|disabled/i.test(String(error)) ? 'blocked' : 'fault';
      dispatch(started({ failed: code, said: (error as Error).message ?? String(error) }));
      return false;
    }
    await dispatch(filePhotos()).catch(() => {});
    return true;
  };
}

/** What a tab that is gone was about to store. On a full disk it waits for a better day. */
async function finishJournal(tab: string): Promise<void> {
  for (const step of await unfinishedSteps(tab)) {
    try {
      await commit(step, { replay: true });
      forgetStep(step);
    } catch (error) {
      if (isFull(error)) return;
      // What can never be taken must not be tried for ever.
      forgetStep(step);
    }
  }
}

const shelfKeys = [
  ...Array.from({ length: drawers }, (_, n) => named.drawer(n)),
  ...Array.from({ length: steps }, (_, n) => named.step(n)),
  named.outbox,
  settingsKey,
  shelfKey,
];

async function readShelf(texts: Record<string, string | null>): Promise<Partial<Library>> {
  const summary: Record<string, Summary> = {};
  for (let n = 0; n < drawers; n++) Object.assign(summary, parsed<Drawer>(texts[named.drawer(n)], {}));
  const taken = Array.from({ length: steps }, (_, n) => parsed<Kept | null>(texts[named.step(n)], null))
    .flatMap((step) => step ?? [])
    .sort((a, b) => a.at.localeCompare(b.at));
  const outbox = parsed<Posted[]>(texts[named.outbox], []);
  const open = await readKeys(recordKeys('delivery', outbox.filter((p) => p.open).map((p) => p.id))); // prettier-ignore
  // What failed wants attention from the start.
  const failed = Object.values(summary).flatMap((s) =>
    s.fate.code === 'failed' && !s.deletedAt ? s.deliveries.slice(0, 3) : [],
  );
  const more = await readKeys(recordKeys('delivery', failed));
  const delivery = Object.fromEntries(
    [...open.records, ...more.records].map(([, record]) => [(record as { id: string }).id, record]),
  );
  const found = texts[settingsKey] ? readRecord('settings', texts[settingsKey]) : null;
  const settings: Settings = found && 'record' in found ? { ...firstSettings, ...found.record } : firstSettings;
  const shelf = texts[shelfKey] ? readRecord('shelf', texts[shelfKey]) : null;
  const own = [[settingsKey, found], [shelfKey, shelf]] as const; // prettier-ignore
  const newer = own.flatMap(([key, read]) => (read && 'newer' in read ? key : []));
  const aside = own.flatMap(([key, read]) => (read && 'problem' in read ? { key, problem: read.problem } : []));
  return {
    summary,
    steps: taken,
    aside,
    outbox,
    delivery: delivery as Library['delivery'],
    settings: { [settingsId]: settings },
    ...(shelf && 'record' in shelf && { shelf: { [emptyShelf.id]: shelf.record } }),
    ...(newer.length && { newer: Object.fromEntries(newer.map((key) => [key, true as const])) }),
  };
}

/** Photos that were stored when the app was closed come into their documents, where they were to stand. */
function filePhotos(): Thunk<Promise<void>> {
  return async (dispatch, _getState, extra) => {
    const live = await liveTabs();
    for (const step of await allFilings()) {
      if (step.tab === extra.tab || live?.has(step.tab)) continue;
      const outcome = await commit(step, { replay: true });
      dispatch(stored(outcome));
      extra.tellStored(outcome);
      const create = step.ops.find((op) => op.op === 'create' && op.kind === 'photo');
      if (create?.op === 'create') await filed((create.record as { id: string }).id);
    }
  };
}

/** What is left over goes in a quiet moment: what was in the bin for its time, and files that nothing refers to. */
export function tidyUp(now = Date.now()): Thunk<Promise<void>> {
  return letGo(() => purge(now));
}

/** Documents in the bin go for good before their time. */
export function emptyBin(documents: readonly string[]): Thunk<Promise<void>> {
  return letGo(() => purge(Date.now(), documents));
}

function letGo(work: () => Promise<Gone>): Thunk<Promise<void>> {
  return async (dispatch, _getState, extra) => {
    const gone = await work();
    if (!gone.keys.length) return;
    dispatch(purged(gone));
    extra.say({ kind: 'purged', ...gone });
  };
}

const under = new Map<string, Promise<void>>();

/** Reads a document's pages, photos and deliveries, unless they are held. */
export function openDocument(id: string): Thunk<Promise<void>> {
  return (dispatch, getState) => {
    const { loaded } = getState().library;
    if (loaded[id] && loaded[id] !== 'reading') return Promise.resolve();
    const running = under.get(id) ?? dispatch(readDocument(id)).finally(() => under.delete(id));
    under.set(id, running);
    return running;
  };
}

function readDocument(id: string): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    dispatch(reading(id));
    try {
      const first = await readKeys([keyOf('document', id)]);
      const document = first.records.get(keyOf('document', id)) as Document | undefined;
      const reads: Read[] = [first];
      if (document) {
        const { steps: taken, summary } = getState().library;
        // Pages that a step could bring back belong to it too.
        const once = taken
          .flatMap((s) => (s.documentIds.includes(id) ? s.ops : []))
          .flatMap((op) => (op.op === 'take' && op.id === id ? op.pages : []));
        const pages = await readKeys(recordKeys('page', [...new Set([...document.pageIds, ...once])]));
        const photoIds = [...new Set([...pages.records.values()].map((p) => (p as { photoId: string }).photoId))];
        reads.push(pages, await readKeys(recordKeys('photo', photoIds)));
        reads.push(await readKeys(recordKeys('delivery', summary[id]?.deliveries ?? [])));
      }
      const aside = reads.flatMap((r) => r.aside);
      const newer = reads.flatMap((r) => [...r.newer]);
      const loaded = document ? 'here' : newer.length ? 'newer' : 'none';
      dispatch(held({ id, loaded, records: reads.flatMap((r) => [...r.records]), newer, aside }));
      // What cannot be read is put aside, and its photographs come back.
      if (aside.length) {
        await setAside(aside);
        await rebuild(nameOfLost);
        const { aside: _known, ...shelf } = await readShelf(await readTexts(shelfKeys));
        dispatch(opened(shelf));
      }
    } catch (error) {
      dispatch(held({ id, loaded: 'none', records: [], newer: [], aside: [] }));
      dispatch(noticed({ code: 'notice.notRead', values: { said: (error as Error).message } }));
    }
  };
}

/** Reads deliveries that are listed and not held. */
export function openDeliveries(ids: readonly string[]): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { delivery } = getState().library;
    const missing = ids.filter((id) => !delivery[id]);
    if (!missing.length) return;
    const { records, newer, aside } = await readKeys(recordKeys('delivery', missing));
    dispatch(held({ id: '', loaded: 'here', records: [...records], newer: [...newer], aside }));
  };
}
