import { deliveryAnswerSchema, type Delivery, type DeliveryAnswer, type DeliveryRequest, type Place } from '@libretto/model';
import { dropOutgoing, getOutgoing, putOutgoing } from '../storage/files';
import { writeRecord } from '../storage/records';
import { newId } from './ids';
import { deliveryLearned, put, settingsChanged, settingsId } from './library';
import type { AppDispatch, RootState } from './store';
import { sending } from './work';

/** Waits before trying again by itself, ms; the last one repeats. */
const pauses = [3_000, 10_000, 30_000, 120_000, 300_000];

const timers = new Map<string, ReturnType<typeof setTimeout>>();
const underWay = new Map<string, XMLHttpRequest | null>();

export interface Outgoing {
  documentId: string;
  fileName: string;
  file: Blob;
  sha256: string;
  message: string;
  places: readonly Place[];
}

/** Puts a file into the outbox for each place, durably, and starts. */
export function send({ documentId, fileName, file, sha256, message, places }: Outgoing) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    for (const place of places) {
      const delivery: Delivery = {
        v: 1, id: newId(), documentId, place, fileName, bytes: file.size, sha256, message,
        state: 'waiting', attempts: 0, createdAt: new Date().toISOString(), proof: null,
      }; // prettier-ignore
      await putOutgoing(delivery.id, file);
      await writeRecord('delivery', delivery.id, delivery);
      dispatch(put([{ kind: 'delivery', record: delivery }]));
    }
    const before = getState().library.settings[settingsId]!.lastPlaces;
    const ids = places.map((p) => p.id);
    dispatch(settingsChanged({ lastPlaces: [...ids, ...before.filter((id) => !ids.includes(id))] }));
    void dispatch(sendWaiting());
  };
}

/** After a reload: what was being sent waits again, and goes. The server delivers it once, however far it had come. */
export function resumeDeliveries() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    for (const delivery of Object.values(getState().library.delivery))
      if (delivery.state === 'sending') dispatch(deliveryLearned({ id: delivery.id, facts: { state: 'waiting' } }));
    void dispatch(sendWaiting());
  };
}

/** Sends what waits, one after another; with several tabs open only one of them does. */
export function sendWaiting() {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const run = async () => {
      for (;;) {
        const next = Object.values(getState().library.delivery)
          .filter((d) => d.state === 'waiting' && !timers.has(d.id) && !underWay.has(d.id))
          .sort((a, b) => a.createdAt.localeCompare(b.createdAt))[0];
        if (!next) return;
        await dispatch(carry(next));
      }
    };
    if (typeof navigator !== 'undefined' && navigator.locks)
      await navigator.locks.request('libretto-outbox', { ifAvailable: true }, async (lock) => lock && run());
    else await run();
  };
}

export function tryAgain(id: string) {
  return async (dispatch: AppDispatch): Promise<void> => {
    clearTimeout(timers.get(id));
    timers.delete(id);
    dispatch(deliveryLearned({ id, facts: { state: 'waiting', reason: undefined } }));
    await dispatch(sendWaiting());
  };
}

/** Takes a delivery out of the outbox that has not arrived. */
export function giveUp(id: string) {
  return async (dispatch: AppDispatch): Promise<void> => {
    clearTimeout(timers.get(id));
    timers.delete(id);
    underWay.get(id)?.abort();
    dispatch(deliveryLearned({ id, facts: { state: 'failed', reason: 'Taken back by you' } }));
    await dropOutgoing(id);
  };
}

function carry(delivery: Delivery) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const { id } = delivery;
    const attempts = delivery.attempts + 1;
    underWay.set(id, null);
    try {
      const file = await getOutgoing(id);
      if (!file) {
        dispatch(
          deliveryLearned({
            id,
            facts: { state: 'failed', reason: 'The file is no longer in this browser’s storage; send the document again' },
          }),
        );
        return;
      }
      dispatch(deliveryLearned({ id, facts: { state: 'sending', attempts } }));
      const answer = await upload(delivery, file, (share) => dispatch(sending({ id, share })));
      if (getState().library.delivery[id]?.state !== 'sending') return;
      if (answer.state === 'arrived') {
        dispatch(deliveryLearned({ id, facts: { state: 'arrived', proof: answer.proof, reason: undefined } }));
        await dropOutgoing(id);
      } else if (answer.again) {
        const pause = pauses[Math.min(attempts, pauses.length) - 1]!;
        dispatch(deliveryLearned({ id, facts: { state: 'waiting', reason: answer.reason } }));
        timers.set(
          id,
          setTimeout(() => {
            timers.delete(id);
            void dispatch(sendWaiting());
          }, pause),
        );
      } else dispatch(deliveryLearned({ id, facts: { state: 'failed', reason: answer.reason } }));
    } finally {
      underWay.delete(id);
    }
  };
}

/** One upload. Faults of the network are an answer too, so that the outbox has one way to go on. */
function upload(delivery: Delivery, file: Blob, progress: (share: number) => void): Promise<DeliveryAnswer> {
  const unreachable = (reason: string): DeliveryAnswer => ({ state: 'failed', code: 'unreachable', reason, again: true });
  return new Promise((resolve) => {
    const request: DeliveryRequest = {
      placeId: delivery.place.id,
      fileName: delivery.fileName,
      bytes: delivery.bytes,
      sha256: delivery.sha256,
      subject: delivery.fileName.replace(/\.[a-z]+$/, '').slice(0, 200),
      message: delivery.message,
    };
    const xhr = new XMLHttpRequest();
    underWay.set(delivery.id, xhr);
    xhr.open('PUT', `/api/deliveries/${delivery.id}`);
    xhr.setRequestHeader('content-type', 'application/pdf');
    xhr.setRequestHeader('x-delivery', encodeURIComponent(JSON.stringify(request)));
    xhr.upload.onprogress = (event) => progress(event.loaded / Math.max(1, event.total));
    xhr.onload = () => {
      try {
        resolve(deliveryAnswerSchema.parse(JSON.parse(xhr.responseText)));
      } catch {
        resolve(unreachable(`The server gave an answer that makes no sense (${xhr.status})`));
      }
    };
    xhr.onerror = () => resolve(unreachable(navigator.onLine ? 'The server does not answer' : 'No network'));
    xhr.onabort = () => resolve(unreachable('Stopped'));
    xhr.send(file);
  });
}

/** The network is back, or the server may be: nothing needs to wait for its pause. */
export function hurry() {
  return async (dispatch: AppDispatch): Promise<void> => {
    for (const timer of timers.values()) clearTimeout(timer);
    timers.clear();
    await dispatch(sendWaiting());
  };
}
