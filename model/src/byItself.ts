import { pathTo } from './folders';
import type { SendDetails } from './deliveries';
import type { Document, Folder, ShelfRecord } from './records';
import type { Summary } from './summary';

/** How long a document is left alone before its folder sends it, ms: somebody may still be adding pages, or put it elsewhere again. */
export const settleMs = 60_000;

/** The folder that sends what is filed in another one by itself: this one, or the nearest that it lies in. */
export const sendingFolder = (folders: ShelfRecord['folders'], id: string | undefined): Folder | undefined =>
  pathTo(folders, id).findLast((folder) => Object.keys(folder.sendsTo ?? {}).length > 0);

/** What sends a document by itself: its folder, its cover slip, or both. */
export interface Sender extends Pick<Folder, 'sendsUnchecked'> {
  sendsTo: Record<string, SendDetails>;
  /** Its name. */
  folder?: string;
  slip?: boolean;
}

export function senderOf(
  folders: ShelfRecord['folders'],
  { folder: id, sendsTo }: Pick<Document, 'folder' | 'sendsTo'>,
): Sender | undefined {
  const folder = sendingFolder(folders, id);
  if (!folder && !sendsTo) return undefined;
  return {
    sendsTo: { ...folder?.sendsTo, ...sendsTo },
    ...(folder && { folder: folder.name }),
    ...(folder?.sendsUnchecked && { sendsUnchecked: true }),
    ...(sendsTo && { slip: true }),
  };
}

/** How a document stands with what is to send it. */
export type Standing =
  { code: 'held' | 'empty' | 'due' } | { code: 'looking' | 'doubts'; pages: number } | { code: 'settling'; until: number };

/** @param now ms since 1970. */
export function standing(summary: Summary, sender: Sender, now: number): Standing {
  if (summary.heldBack) return { code: 'held' };
  if (!summary.pages) return { code: 'empty' };
  if (summary.looking) return { code: 'looking', pages: summary.looking };
  if (summary.doubts && !sender.sendsUnchecked) return { code: 'doubts', pages: summary.doubts };
  const until = Date.parse(summary.changedAt) + settleMs;
  return until > now ? { code: 'settling', until } : { code: 'due' };
}
