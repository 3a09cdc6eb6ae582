import { EventEmitter } from 'node:events';
import type { FastifyBaseLogger } from 'fastify';
import type { Heard, Proof } from '@libretto/model';
import { afterCrash, inDoubt, isOpen, pauseAfter, type Entry } from '../ledger/entry';
import { Overtaken, type Claim, type Contents, type Ledger } from '../ledger/ledger';
import { CarryError, DoubtError } from '../places/carrier';
import type { PlaceBook } from '../places/placeBook';

export interface CarryingOptions {
  ledger: Ledger;
  places: PlaceBook;
  contents: Contents;
  log: FastifyBaseLogger;
  /** Longest time for one attempt, ms; default 30 minutes. */
  carryMs?: number;
  /** How many go to one place at a time; default 2. */
  atATime?: number;
}

/** While another server has it, it is looked at again after this, ms. */
const lookAgainMs = 5_000;
/** So often it is looked what servers that share the ledger have left, ms. */
const lookRoundMs = 10_000;
/** So long somebody waits for another server to take something back, ms. */
const othersCancelMs = 5_000;
/** How long those under way may go on when the server is to stop, ms. */
export const drainMs = 25_000;

class Cancelled extends Error {}

/** Takes what has been received to its places in the background, several at a time, each place by itself: one that hangs stops no other. */
export class Carrying {
  /** `changed` with each entry as it becomes another here, `elsewhere` where another server has noted it. */
  readonly events = new EventEmitter().setMaxListeners(0);
  private readonly queues = new Map<string, string[]>();
  private readonly under = new Map<
    string,
    { placeId: string; controller: AbortController; over: Promise<void>; handed: boolean }
  >();
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private stopping = false;
  private looking: NodeJS.Timeout | undefined;

  constructor(private readonly options: CarryingOptions) {
    const { ledger, log } = options;
    const unheard = (error: unknown) => log.warn({ err: error }, 'another server was not answered');
    ledger.others?.on('changed', (id) => {
      ledger.find(id).then((entry) => entry && this.events.emit('elsewhere', entry), unheard);
    });
    ledger.others?.on('cancel', (id) => {
      if (this.under.has(id)) ledger.find(id).then((entry) => entry && this.cancel(entry), unheard);
    });
  }

  /** Goes on with what a server that ended has left; where several share the ledger, from now on. */
  async resume(): Promise<void> {
    await this.takeLeft();
    const { others } = this.options.ledger;
    if (!others || this.stopping) return;
    const look = () =>
      void this.takeLeft().catch((error: unknown) =>
        this.options.log.error({ err: error }, 'what was left could not be looked at'),
      );
    this.looking = setInterval(look, Math.min(lookRoundMs, others.leaseMs)).unref();
  }

  private async takeLeft(): Promise<void> {
    const { ledger } = this.options;
    for (const entry of await ledger.left()) {
      if (this.under.has(entry.id)) continue;
      if (afterCrash(entry) === entry) {
        this.plan(entry);
        continue;
      }
      const claim = await ledger.claim(entry.id, 'carrying');
      if (!claim) continue;
      try {
        const found = await ledger.find(entry.id);
        if (!found || !isOpen(found)) continue;
        const now = afterCrash(found);
        if (!isOpen(now)) await this.end(now, claim);
        else if (await this.note(now, claim)) this.plan(now);
      } finally {
        await claim.release();
      }
    }
  }

  /** From now on it is on its way. */
  plan(entry: Entry): void {
    const ms = entry.nextAt ? Date.parse(entry.nextAt) - Date.now() : 0;
    this.later(entry.id, entry.request.placeId, ms);
  }

  /** True when it is taken back; false when it has gone too far, or is over. */
  async cancel(entry: Entry): Promise<boolean> {
    const { id } = entry;
    const attempt = this.under.get(id);
    if (attempt) {
      if (attempt.handed) return false;
      attempt.controller.abort(new Cancelled('cancelled'));
      await attempt.over;
      const state = (await this.options.ledger.find(id))?.state;
      if (state !== 'received') return state === 'cancelled';
    }
    const claim = await this.options.ledger.claim(id, 'carrying');
    if (!claim) return this.cancelledByOthers(id);
    try {
      const now = await this.options.ledger.find(id);
      if (!now || !isOpen(now)) return false;
      this.forget(id);
      await this.end(
        { ...now, state: 'cancelled', nextAt: null, reason: { code: 'cancelled', text: 'It was taken back' } },
        claim,
      );
      return true;
    } finally {
      await claim.release();
    }
  }

  private async cancelledByOthers(id: string): Promise<boolean> {
    const { ledger } = this.options;
    if (!ledger.others) return false;
    await ledger.others.cancel(id);
    for (let waited = 0; waited < othersCancelMs; waited += 100) {
      await new Promise((resolve) => setTimeout(resolve, 100));
      const entry = await ledger.find(id);
      if (!entry || !isOpen(entry)) return entry?.state === 'cancelled';
    }
    return false;
  }

  /** Begins nothing more, waits for those under way, and breaks off what takes too long. */
  async stop(ms = drainMs): Promise<void> {
    this.stopping = true;
    clearInterval(this.looking);
    for (const timer of this.timers.values()) clearTimeout(timer);
    const over = Promise.allSettled([...this.under.values()].map((a) => a.over));
    // What can be begun again is: only what was handed over is worth waiting for.
    for (const attempt of this.under.values()) if (!attempt.handed) attempt.controller.abort(new Cancelled('stopping'));
    let timer: NodeJS.Timeout;
    await Promise.race([over, new Promise((resolve) => (timer = setTimeout(resolve, ms)))]);
    clearTimeout(timer!);
    for (const attempt of this.under.values()) attempt.controller.abort(new Cancelled('stopping'));
    await over;
  }

  /** How many wait and how many are under way, by place. */
  counts(): { waiting: number; under: number } {
    const queued = [...this.queues.values()].reduce((sum, q) => sum + q.length, 0);
    return { waiting: queued + this.timers.size, under: this.under.size };
  }

  private later(id: string, placeId: string, ms: number): void {
    this.forget(id);
    if (this.stopping) return;
    const begin = () => {
      this.timers.delete(id);
      const queue = this.queues.get(placeId) ?? [];
      if (!queue.includes(id)) queue.push(id);
      this.queues.set(placeId, queue);
      this.next(placeId);
    };
    if (ms <= 0) begin();
    // Longer waits than a timer can hold are cut; it is planned anew then.
    else this.timers.set(id, setTimeout(begin, Math.min(ms, 2 ** 31 - 1)));
  }

  private forget(id: string): void {
    clearTimeout(this.timers.get(id));
    this.timers.delete(id);
    for (const queue of this.queues.values()) {
      const at = queue.indexOf(id);
      if (at >= 0) queue.splice(at, 1);
    }
  }

  private next(placeId: string): void {
    const queue = this.queues.get(placeId) ?? [];
    while (!this.stopping && queue.length) {
      if ([...this.under.values()].filter((a) => a.placeId === placeId).length >= (this.options.atATime ?? 2)) return;
      const id = queue.shift()!;
      if (this.under.has(id)) continue;
      const controller = new AbortController();
      const attempt = { placeId, controller, handed: false, over: Promise.resolve() };
      this.under.set(id, attempt);
      attempt.over = this.carry(id, controller, () => (attempt.handed = true))
        .catch((error: unknown) => {
          // The ledger does not answer: nothing is lost, it is looked at again.
          this.options.log.error({ err: error, delivery: id }, 'a delivery could not be gone on with');
          this.under.delete(id);
          this.later(id, placeId, lookAgainMs);
        })
        .finally(() => {
          this.under.delete(id);
          this.next(placeId);
        });
    }
  }

  private async carry(id: string, controller: AbortController, handed: () => void): Promise<void> {
    const { ledger } = this.options;
    const claim = await ledger.claim(id, 'carrying');
    const entry = await ledger.find(id);
    if (!claim) {
      if (entry && isOpen(entry)) this.later(id, entry.request.placeId, lookAgainMs);
      return;
    }
    try {
      if (!entry || !isOpen(entry)) return;
      // Left in the middle by a server that shares the ledger.
      const found = afterCrash(entry);
      if (!isOpen(found)) return await this.end(found, claim);
      await this.attempt(found, claim, controller, handed);
    } finally {
      await claim.release();
    }
  }

  private async attempt(before: Entry, claim: Claim, controller: AbortController, handed: () => void): Promise<void> {
    const { ledger, places, contents, log, carryMs = 1_800_000 } = this.options;
    const { id, request } = before;
    const carrier = places.carrier(request.placeId);
    if (!carrier) return this.end({ ...before, state: 'refused', reason: { code: 'unknown-place', text: 'The server does not know that place any more' } }, claim); // prettier-ignore
    const file = before.file && (await contents.fetch(before.file, request.bytes));
    if (!file) return this.end({ ...before, state: 'refused', reason: { code: 'file-gone', text: 'The server does not have the file any more' } }, claim); // prettier-ignore
    let entry: Entry = { ...before, state: 'carrying', attempts: before.attempts + 1, nextAt: null };
    if (!(await this.note(entry, claim))) return;
    const overall = setTimeout(
      () => controller.abort(new DOMException('The time for one attempt is over', 'TimeoutError')),
      carryMs,
    );
    const facts = { delivery: id, place: request.placeId, attempt: entry.attempts };
    try {
      const proof = await carrier.carry(
        { ...request, id, path: file, heard: entry.heard },
        {
          signal: controller.signal,
          token: claim.token,
          handing: async (heard) => {
            controller.signal.throwIfAborted();
            const now: Entry = { ...entry, state: 'handing', heard: merged(entry.heard, heard) };
            await ledger.put(now, claim);
            entry = now;
            handed();
          },
        },
      );
      log.info(facts, 'arrived');
      // True, whoever has the claim by now.
      await this.end({
        ...entry,
        state: 'arrived',
        proof: proof satisfies Proof,
        reason: null,
        heard: proof.heard ?? entry.heard,
      });
    } catch (error) {
      if (controller.signal.reason instanceof Cancelled && !(error instanceof DoubtError)) {
        if (controller.signal.reason.message === 'stopping')
          return void (await this.note({ ...entry, state: 'received', attempts: before.attempts }, claim));
        return await this.end({ ...entry, state: 'cancelled', reason: { code: 'cancelled', text: 'It was taken back' } }, claim);
      }
      log.warn(
        {
          ...facts,
          outcome: error instanceof CarryError ? error.code : undefined,
          err: error instanceof CarryError ? undefined : error,
        },
        (error as Error).message,
      );
      if (error instanceof DoubtError)
        return await this.end(inDoubt({ ...entry, heard: merged(entry.heard, error.heard) }, error.message), claim);
      const fault =
        error instanceof CarryError ? error : new CarryError('fault', 'The server has a fault of its own; see its log', true);
      const reason = { code: fault.code, text: fault.message };
      const heard = merged(entry.heard, fault.more.heard ?? []);
      const pause = fault.again ? pauseAfter(entry, fault.more.waitMs) : null;
      if (pause === null) return await this.end({ ...entry, state: 'refused', reason, heard }, claim);
      const waiting: Entry = { ...entry, state: 'received', reason, heard, nextAt: new Date(Date.now() + pause).toISOString() };
      if (await this.note(waiting, claim)) this.plan(waiting);
    } finally {
      clearTimeout(overall);
    }
  }

  /** Noted, and told to whoever listens; what the disk refuses is noted later. False where the delivery is another server's by now. */
  private async note(entry: Entry, claim: Claim | null): Promise<boolean> {
    try {
      await this.options.ledger.put(entry, claim);
    } catch (error) {
      this.options.log.error({ err: error, delivery: entry.id }, 'could not be noted yet');
      if (error instanceof Overtaken) return false;
    }
    this.events.emit('changed', entry);
    return true;
  }

  private async end(entry: Entry, claim: Claim | null = null): Promise<void> {
    if (!(await this.note({ ...entry, file: null }, claim)) || !entry.file) return;
    await this.options.contents.drop(entry.file).catch((error: unknown) => this.options.log.warn({ err: error, delivery: entry.id }, 'its file stays for now')); // prettier-ignore
  }
}

/** What is known of addresses, the newer over the older. */
function merged(before: readonly Heard[], now: readonly Heard[]): Heard[] {
  const by = new Map(before.map((h) => [h.address, h]));
  for (const h of now) by.set(h.address, h);
  return [...by.values()];
}
