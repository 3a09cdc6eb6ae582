/**
 * Part of the service worker (build-sw.mjs): brings what waits in the outbox to the server when no tab is open to do so. It notes nothing: the server carries a delivery once, under its id, and the next
 * tab asks it what has become of each.
 */
import type { Delivery } from '@libretto/model';
import { getOutgoing } from '../store/files';
import { keyOf, named, readTexts } from '../store/texts';
import { shared } from '../store/tabs';
import { backgroundTag } from './background';
import { addressOf, headersOf } from './request';

interface SyncEvent {
  tag: string;
  waitUntil(work: Promise<unknown>): void;
}

/** For so long it waits for a tab that is open to be done, ms; after it the browser asks again. */
const patienceMs = 100_000;

addEventListener('sync', (event) => {
  const { tag, waitUntil } = event as unknown as SyncEvent;
  if (tag === backgroundTag)
    waitUntil.call(event, navigator.locks.request(shared.outbox, { signal: AbortSignal.timeout(patienceMs) }, carryWaiting));
});

/** @throws where something still waits, so that the browser tries again. */
async function carryWaiting(): Promise<void> {
  const posted = parsed<{ id: string; open: boolean }[]>((await readTexts([named.outbox]))[named.outbox]) ?? [];
  let left = 0;
  for (const { id } of posted.filter((p) => p.open)) {
    const key = keyOf('delivery', id);
    const delivery = parsed<Delivery>((await readTexts([key]))[key]);
    if (delivery?.state !== 'waiting' && delivery?.state !== 'sending') continue;
    const file = await getOutgoing(id);
    if (file && !(await taken(delivery, file).catch(() => false))) left++;
  }
  if (left) throw new Error(`${left} deliveries still wait`);
}

/** Whether the server has it, or has said that it does not want it: that is for somebody to read. */
async function taken(delivery: Delivery, file: Blob): Promise<boolean> {
  const address = addressOf(delivery.id);
  // One in doubt goes again only where somebody has said so.
  const known = await fetch(address);
  if (known.ok && !delivery.again) return true;
  if (!known.ok && known.status !== 404) return false;
  const answer = await fetch(address, { method: 'PUT', headers: headersOf(delivery), body: file });
  const { state, again } = (await answer.json()) as { state?: string; again?: boolean };
  return state === 'carrying' || state === 'arrived' || state === 'doubt' || (state === 'failed' && !again);
}

function parsed<T>(text: string | null | undefined): T | null {
  try {
    return text ? (JSON.parse(text) as T) : null;
  } catch {
    return null;
  }
}
