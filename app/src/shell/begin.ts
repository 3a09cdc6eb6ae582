import { isFull } from '../store/files';
import { openLibrary, nameLostBy, tidyUp } from '../store/open';
import { noticed, onlineChanged } from '../store/session';
import { store } from '../store/store';
import type { Carrier } from '../sending/carrier';
import { keepOffline } from '../work/installed';
import { learnPlaces } from '../sending/places';
import { say } from '../ui/words/words';
import { offerDemo } from '../work/demo';
import { cancelLooks, lookAtPages } from '../work/looking';
import { readAhead } from '../work/reading';

let begun = false;
let carrying = false;
/** Long after the start, when nobody waits for anything. */
const tidyAfterMs = 20_000;

/** Behind the first drawing of the screen, at the latest after so long. */
const idleMs = 4000;
function whenIdle(work: () => void): void {
  // WebKit has no idle time.
  if ('requestIdleCallback' in window) requestIdleCallback(work, { timeout: idleMs });
  else setTimeout(work, idleMs / 4);
}

/** Opens what is stored and goes on with unfinished work; again, if it failed. */
export async function open(): Promise<void> {
  nameLostBy(say('lost'));
  if (!(await store.dispatch(openLibrary()))) return;
  void store.dispatch(lookAtPages());
  void store.dispatch(learnPlaces());
  void store.dispatch(offerDemo());
  if (!carrying) {
    carrying = true;
    let carrier: Carrier | undefined;
    // Nothing of the first screen waits for it; where its script does not come it is asked for again.
    const carry = () =>
      void import('../sending/carrier').then(
        ({ Carrier }) => {
          if (carrier) return carrier.hurry();
          carrier = new Carrier(store);
          void carrier.start();
        },
        () => {},
      );
    whenIdle(carry);
    const online = () => {
      store.dispatch(onlineChanged(navigator.onLine));
      if (navigator.onLine) carry();
    };
    window.addEventListener('online', online);
    window.addEventListener('offline', online);
    document.addEventListener('visibilitychange', () => document.visibilityState === 'visible' && carry());
    readAhead(store);
    setTimeout(() => void store.dispatch(tidyUp()).catch(() => {}), tidyAfterMs);
  }
}

/** The browser may throw stored photographs away when room is short, unless it has promised not to: it is asked once somebody's own document is there. */
function askToKeep(): void {
  const forget = store.subscribe(() => {
    const { start } = store.getState().session;
    if (start !== 'ready' || !Object.values(store.getState().library.summary).some((s) => !s.demo && !s.deletedAt)) return;
    forget();
    void navigator.storage?.persist?.().catch(() => {});
  });
}

/** Once for the page's life. */
export function begin(): void {
  if (begun) return;
  begun = true;
  store.extra.onStored(cancelLooks);
  void open();
  // What nobody caught is said, rather than that nothing happens.
  window.addEventListener('unhandledrejection', ({ reason }) => {
    if ((reason as { name?: string })?.name !== 'AbortError' && !isFull(reason))
      store.dispatch(noticed({ code: 'notice.notStored', values: { said: (reason as Error)?.message ?? String(reason) } }));
  });
  keepOffline(store.dispatch);
  askToKeep();
}
