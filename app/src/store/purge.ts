import type { Document, Page } from '@libretto/model';
import { allOutgoing, dropOutgoing, dropPhotos, dropThumbs } from './files';
import {
  named,
  nextGeneration,
  parsed,
  readKeys,
  readTexts,
  recordKeys,
  removeTexts,
  writeTexts,
  type Binned,
  type Drawer,
} from './records';
import { keyOf, type Key } from './step';
import { locked, shared } from './tabs';

/** How long what was deleted can be brought back. */
export const binDays = 30;

export interface Gone {
  keys: Key[];
  documents: string[];
}

/** What has been in the bin for its time goes for good, with its photos; and files of deliveries that have come to their end. */
export function purge(nowMs: number): Promise<Gone> {
  return locked(shared.records, async () => {
    const bin = parsed<Binned[]>((await readTexts([named.bin]))[named.bin], []);
    const before = new Date(nowMs - binDays * 86_400_000).toISOString();
    const over = bin.filter((b) => b.at < before);
    const gone: Gone = { keys: [], documents: [] };
    const photos = new Set<string>();
    const thumbs: string[] = [];
    const documents = over.filter((b) => b.key.startsWith('document:'));
    const read = await readKeys([
      ...documents.map((b) => b.key),
      ...over.flatMap((b) => (b.photoId ? keyOf('document', b.documentId) : [])),
    ]);
    for (const { documentId, key } of documents) {
      const document = read.records.get(key) as Document | undefined;
      // Brought back, or made by a newer version: it stays.
      if (!document?.deletedAt) continue;
      const own = [
        ...document.pageIds,
        ...bin.filter((b) => b.documentId === documentId && b.photoId).map((b) => b.key.slice(5)),
      ];
      const pages = await readKeys(recordKeys('page', own));
      for (const page of pages.records.values()) photos.add((page as Page).photoId);
      gone.keys.push(key, ...recordKeys('page', own));
      gone.documents.push(documentId);
      thumbs.push(...own);
    }
    for (const { key, documentId, photoId } of over) {
      if (!photoId || gone.documents.includes(documentId)) continue;
      const document = read.records.get(keyOf('document', documentId)) as Document | undefined;
      const others = [...(document?.pageIds ?? []), ...bin.filter((b) => !over.includes(b)).map((b) => b.key.slice(5))];
      const pages = await readKeys([key, ...recordKeys('page', others)]);
      const page = pages.records.get(key) as Page | undefined;
      if (!page?.deletedAt) continue;
      gone.keys.push(key);
      thumbs.push(page.id);
      // Other pages may be made from the same photo.
      const shares = [...pages.records].some(([other, p]) => other !== key && (p as Page).photoId === photoId);
      if (!shares && !pages.newer.size) photos.add(photoId);
    }
    gone.keys.push(...recordKeys('photo', [...photos]));
    if (over.length) {
      const drawers = [...new Set(gone.documents.map(named.drawerOf))];
      const texts = await readTexts(drawers);
      const entries: Record<string, string> = {
        [named.bin]: JSON.stringify(bin.filter((b) => !over.includes(b) && !gone.documents.includes(b.documentId))),
      };
      entries[named.generation] = await nextGeneration();
      for (const key of drawers) {
        const drawer = parsed<Drawer>(texts[key], {});
        for (const id of gone.documents) delete drawer[id];
        entries[key] = JSON.stringify(drawer);
      }
      await writeTexts(entries);
      await removeTexts(gone.keys);
      await dropPhotos([...photos]);
      await dropThumbs(thumbs);
    }
    const waiting = await allOutgoing();
    const deliveries = await readKeys(recordKeys('delivery', waiting));
    await dropOutgoing(
      waiting.filter((id) => {
        const state = (deliveries.records.get(keyOf('delivery', id)) as { state?: string } | undefined)?.state;
        // A file whose delivery is not written yet is just being put into the outbox.
        return state === 'arrived';
      }),
    );
    return gone;
  });
}
