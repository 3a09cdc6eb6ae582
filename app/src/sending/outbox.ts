import {
  deliveryAnswerSchema,
  type Delivery,
  type DeliveryAnswer,
  type Place,
  type Problem,
  type SendDetails,
} from '@libretto/model';
import { change } from '../store/change';
import { changeSettings, learnDelivery } from '../store/editing';
import { dropOutgoing, putOutgoing } from '../store/files';
import { newId } from '../store/ids';
import { settingsId } from '../store/library';
import type { Op } from '../store/step';
import type { AppDispatch, Extra, RootState } from '../store/store';
import { untilSaved } from '../store/unsaved';
import { addressOf } from './request';

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState, extra: Extra) => T;

/** How many addresses are offered again. */
const mostAddressesKept = 200;
export interface Outgoing {
  documentId: string;
  files: readonly { fileName: string; blob: Blob; sha256: string }[];
  message: string;
  /** Of a mail; without it, the file's name. */
  subject?: string;
  /** What was typed for a place: addresses, a folder. */
  typed?: Readonly<Record<string, SendDetails>>;
  places: readonly Place[];
  /** The folder that sends it by itself. */
  byFolder?: string;
  /** Its cover slip does. */
  bySlip?: boolean;
}

/** Puts files into the outbox for each place, durably and all in one step; whichever tab carries deliveries takes them from there. */
export function queue(
  { documentId, files, message, subject, typed, places, byFolder, bySlip }: Outgoing,
  idOf: (place: Place, file: number) => string | Promise<string> = newId,
): Thunk<Promise<void>> {
  return async (dispatch) => {
    const kept: string[] = [];
    const ops: Op[] = [];
    try {
      for (const place of places)
        for (const [i, { fileName, blob, sha256 }] of files.entries()) {
          const delivery: Delivery = {
            v: 2, id: await idOf(place, i), documentId, place, fileName, bytes: blob.size, sha256, message,
            ...(subject && place.kind === 'mail' && { subject }), ...typed?.[place.id], ...(byFolder && { byFolder }), ...(bySlip && { bySlip }),
            state: 'waiting', attempts: 0, createdAt: new Date().toISOString(), proof: null,
          }; // prettier-ignore
          await untilSaved(putOutgoing(delivery.id, blob));
          kept.push(delivery.id);
          ops.push({ op: 'create', kind: 'delivery', record: delivery });
        }
      if (!(await dispatch(change({ documentIds: [documentId], ops })))) throw new Error('not stored');
    } catch (error) {
      await dropOutgoing(kept);
      throw error;
    }
  };
}

/** Sends files to places that somebody has chosen, which are offered first from then on. */
export function send(outgoing: Outgoing): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    const { places, typed } = outgoing;
    await dispatch(queue(outgoing));
    const settings = getState().library.settings[settingsId]!;
    const ids = places.map((p) => p.id);
    const lastPlaces = [...ids, ...settings.lastPlaces.filter((id) => !ids.includes(id))];
    const details = Object.entries(typed ?? {});
    const fresh = details.flatMap(([, { to = [], cc = [] }]) => [...to, ...cc]);
    const addresses = [...new Set([...fresh, ...(settings.addresses ?? [])])].slice(0, mostAddressesKept);
    const chosen = Object.fromEntries(details.flatMap(([id, { folder }]) => (folder === undefined ? [] : [[id, folder]])));
    await dispatch(
      changeSettings(settings, {
        lastPlaces,
        ...(fresh.length && { addresses }),
        ...(Object.keys(chosen).length && { folders: { ...settings.folders, ...chosen } }),
      }),
    );
  };
}

/** Waiting again, at once. Of one in doubt somebody says by this that it has not arrived. */
export function tryAgain(delivery: Delivery): Thunk<Promise<unknown>> {
  const again = delivery.state === 'doubt' ? { again: true } : {};
  return (dispatch) => dispatch(learnDelivery(delivery, { state: 'waiting', reason: undefined, nextAt: undefined, ...again }));
}

/** Not before somebody says so; an upload under way ends, and begins anew then. What the server has is its own to carry. */
export function pauseSending(delivery: Delivery): Thunk<Promise<unknown>> {
  return (dispatch) => dispatch(learnDelivery(delivery, { state: 'paused', reason: { code: 'paused' }, nextAt: undefined }));
}

/** Somebody has looked, and what was in doubt has arrived. */
export function saidToHaveArrived(delivery: Delivery): Thunk<Promise<unknown>> {
  const { place, bytes, sha256 } = delivery;
  const proof = { where: place.name, at: new Date().toISOString(), bytes, sha256, how: 'said' as const, receipt: '' };
  return async (dispatch) => {
    if (await dispatch(learnDelivery(delivery, { state: 'arrived', proof, reason: undefined })))
      await dropOutgoing([delivery.id]).catch(() => {});
  };
}

/**
 * Takes a delivery out of the outbox that has not arrived. Whoever is uploading it hears of it and stops; what the server carries is asked back from it.
 *
 * @returns false where it is too late, or the server cannot be asked.
 */
export function cancelSending(delivery: Delivery): Thunk<Promise<boolean>> {
  return async (dispatch) => {
    // An upload that has just ended may be the server's already.
    if (delivery.state !== 'waiting' || delivery.attempts) {
      const answer = await asked(delivery.id, 'DELETE').catch(() => null);
      if (answer === null && delivery.state === 'carrying') return false;
      if (answer?.state === 'arrived' || answer?.state === 'doubt' || answer?.state === 'carrying') {
        await dispatch(learnDelivery(delivery, factsOf(answer, delivery)));
        return false;
      }
    }
    await dispatch(learnDelivery(delivery, { state: 'failed', reason: { code: 'cancelled' }, nextAt: undefined }));
    return true;
  };
}

export async function asked(id: string, method: 'GET' | 'DELETE'): Promise<DeliveryAnswer> {
  const answer = await fetch(addressOf(id), { method, signal: AbortSignal.timeout(35_000) });
  return deliveryAnswerSchema.parse(await answer.json());
}

/** What an answer of the server makes of a delivery. */
export function factsOf(answer: DeliveryAnswer, delivery: Delivery): Partial<Delivery> {
  const heard = 'heard' in answer && answer.heard ? { heard: answer.heard } : {};
  switch (answer.state) {
    case 'arrived':
      return { state: 'arrived', proof: answer.proof, reason: undefined, nextAt: undefined };
    case 'carrying': {
      const reason: Problem | undefined = answer.code ? { code: `server-${answer.code}`, said: answer.reason ?? '' } : undefined;
      return { state: 'carrying', reason, nextAt: answer.nextAt, again: undefined, ...heard };
    }
    case 'doubt':
      return { state: 'doubt', reason: { code: 'server-doubt', said: answer.reason }, nextAt: undefined, ...heard };
    case 'failed': {
      const reason = answer.code === 'cancelled' ? { code: 'cancelled' } : { code: `server-${answer.code}`, said: answer.reason };
      if (answer.code === 'unknown' && delivery.state === 'carrying')
        // The server that took it over has lost it. A folder is looked into before anything is put there; a mail may have gone out.
        return delivery.place.kind !== 'mail'
          ? { state: 'waiting', reason: undefined, nextAt: undefined }
          : { state: 'doubt', reason };
      return { state: answer.again ? 'waiting' : 'failed', reason, nextAt: undefined, ...heard };
    }
  }
}
