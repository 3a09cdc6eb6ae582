import { isOpenDelivery, needsAttention } from './lists';
import { lookOf } from './looks';
import type { Delivery } from './deliveries';
import type { Problem } from './fields';
import type { Document, Page } from './records';

/** What became of a document; what needs the user goes before what is done. */
export type Fate =
  | { code: 'failed'; place: string }
  | { code: 'looking' | 'doubts'; pages: number }
  | { code: 'sending'; place: string }
  | { code: 'waiting'; reason?: Problem }
  | { code: 'arrived'; kind: 'folder' | 'bucket' | 'mail'; place: string; at: string }
  | { code: 'device' };

/** All that the shelf and the start need of a document, so that neither reads its pages. */
export interface Summary {
  id: string;
  name: string;
  createdAt: string;
  changedAt: string;
  deletedAt: string | null;
  pages: number;
  /** Ids of named sizes or "80×236" in mm, once each; three at most. */
  sizes: string[];
  /** Pages whose edges are still to be found, and those that need a look. */
  looking: number;
  doubts: number;
  /** The first page and what it looks like, for its thumbnail. */
  first: { pageId: string; look: string } | null;
  fate: Fate;
  /** Its deliveries, the newest first. */
  deliveries: string[];
  folder?: string;
  tags?: string[];
  heldBack?: boolean;
  sendsTo?: Document['sendsTo'];
  /** The photographs of all its pages are gone, but of those in black and white. */
  freed?: boolean;
  demo?: boolean;
  /** Some of it was made by a newer version of Libretto. */
  newer?: boolean;
}

/** Whether a page needs a look: a check that is more than a note, or a photo that could not be read. */
export function hasDoubt(page: Page): boolean {
  return page.state === 'failed' || page.checks.some((c) => c.severity !== 'note');
}

const mostDeliveries = 20;

/**
 * A document's summary.
 *
 * @param pages its pages in order, those that can be read.
 * @param deliveries those known, in any order.
 */
export function summarise(
  document: Document,
  pages: readonly Page[],
  deliveries: readonly Delivery[],
  { newer = false }: { newer?: boolean } = {},
): Summary {
  const first = pages[0];
  const newest = [...deliveries].sort((a, b) => b.createdAt.localeCompare(a.createdAt)).slice(0, mostDeliveries);
  const looking = pages.filter((p) => p.state === 'looking').length;
  const doubts = pages.filter(hasDoubt).length;
  return {
    id: document.id,
    name: document.name,
    createdAt: document.createdAt,
    changedAt: document.changedAt,
    deletedAt: document.deletedAt,
    pages: document.pageIds.length,
    sizes: [...new Set(pages.flatMap((p) => (p.made ? [sizeKey(p.made)] : [])))].slice(0, 3),
    looking,
    doubts,
    first: first ? { pageId: first.id, look: lookOf(first) } : null,
    fate: fateOf(looking, doubts, newest),
    deliveries: newest.map((d) => d.id),
    ...(document.folder && { folder: document.folder }),
    ...(document.tags?.length && { tags: document.tags }),
    ...(document.heldBack && { heldBack: true }),
    ...(document.sendsTo && { sendsTo: document.sendsTo }),
    ...(pages.some((p) => p.freed) && pages.every((p) => p.freed || p.made?.filter === 'ink') && { freed: true }),
    ...(document.demo && { demo: true }),
    ...(newer && { newer: true }),
  };
}

/** A size by its id, or in whole millimetres. */
export const sizeKey = ({ sizeName, widthMm, heightMm }: NonNullable<Page['made']>): string =>
  sizeName ?? `${Math.round(widthMm)}×${Math.round(heightMm)}`;

function fateOf(looking: number, doubts: number, deliveries: readonly Delivery[]): Fate {
  const failed = deliveries.find(needsAttention);
  if (failed) return { code: 'failed', place: failed.place.name };
  if (looking) return { code: 'looking', pages: looking };
  if (doubts) return { code: 'doubts', pages: doubts };
  const under = deliveries.find(isOpenDelivery);
  if (under?.state === 'sending' || (under?.state === 'carrying' && !under.reason))
    return { code: 'sending', place: under.place.name };
  if (under) return { code: 'waiting', ...(under.reason && { reason: under.reason }) };
  const last = deliveries.filter((d) => d.proof).sort((a, b) => b.proof!.at.localeCompare(a.proof!.at))[0];
  if (last) return { code: 'arrived', kind: last.place.kind, place: last.place.name, at: last.proof!.at };
  return { code: 'device' };
}
