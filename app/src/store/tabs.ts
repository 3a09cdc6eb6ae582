import { newId } from './ids';

/** Names of what all tabs of this browser share. */
export const shared = {
  records: 'libretto-records',
  outbox: 'libretto-outbox',
  channel: 'libretto',
  tab: 'libretto-tab:',
} as const;

/** Runs while no other tab does the same; in the order in which it was asked for. */
export function locked<T>(name: string, run: () => Promise<T>): Promise<T> {
  if (typeof navigator !== 'undefined' && navigator.locks) return navigator.locks.request(name, run) as Promise<T>;
  const before = queues.get(name) ?? Promise.resolve();
  const done = before.then(run);
  queues.set(
    name,
    done.catch(() => {}),
  );
  return done;
}
/** Runs unless another tab is at it; then nothing happens here. */
export async function lockedHere(name: string, run: () => Promise<unknown>): Promise<void> {
  if (typeof navigator !== 'undefined' && navigator.locks)
    await navigator.locks.request(name, { ifAvailable: true }, (lock) => (lock ? run() : undefined));
  else await run();
}

/** Where there are no locks there is one thread of this app only. */
const queues = new Map<string, Promise<unknown>>();

/** A channel that all other tabs hear; where the browser has none, the other stores of this thread do. */
export interface Channel {
  say(message: unknown): void;
  close(): void;
}

const local = new Set<(message: unknown) => void>();

export function openChannel(hear: (message: unknown) => void): Channel {
  if (typeof BroadcastChannel !== 'undefined') {
    const channel = new BroadcastChannel(shared.channel);
    channel.onmessage = (event) => hear(event.data);
    return { say: (message) => channel.postMessage(message), close: () => channel.close() };
  }
  local.add(hear);
  return {
    say: (message) => local.forEach((other) => other !== hear && queueMicrotask(() => other(structuredClone(message)))),
    close: () => void local.delete(hear),
  };
}

const markOf = (tab: string) => `${shared.tab}${tab}`;

export const newTab = () => newId().slice(0, 12);

/** Marks this tab as open, for as long as it lives; the mark that it leaves behind when it is killed tells the next one. */
export function openTab(tab: string): Promise<void> {
  if (typeof navigator === 'undefined' || !navigator.locks) return Promise.resolve();
  // Once: a start that is tried again would wait for itself.
  marked ??= new Promise<void>((resolve) => {
    void navigator.locks.request(markOf(tab), () => {
      resolve();
      return new Promise(() => {});
    });
  });
  return marked;
}
let marked: Promise<void> | undefined;

/** Which tabs live, this one among them; null where the browser cannot tell. */
export async function liveTabs(): Promise<ReadonlySet<string> | null> {
  if (typeof navigator === 'undefined' || !navigator.locks) return null;
  const { held = [] } = await navigator.locks.query();
  return new Set(held.flatMap(({ name = '' }) => (name.startsWith(shared.tab) ? [name.slice(shared.tab.length)] : [])));
}
