import { EventEmitter } from 'node:events';
import type { Entry } from './entry';

/** What has taken a delivery for one attempt: renewed until it is given back. */
export interface Claim {
  id: string;
  what: 'receiving' | 'carrying';
  token: string;
  release: () => Promise<void>;
}

/** The claim went to another while its holder slept: what it has to say does not count any more. */
export class Overtaken extends Error {
  constructor() {
    super('Another server has taken this delivery over');
  }
}

/** What several servers on one ledger tell each other: that one has noted something of a delivery, and that somebody wants one back which another carries. */
export class Others extends EventEmitter<{ changed: [id: string]; cancel: [id: string] }> {
  constructor(
    /** What is not renewed for so long is another's, ms. */
    readonly leaseMs: number,
    readonly cancel: (id: string) => Promise<void>,
  ) {
    super();
  }
}

/** Every delivery that the server has taken over and what became of it. What cannot be noted is known as long as this server runs, and noted as soon as that works. */
export abstract class Ledger {
  /** Null where no other server writes into it. */
  abstract readonly others: Others | null;
  /** Before anything else. */
  abstract begin(): Promise<void>;
  /** Takes the delivery for receiving its file or for one attempt at carrying it; null while another has it. Only who has it gives it back. */
  abstract claim(id: string, what: Claim['what']): Promise<Claim | null>;
  /** Those that are not over. */
  abstract open(): Promise<Entry[]>;
  /** Those that are not over and that nobody works on. */
  abstract left(): Promise<Entry[]>;
  /** Forgets what was over before `before`. */
  abstract prune(before: Date): Promise<void>;
  /** Why nothing can be noted just now; null where it can. */
  abstract fault(): Promise<string | null>;
  abstract close(): Promise<void>;

  protected abstract read(id: string): Promise<Entry | null>;
  /** @throws Overtaken where `claim` is given and not held any more. */
  protected abstract write(entry: Entry, claim: Claim | null): Promise<void>;

  private readonly unwritten = new Map<string, { entry: Entry; claim: Claim | null }>();
  private readonly writing = new Map<string, Promise<void>>();

  /** @throws where an entry cannot be read. */
  async find(id: string): Promise<Entry | null> {
    return this.unwritten.get(id)?.entry ?? (await this.read(id));
  }

  /**
   * Notes what has become of one.
   *
   * @param claim given, it is noted only as long as that is held.
   * @throws Overtaken; what disk or database says.
   */
  async put(entry: Entry, claim: Claim | null = null): Promise<void> {
    this.unwritten.set(entry.id, { entry: { ...entry, changedAt: new Date().toISOString() }, claim });
    await this.writeLast(entry.id);
    for (const id of this.unwritten.keys()) if (!this.writing.has(id)) await this.writeLast(id).catch(() => {});
  }

  /** One after the other for each delivery, so that the last one stays. */
  private async writeLast(id: string): Promise<void> {
    const last = this.unwritten.get(id)!;
    const write = async () => {
      try {
        await this.write(last.entry, last.claim);
      } catch (error) {
        if (!(error instanceof Overtaken)) throw error;
        if (this.unwritten.get(id) === last) this.unwritten.delete(id);
        throw error;
      }
      if (this.unwritten.get(id) === last) this.unwritten.delete(id);
    };
    const turn = (this.writing.get(id) ?? Promise.resolve()).then(write, write);
    this.writing.set(id, turn);
    try {
      await turn;
    } finally {
      if (this.writing.get(id) === turn) this.writing.delete(id);
    }
  }
}

/** The files that were taken over, each under a name of its own, until their deliveries are over. */
export interface Contents {
  /** The file `incoming/name` is whole: from now on it can be carried, by whoever shares the ledger. */
  keep(name: string): Promise<void>;
  /** Where it lies on this machine; null where it is gone, or not `bytes` long. */
  fetch(name: string, bytes: number): Promise<string | null>;
  drop(name: string): Promise<void>;
  /** Throws away what none of `wanted` is. */
  prune(wanted: ReadonlySet<string>): Promise<void>;
}
