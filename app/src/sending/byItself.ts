import { senderOf, standing, type Delivery, type Document, type Sender, type Summary } from '@libretto/model';
import { foldersOf } from '../store/filing';
import { readKeys, recordKeys } from '../store/records';
import type { AppDispatch, Extra, RootState } from '../store/store';
import { makeFiles } from '../work/exporting';
import { makeStored, storedDocument } from './makeStored';
import { queue } from './outbox';

/** Changes come in flocks: they are looked at together, ms. */
const togetherMs = 500;
/** After a fault (a full disk, no photo) it is tried again, ms. */
const againMs = 300_000;
/** A timer that is set for longer goes off at once. */
const longestMs = 2 ** 31 - 1;

/** Sends what folders and cover slips send by themselves: each document once to each place, when it has been looked over and left alone for a while. In one tab at a time. */
export class ByItself {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private running = false;
  private again = false;
  private readonly ended = new AbortController();
  /** Documents that have gone to all of their places, by what these were. */
  private readonly done = new Map<string, string>();

  constructor(
    private readonly dispatch: AppDispatch,
    private readonly getState: () => RootState,
    private readonly make: typeof makeFiles = makeFiles,
    private readonly now: () => number = Date.now,
  ) {}

  /** Looks now, and whenever something has been stored. */
  start(onStored: Extra['onStored']): void {
    const forget = onStored(() => this.soon(togetherMs));
    this.ended.signal.addEventListener('abort', forget);
    this.soon(0);
  }

  stop(): void {
    this.ended.abort();
    clearTimeout(this.timer);
  }

  private soon(ms: number): void {
    if (this.ended.signal.aborted) return;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.look(), Math.max(0, Math.min(ms, longestMs)));
  }

  /** Sends what is due and says to itself when to look again. */
  async look(): Promise<void> {
    this.again = true;
    if (this.running) return;
    this.running = true;
    let next = Infinity;
    try {
      while (this.again && !this.ended.signal.aborted) {
        this.again = false;
        next = Infinity;
        for (const { summary, sender } of this.sent()) {
          const stands = standing(summary, sender, this.now());
          if (stands.code === 'settling') next = Math.min(next, stands.until - this.now() + 50);
          if (stands.code !== 'due') continue;
          try {
            await this.sendOne(summary, sender);
          } catch {
            next = Math.min(next, againMs);
          }
          if (this.ended.signal.aborted) return;
        }
      }
    } finally {
      this.running = false;
    }
    if (next < Infinity) this.soon(next);
  }

  /** Documents that are sent by themselves and have not gone everywhere yet. */
  private sent(): { summary: Summary; sender: Sender }[] {
    const { library } = this.getState();
    const folders = foldersOf({ library });
    const some = Object.values(folders).some((f) => f.sendsTo);
    return Object.values(library.summary).flatMap((summary) => {
      if ((!some && !summary.sendsTo) || summary.deletedAt || summary.newer) return [];
      const sender = senderOf(folders, summary);
      return sender && this.done.get(summary.id) !== placesOf(sender) ? { summary, sender } : [];
    });
  }

  private async sendOne({ id, deliveries }: Summary, sender: Sender): Promise<void> {
    const { library } = this.getState();
    const document = await storedDocument(id);
    if (!document || !this.sends(document, sender)) return;
    const wanted = Object.keys(sender.sendsTo);
    // The summary knows the newest ones only.
    const own = await Promise.all(wanted.map((place) => idOf(id, place, 0)));
    const before = await readKeys(recordKeys('delivery', [...deliveries, ...own]));
    const gone = new Set([...before.records.values()].map((r) => (r as Delivery).place.id));
    // A place that is there no more, or not known yet, is left for a better day.
    const places = wanted.flatMap((place) => (gone.has(place) ? [] : (library.place[place] ?? [])));
    if (!places.length) {
      if (wanted.every((place) => gone.has(place))) this.done.set(id, placesOf(sender));
      return;
    }
    const files = await this.dispatch(makeStored(document, this.ended.signal, this.make));
    if (!files) return;
    // Taken away, held back or changed meanwhile: looked at anew.
    const after = await storedDocument(id);
    if (after?.changedAt !== document.changedAt || !this.sends(after, sender)) {
      this.again = true;
      return;
    }
    const outgoing = { documentId: id, files, message: '', typed: sender.sendsTo, places, ...(sender.folder !== undefined && { byFolder: sender.folder }), ...(sender.slip && { bySlip: true }) }; // prettier-ignore
    // The same document to the same place is the same delivery, whoever sends it: it is there once.
    await this.dispatch(queue(outgoing, (place, file) => idOf(id, place.id, file)));
  }

  /** Whether a document as it is stored (what is shown may not be yet) is to go where something sends it now. */
  private sends(document: Document, sender: Sender): boolean {
    const { library } = this.getState();
    const summary = library.summary[document.id];
    const now = senderOf(foldersOf({ library }), document);
    const due = summary && standing({ ...summary, changedAt: document.changedAt }, sender, this.now()).code === 'due';
    return Boolean(due && now && !document.deletedAt && !document.heldBack && placesOf(now) === placesOf(sender));
  }
}

const placesOf = ({ sendsTo }: Sender) => JSON.stringify(sendsTo);

async function idOf(documentId: string, placeId: string, file: number): Promise<string> {
  const text = new TextEncoder().encode(`${documentId} ${placeId} ${file}`);
  const bytes = new Uint8Array(await crypto.subtle.digest('SHA-256', text));
  return `by-${Array.from(bytes.subarray(0, 20), (b) => b.toString(16).padStart(2, '0')).join('')}`;
}
