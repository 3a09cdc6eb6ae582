import { deliveryAnswerSchema, type Delivery, type DeliveryRequest, type Place, type Problem, type Proof } from '@libretto/model';
import { change } from '../store/change';
import { changeSettings, learnDelivery } from '../store/editing';
import { dropOutgoing, getOutgoing, putOutgoing } from '../store/files';
import { newId } from '../store/ids';
import { settingsId } from '../store/library';
import { named, parsed, readKeys, readTexts, recordKeys, type Posted } from '../store/records';
import { sending } from '../store/session';
import { keyOf } from '../store/step';
import type { AppDispatch, Extra, RootState } from '../store/store';
import { shared } from '../store/tabs';
import { untilSaved } from '../store/unsaved';

type Thunk<T> = (dispatch: AppDispatch, getState: () => RootState, extra: Extra) => T;

/** Waits before trying again by itself, ms; the last one repeats. */
const pauses = [3_000, 10_000, 30_000, 120_000, 300_000];
/** How often other tabs are told how far an upload has come, ms. */
const tellMs = 250;

export interface Outgoing {
  documentId: string;
  fileName: string;
  file: Blob;
  sha256: string;
  message: string;
  places: readonly Place[];
}

/** Puts a file into the outbox for each place, durably; whichever tab carries deliveries takes it from there. */
export function send({ documentId, fileName, file, sha256, message, places }: Outgoing): Thunk<Promise<void>> {
  return async (dispatch, getState) => {
    for (const place of places) {
      const delivery: Delivery = {
        v: 2, id: newId(), documentId, place, fileName, bytes: file.size, sha256, message,
        state: 'waiting', attempts: 0, createdAt: new Date().toISOString(), proof: null,
      }; // prettier-ignore
      await untilSaved(putOutgoing(delivery.id, file));
      const outcome = await dispatch(
        change({ documentIds: [documentId], ops: [{ op: 'create', kind: 'delivery', record: delivery }] }),
      );
      if (!outcome) {
        await dropOutgoing([delivery.id]);
        throw new Error('not stored');
      }
    }
    const settings = getState().library.settings[settingsId]!;
    const ids = places.map((p) => p.id);
    const lastPlaces = [...ids, ...settings.lastPlaces.filter((id) => !ids.includes(id))];
    await dispatch(changeSettings(settings, { lastPlaces }));
  };
}

/** Waiting again, at once. */
export function tryAgain(delivery: Delivery): Thunk<Promise<unknown>> {
  return (dispatch) => dispatch(learnDelivery(delivery, { state: 'waiting', reason: undefined }));
}

/** Takes a delivery out of the outbox that has not arrived. Whoever is carrying it hears of it and stops. */
export function cancelSending(delivery: Delivery): Thunk<Promise<unknown>> {
  return (dispatch) => dispatch(learnDelivery(delivery, { state: 'failed', reason: { code: 'cancelled' } }));
}

/** Carries deliveries, one after the other, in one tab at a time. */
export class Carrier {
  private readonly timers = new Map<string, ReturnType<typeof setTimeout>>();
  private under: { id: string; request: XMLHttpRequest } | null = null;
  private running = false;
  private again = false;
  private readonly ended = new AbortController();
  private leading = false;

  constructor(
    private readonly dispatch: AppDispatch,
    private readonly extra: Extra,
  ) {}

  /** Waits for its turn among the tabs; from then on it carries what there is and what will be. */
  async start(): Promise<void> {
    const lead = async () => {
      this.leading = true;
      const forget = this.extra.onStored(({ changed }) => {
        const deliveries = changed.filter(([key]) => key.startsWith('delivery:')).map(([, record]) => record as Delivery);
        for (const { id, state, reason } of deliveries) {
          // Taken back, here or in another tab.
          if (state === 'failed' && this.under?.id === id) this.under.request.abort();
          if (state === 'failed' && reason?.code === 'cancelled') void dropOutgoing([id]).catch(() => {});
          if (state === 'waiting' && !reason) this.forgetPause(id);
        }
        if (deliveries.some((d) => d.state === 'waiting')) void this.run();
      });
      void this.run();
      await new Promise((resolve) => this.ended.signal.addEventListener('abort', resolve));
      this.leading = false;
      forget();
    };
    if (typeof navigator !== 'undefined' && navigator.locks)
      await navigator.locks.request(shared.outbox, { signal: this.ended.signal }, lead).catch(() => {});
    else await lead();
  }

  stop(): void {
    this.ended.abort();
    this.under?.request.abort();
    for (const timer of this.timers.values()) clearTimeout(timer);
  }

  /** The network is back, or the server may be: nothing needs to wait for its pause. */
  hurry(): void {
    if (!this.leading) return;
    for (const id of [...this.timers.keys()]) this.forgetPause(id);
    void this.run();
  }

  private forgetPause(id: string): void {
    clearTimeout(this.timers.get(id));
    this.timers.delete(id);
  }

  /** Open deliveries as they are stored, the oldest first. */
  private async open(): Promise<Delivery[]> {
    const posted = parsed<Posted[]>((await readTexts([named.outbox]))[named.outbox], []);
    const { records } = await readKeys(recordKeys('delivery', posted.filter((p) => p.open).map((p) => p.id))); // prettier-ignore
    return ([...records.values()] as Delivery[]).sort((a, b) => a.createdAt.localeCompare(b.createdAt));
  }

  private async run(): Promise<void> {
    this.again = true;
    if (this.running) return;
    this.running = true;
    try {
      while (this.again && !this.ended.signal.aborted) {
        this.again = false;
        for (const { id, state } of await this.open())
          if ((state === 'waiting' || state === 'sending') && !this.timers.has(id)) {
            await this.carry(id);
            this.again = true;
            break;
          }
      }
    } catch {
      // The storage does not answer: the next change or start will try again.
    } finally {
      this.running = false;
    }
  }

  private async carry(id: string): Promise<void> {
    const key = keyOf('delivery', id);
    const stored = async () => (await readKeys([key])).records.get(key) as Delivery | undefined;
    const delivery = await stored();
    // Nobody else carries: what is being sent and not by this tab was begun by one that is gone. The server delivers it once, however far it had come.
    if (delivery?.state !== 'waiting' && delivery?.state !== 'sending') return;
    const file = await getOutgoing(id);
    const learn = (facts: Partial<Delivery>) => this.dispatch(learnDelivery(delivery, facts));
    if (!file) {
      await learn({ state: 'failed', reason: { code: 'file-gone' } });
      return;
    }
    const attempts = delivery.attempts + 1;
    if (!(await learn({ state: 'sending', attempts, reason: undefined }))) {
      this.pause(id, attempts);
      return;
    }
    const answer = await this.upload(delivery, file);
    // Taken back meanwhile: what has arrived all the same is said, since it lies there.
    const now = await stored();
    if (now?.state !== 'sending' && !('proof' in answer)) return;
    if ('proof' in answer) {
      if (await learn({ state: 'arrived', proof: answer.proof, reason: undefined })) await dropOutgoing([id]).catch(() => {});
      else this.pause(id, attempts);
    } else if (answer.again) {
      this.pause(id, attempts);
      await learn({ state: 'waiting', reason: answer.reason });
    } else await learn({ state: 'failed', reason: answer.reason });
  }

  private pause(id: string, attempts: number): void {
    this.forgetPause(id);
    const ms = pauses[Math.min(attempts, pauses.length) - 1]!;
    this.timers.set(
      id,
      setTimeout(() => {
        this.timers.delete(id);
        void this.run();
      }, ms),
    );
  }

  /** One upload. Faults of the network are an answer too, so that the outbox has one way to go on. */
  private upload(delivery: Delivery, file: Blob): Promise<{ proof: Proof } | { reason: Problem; again: boolean }> {
    const { id } = delivery;
    const request: DeliveryRequest = {
      placeId: delivery.place.id,
      fileName: delivery.fileName,
      bytes: delivery.bytes,
      sha256: delivery.sha256,
      subject: delivery.fileName.replace(/\.[a-z]+$/, '').slice(0, 200),
      message: delivery.message,
    };
    return new Promise((resolve) => {
      const unreachable = (code: string, values: { said?: string } = {}) => resolve({ reason: { code, ...values }, again: true });
      const xhr = new XMLHttpRequest();
      this.under = { id, request: xhr };
      let told = 0;
      xhr.open('PUT', `/api/deliveries/${id}`);
      // What it is its name says.
      xhr.setRequestHeader('content-type', 'application/octet-stream');
      xhr.setRequestHeader('x-delivery', encodeURIComponent(JSON.stringify(request)));
      xhr.upload.onprogress = (event) => {
        const share = event.loaded / Math.max(1, event.total);
        this.dispatch(sending({ id, share }));
        if (Date.now() - told < tellMs && share < 1) return;
        told = Date.now();
        this.extra.say({ kind: 'sent', id, share });
      };
      xhr.onload = () => {
        if (xhr.status === 401) return unreachable('signed-out');
        try {
          const answer = deliveryAnswerSchema.parse(JSON.parse(xhr.responseText));
          if (answer.state === 'arrived') resolve({ proof: answer.proof });
          else resolve({ reason: { code: `server-${answer.code}`, said: answer.reason }, again: answer.again });
        } catch {
          unreachable('no-sense', { said: String(xhr.status) });
        }
      };
      xhr.onerror = () => unreachable(navigator.onLine ? 'unreachable' : 'offline');
      xhr.onabort = () => unreachable('stopped');
      xhr.send(file);
    }).finally(() => (this.under = null)) as ReturnType<Carrier['upload']>;
  }
}
