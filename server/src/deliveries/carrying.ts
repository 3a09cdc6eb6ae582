import { EventEmitter } from 'node:events';
import { rm } from 'node:fs/promises';
import path from 'node:path';
import type { FastifyBaseLogger } from 'fastify';
import type { Heard, Proof } from '@libretto/model';
import { afterCrash, inDoubt, isOpen, pauseAfter, type Entry } from '../ledger/entry';
import type { Claim, Ledger } from '../ledger/fileLedger';
import { CarryError, DoubtError } from '../places/carrier';
import type { PlaceBook } from '../places/placeBook';

export interface CarryingOptions {
  ledger: Ledger;
  places: PlaceBook;
  /** Folder of the files received. */
  incoming: string;
  log: FastifyBaseLogger;
  /** Longest time for one attempt, ms; default 30 minutes. */
  carryMs?: number;
  /** How many go to one place at a time; default 2. */
  atATime?: number;
}

/** While another server has it, it is looked at again after this, ms. */
const lookAgainMs = 5_000;
/** How long those under way may go on when the server is to stop, ms. */
export const drainMs = 25_000;

class Cancelled extends Error {}

/** Takes what has been received to its places in the background, several at a time, each place by itself: one that hangs stops no other. */
export class Carrying {
  /** `changed` with each entry as it becomes another. */
  readonly events = new EventEmitter().setMaxListeners(0);
  private readonly queues = new Map<string, string[]>();
  private readonly under = new Map<
    string,
    { placeId: string; controller: AbortController; over: Promise<void>; handed: boolean }
  >();
  private readonly timers = new Map<string, NodeJS.Timeout>();
  private stopping = false;

  constructor(private readonly options: CarryingOptions) {}

  /** Goes on with what a server that ended has left. Called once it is known that no other uses the claims. */
  async resume(): Promise<void> {
    for (const entry of await this.options.ledger.open()) {
      const now = afterCrash(entry);
      if (now !== entry) await this.note(now);
      if (!isOpen(now)) await this.dropFile(entry);
      else this.plan(now);
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
    if (!claim) return false;
    try {
      const now = await this.options.ledger.find(id);
      if (!now || !isOpen(now)) return false;
      this.forget(id);
      await this.end({ ...now, state: 'cancelled', nextAt: null, reason: { code: 'cancelled', text: 'It was taken back' } });
      return true;
    } finally {
      await claim.release();
    }
  }

  /** Begins nothing more, waits for those under way, and breaks off what takes too long. */
  async stop(ms = drainMs): Promise<void> {
    this.stopping = true;
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
      if (!isOpen(found)) return await this.end(found);
      await this.attempt(found, claim, controller, handed);
    } finally {
      await claim.release();
    }
  }

  private async attempt(before: Entry, claim: Claim, controller: AbortController, handed: () => void): Promise<void> {
    const { ledger, places, incoming, log, carryMs = 1_800_000 } = this.options;
    const { id, request } = before;
    const carrier = places.carrier(request.placeId);
    if (!carrier) return this.end({ ...before, state: 'refused', reason: { code: 'unknown-place', text: 'The server does not know that place any more' } }); // prettier-ignore
    let entry: Entry = { ...before, state: 'carrying', attempts: before.attempts + 1, nextAt: null };
    await this.note(entry);
    const overall = setTimeout(
      () => controller.abort(new DOMException('The time for one attempt is over', 'TimeoutError')),
      carryMs,
    );
    const facts = { delivery: id, place: request.placeId, attempt: entry.attempts };
    try {
      const proof = await carrier.carry(
        { ...request, id, path: path.join(incoming, entry.file!), heard: entry.heard },
        {
          signal: controller.signal,
          token: claim.token,
          handing: async (heard) => {
            if (!(await claim.holds())) throw new CarryError('overtaken', 'Another server has taken this delivery over', true);
            controller.signal.throwIfAborted();
            entry = { ...entry, state: 'handing', heard: merged(entry.heard, heard) };
            await ledger.put(entry);
            handed();
          },
        },
      );
      log.info(facts, 'arrived');
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
          return await this.note({ ...entry, state: 'received', attempts: before.attempts });
        return await this.end({ ...entry, state: 'cancelled', reason: { code: 'cancelled', text: 'It was taken back' } });
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
        return await this.end(inDoubt({ ...entry, heard: merged(entry.heard, error.heard) }, error.message));
      const fault =
        error instanceof CarryError ? error : new CarryError('fault', 'The server has a fault of its own; see its log', true);
      const reason = { code: fault.code, text: fault.message };
      const heard = merged(entry.heard, fault.more.heard ?? []);
      const pause = fault.again ? pauseAfter(entry, fault.more.waitMs) : null;
      if (pause === null) return await this.end({ ...entry, state: 'refused', reason, heard });
      const waiting: Entry = { ...entry, state: 'received', reason, heard, nextAt: new Date(Date.now() + pause).toISOString() };
      await this.note(waiting);
      this.plan(waiting);
    } finally {
      clearTimeout(overall);
    }
  }

  /** Noted, and told to whoever listens; what the disk refuses is noted later. */
  private async note(entry: Entry): Promise<void> {
    await this.options.ledger
      .put(entry)
      .catch((error: unknown) => this.options.log.error({ err: error, delivery: entry.id }, 'could not be noted yet'));
    this.events.emit('changed', entry);
  }

  private async end(entry: Entry): Promise<void> {
    await this.note({ ...entry, file: null });
    await this.dropFile(entry);
  }

  private async dropFile({ file }: Entry): Promise<void> {
    if (file) await rm(path.join(this.options.incoming, file), { force: true }).catch(() => {});
  }
}

/** What is known of addresses, the newer over the older. */
function merged(before: readonly Heard[], now: readonly Heard[]): Heard[] {
  const by = new Map(before.map((h) => [h.address, h]));
  for (const h of now) by.set(h.address, h);
  return [...by.values()];
}
