import { installable, newVersion } from '../store/session';
import type { AppDispatch } from '../store/store';

interface InstallPrompt extends Event {
  prompt(): Promise<unknown>;
}

let waiting: ServiceWorker | null = null;
let offer: InstallPrompt | null = null;
let asked = false;

/** The copy that works offline, and what a new version of it does: it waits, and is offered. */
export function keepOffline(dispatch: AppDispatch): void {
  window.addEventListener('beforeinstallprompt', (event) => {
    event.preventDefault();
    offer = event as InstallPrompt;
    dispatch(installable(true));
  });
  window.addEventListener('appinstalled', () => dispatch(installable(false)));
  if (process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator)) return;
  const { serviceWorker } = navigator;
  const known = serviceWorker.controller;
  const offered = ({ active, waiting: next }: ServiceWorkerRegistration) => {
    // The first one of all takes nobody's place: by the time a slow page hears that it is there it may have taken over.
    if (!next || !active || next === active) return;
    waiting = next;
    dispatch(newVersion('waiting'));
  };
  serviceWorker.addEventListener('controllerchange', () => {
    if (!known && !asked) return;
    if (asked) window.location.reload();
    else dispatch(newVersion('elsewhere'));
  });
  const look = (registration: ServiceWorkerRegistration) => {
    offered(registration);
    registration.addEventListener('updatefound', () => {
      const { installing } = registration;
      installing?.addEventListener('statechange', () => offered(registration));
    });
    // A tab that stays open for days looks now and then.
    document.addEventListener('visibilitychange', () => {
      if (document.visibilityState === 'visible') void registration.update().catch(() => {});
    });
  };
  // A browser that blocks it may resolve with nothing.
  void serviceWorker.register('/sw.js').then((registration) => registration && look(registration), () => {}); // prettier-ignore
}

/** Takes the new version over and reloads; other tabs are told. */
export function takeNewVersion(): void {
  asked = true;
  if (waiting) waiting.postMessage({ type: 'SKIP_WAITING' });
  else window.location.reload();
}

/** Shows the browser's own question. */
export async function install(dispatch: AppDispatch): Promise<void> {
  const prompt = offer;
  offer = null;
  dispatch(installable(false));
  await prompt?.prompt();
}
