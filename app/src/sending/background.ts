/** Under which the browser keeps it that something waits to be sent. */
export const backgroundTag = 'libretto-outbox';

interface WithSync extends ServiceWorkerRegistration {
  sync?: { register(tag: string): Promise<void> };
}

/** Asks the browser to go on with what waits once no tab of ours is open (background.worker.ts); where it cannot, it goes at the next opening. */
export async function goOnWithoutTabs(): Promise<void> {
  if (typeof navigator === 'undefined' || !('serviceWorker' in navigator)) return;
  try {
    const registration: WithSync | undefined = await navigator.serviceWorker.getRegistration();
    await registration?.sync?.register(backgroundTag);
  } catch {
    // The browser or its user does not want that.
  }
}
