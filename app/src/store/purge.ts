import type { Document, Page, Photo } from '@libretto/model';
import { allOutgoing, dropOutgoing, dropPhotos, dropTexts, dropThumbs } from './files';
import { nextGeneration, parsed, readKeys, recordKeys, type Binned, type Drawer } from './records';
import { allKeys, named, readTexts, removeTexts, writeTexts } from './texts';
import { keyOf, type Key } from './texts';
import { locked, shared } from './tabs';

/** How long what was deleted can be brought back. */
export const binDays = 30;
/** Pages read at a time. */
const portion = 2000;

export interface Gone {
  keys: Key[];
  documents: string[];
}

/**
 * What has been in the bin for its time goes for good, with its photos; and files of deliveries that have come to their end.
 *
 * @param wanted documents in the bin that are to go now; without it, what is there for long enough.
 */
export function purge(nowMs: number, wanted?: readonly string[]): Promise<Gone> {
  return locked(shared.records, async () => {
    const bin = parsed<Binned[]>((await readTexts([named.bin]))[named.bin], []);
    const before = new Date(nowMs - binDays * 86_400_000).toISOString();
    const over = bin.filter((b) => (wanted ? b.key.startsWith('document:') && wanted.includes(b.documentId) : b.at < before));
    const gone: Gone = { keys: [], documents: [] };
    const photos = new Set<string>();
    const thumbs: string[] = [];
    const documents = over.filter((b) => b.key.startsWith('document:'));
    const read = await readKeys(documents.map((b) => b.key));
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
      const page = (await readKeys([key])).records.get(key) as Page | undefined;
      if (!page?.deletedAt) continue;
      gone.keys.push(key);
      thumbs.push(page.id);
      photos.add(photoId);
    }
    for (const id of await usedBeside(photos, new Set(gone.keys))) photos.delete(id);
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
      await dropTexts(thumbs);
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

/**
 * Photos that no page is made from any more go for good, with their records.
 *
 * @returns their bytes.
 */
export function dropUnused(photoIds: readonly string[]): Promise<number> {
  return locked(shared.records, async () => {
    const photos = new Set(photoIds);
    for (const id of await usedBeside(photos, new Set())) photos.delete(id);
    const keys = recordKeys('photo', [...photos]);
    const records = [...(await readKeys(keys)).records.values()] as (Photo | undefined)[];
    await removeTexts(keys);
    await dropPhotos([...photos]);
    return records.reduce((sum, photo) => sum + (photo?.bytes ?? 0), 0);
  });
}

/** Those of the photos that other pages are made from, wherever these stand; also pages that a newer version has written. */
async function usedBeside(photos: ReadonlySet<string>, gone: ReadonlySet<string>): Promise<string[]> {
  if (!photos.size) return [];
  const rest = (await allKeys()).filter((key) => key.startsWith('page:') && !gone.has(key));
  const used: string[] = [];
  for (let i = 0; i < rest.length; i += portion)
    for (const text of Object.values(await readTexts(rest.slice(i, i + portion)))) {
      const { photoId } = parsed<Partial<Page>>(text, {});
      if (photoId && photos.has(photoId)) used.push(photoId);
    }
  return used;
}
