import type { Delivery, DeliveryAnswer } from '@libretto/model';
import { learnDelivery } from '../store/editing';
import { dropOutgoing, getOutgoing } from '../store/files';
import { parsed, readKeys, recordKeys, type Posted } from '../store/records';
import { named, readTexts, keyOf } from '../store/texts';
import { sending } from '../store/session';
import type { Store } from '../store/store';
import { shared } from '../store/tabs';
import { ByItself } from './byItself';
import { Following } from './following';
import { asked, factsOf } from './outbox';
import { goOnWithoutTabs } from './background';
import { upload, type Upload, type Uploaded } from './uploading';

/** Waits before trying again by itself, ms; the last one repeats. */
const pauses = [3_000, 10_000, 30_000, 120_000, 300_000];
/** How often other tabs are told how far an upload has come, ms. */
const tellMs = 250;

/** Brings deliveries to the server, one after the other, and follows what becomes of them there; in one tab at a time. */
export class Carrier {
  private readonly timers = new Map<string, ReturnType<typeof setTimeout>>();
  private under: { id: string; upload: Upload } | null = null;
  private running = false;
  private again = false;
  private followed: ReadonlySet<string> = new Set();
  private readonly ended = new AbortController();
  private leading = false;
  private readonly following = new Following((id, answer) => void this.heard(id, answer));

  private readonly byItself: ByItself;

  constructor(private readonly store: Store) {
    this.byItself = new ByItself(store.dispatch, store.getState);
  }

  /** Waits for its turn among the tabs; from then on it carries what there is and what will be. */
  async start(): Promise<void> {
    const lead = async () => {
      this.leading = true;
      const forget = this.store.extra.onStored(({ changed }) => {
        const deliveries = changed.filter(([key]) => key.startsWith('delivery:')).map(([, record]) => record as Delivery);
        for (const { id, state, reason } of deliveries) {
          // Taken back or held up, here or in another tab.
          if ((state === 'failed' || state === 'paused') && this.under?.id === id) this.under.upload.abort();
          if (state === 'failed' && reason?.code === 'cancelled') void dropOutgoing([id]).catch(() => {});
          if (state === 'waiting' && !reason) this.forgetPause(id);
        }
        if (deliveries.some((d) => d.state === 'waiting' || d.state === 'carrying' || this.followed.has(d.id))) void this.run();
      });
      void this.run();
      this.byItself.start(this.store.extra.onStored);
      await new Promise((resolve) => this.ended.signal.addEventListener('abort', resolve));
      this.leading = false;
      this.following.stop();
      forget();
    };
    if (typeof navigator !== 'undefined' && navigator.locks)
      await navigator.locks.request(shared.outbox, { signal: this.ended.signal }, lead).catch(() => {});
    else await lead();
  }

  stop(): void {
    this.ended.abort();
    this.under?.upload.abort();
    this.byItself.stop();
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
        const open = await this.open();
        this.followed = new Set(open.filter((d) => d.state === 'carrying').map((d) => d.id));
        if (this.leading) this.following.follow([...this.followed]);
        for (const { id, state } of open)
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
    const learn = (facts: Partial<Delivery>) => this.store.dispatch(learnDelivery(delivery, facts));
    if (!file) {
      await learn({ state: 'failed', reason: { code: 'file-gone' } });
      return;
    }
    const attempts = delivery.attempts + 1;
    if (!(await learn({ state: 'sending', attempts, reason: undefined }))) {
      this.pause(id, attempts);
      return;
    }
    void goOnWithoutTabs();
    const answer = (await this.knownAlready(delivery)) ?? (await this.upload(delivery, file));
    // Taken back meanwhile: what has arrived all the same is said, since it lies there; what the server has by now is asked back.
    const now = await stored();
    const paused = now?.state === 'paused';
    if (now?.state !== 'sending' && !paused && !(answer.state === 'arrived' || answer.state === 'doubt')) {
      if (answer.state === 'carrying') {
        const after = await asked(id, 'DELETE').catch(() => null);
        if (after && after.state !== 'failed') await learn(factsOf(after, delivery));
      }
      return;
    }
    const facts = 'problem' in answer ? { state: 'waiting' as const, reason: answer.problem } : factsOf(answer, delivery);
    // Held up too late it has gone its way; else it stays where it is.
    if (paused && facts.state === 'waiting') return;
    if (facts.state === 'waiting') this.pause(id, attempts);
    if (!(await learn(facts))) this.pause(id, attempts);
    else if (facts.state === 'arrived') await dropOutgoing([id]).catch(() => {});
  }

  /** What the server says of one that it carries. */
  private async heard(id: string, answer: DeliveryAnswer): Promise<void> {
    const key = keyOf('delivery', id);
    const delivery = (await readKeys([key])).records.get(key) as Delivery | undefined;
    if (delivery?.state !== 'carrying') return;
    const facts = factsOf(answer, delivery);
    const same = (Object.keys(facts) as (keyof Delivery)[]).every(
      (k) => JSON.stringify(facts[k]) === JSON.stringify(delivery[k]),
    );
    if (same || !(await this.store.dispatch(learnDelivery(delivery, facts)))) return;
    if (facts.state === 'arrived') await dropOutgoing([id]).catch(() => {});
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

  /** What the server says of one that may have reached it before: in an upload that was cut off, or without any tab. */
  private async knownAlready({ id, attempts, again }: Delivery): Promise<DeliveryAnswer | null> {
    if (!attempts || again) return null;
    const answer = await asked(id, 'GET').catch(() => null);
    return answer && answer.state !== 'failed' ? answer : null;
  }

  private upload(delivery: Delivery, file: Blob): Promise<Uploaded> {
    const { id } = delivery;
    let told = 0;
    const going = upload(delivery, file, (share) => {
      this.store.dispatch(sending({ id, share }));
      if (Date.now() - told < tellMs && share < 1) return;
      told = Date.now();
      this.store.extra.say({ kind: 'sent', id, share });
    });
    this.under = { id, upload: going };
    return going.answer.finally(() => (this.under = null));
  }
}
