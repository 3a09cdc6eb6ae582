import {
  isOpenDelivery,
  lookingPage,
  summarise,
  type Delivery,
  type Document,
  type Page,
  type Photo,
  type Summary,
} from '@libretto/model';
import { allPhotos } from './files';
import {
  nextGeneration,
  kindOf,
  layout,
  parsed,
  readKeys,
  setAside,
  type Binned,
  type Drawer,
  type Posted,
  type SetAside,
} from './records';
import { drawers, allKeys, named, writeTexts } from './texts';
import { keyOf, type Key } from './texts';
import { locked, shared } from './tabs';

export interface Everything {
  photo: Map<string, Photo>;
  page: Map<string, Page>;
  document: Map<string, Document>;
  delivery: Map<string, Delivery>;
}

/**
 * What is missing among the records: photos that stand in no page come back as pages, pages that their document does not name are appended to it, and
 * a document that is gone is replaced by one of its own. In linear time.
 *
 * @returns the records that are to be written.
 */
export function mend({ photo, page, document }: Everything, photos: readonly Photo[], nameOfLost: string): Map<Key, object> {
  const out = new Map<Key, object>();
  const documents = new Map(document);
  const stands = new Map([...documents].map(([id, d]) => [id, new Set(d.pageIds)]));
  const now = new Date().toISOString();
  const pagesOfPhoto = new Set<string>();
  const looking = new Set<string>();
  for (const p of page.values()) {
    pagesOfPhoto.add(p.photoId);
    if (p.state === 'looking') looking.add(p.photoId);
  }
  const appended = new Map<string, string[]>();
  const append = (documentId: string, pageId: string, at: string) => {
    if (!documents.has(documentId)) {
      documents.set(documentId, {
        v: 1,
        id: documentId,
        name: nameOfLost,
        pageIds: [],
        createdAt: at,
        changedAt: now,
        deletedAt: null,
      });
      stands.set(documentId, new Set());
    }
    if (stands.get(documentId)!.has(pageId)) return;
    stands.get(documentId)!.add(pageId);
    appended.set(documentId, [...(appended.get(documentId) ?? []), pageId]);
  };
  for (const record of photos) {
    if (!photo.has(record.id)) out.set(keyOf('photo', record.id), record);
    if (pagesOfPhoto.has(record.id)) continue;
    const its = lookingPage(`${record.id.slice(0, 40)}-page`, record.documentId, record.id);
    out.set(keyOf('page', its.id), its);
    append(record.documentId, its.id, record.addedAt);
  }
  for (const p of page.values()) {
    if (p.deletedAt || stands.get(p.documentId)?.has(p.id)) continue;
    // A further page of a photo that will be looked at again is found again.
    if (p.state === 'ready' && looking.has(p.photoId)) out.set(keyOf('page', p.id), { ...p, deletedAt: now });
    else append(p.documentId, p.id, now);
  }
  for (const [id, pageIds] of appended) {
    const d = documents.get(id)!;
    out.set(keyOf('document', id), { ...d, pageIds: [...d.pageIds, ...pageIds], changedAt: now });
  }
  return out;
}

const portion = 1000;

export interface Rebuilt {
  aside: SetAside[];
  /** There was nothing to make it from: a first start. */
  fromNothing: boolean;
}

/**
 * Makes anew all that follows from the records (summaries, outbox, bin), and mends what is missing among them: after an update of the layout, or when
 * a record had to be set aside. Reads every record, in portions.
 */
export function rebuild(nameOfLost: string): Promise<Rebuilt> {
  return locked(shared.records, async () => {
    const there = new Set(await allKeys());
    const keys = [...there].filter((k): k is Key => ['photo', 'page', 'document', 'delivery'].includes(kindOf(k)));
    const all: Everything = { photo: new Map(), page: new Map(), document: new Map(), delivery: new Map() };
    const newer = new Set<Key>();
    const aside: SetAside[] = [];
    for (let i = 0; i < keys.length; i += portion) {
      const read = await readKeys(keys.slice(i, i + portion));
      for (const [key, record] of read.records)
        (all[kindOf(key) as keyof Everything] as Map<string, object>).set((record as { id: string }).id, record);
      for (const key of read.newer) newer.add(key);
      aside.push(...read.aside);
    }
    const photos: Photo[] = [];
    for await (const photo of allPhotos()) photos.push(photo);
    // What a newer version wrote is known by its id only: its photo is not taken for a lost one.
    const known = photos.filter((p) => ![...newer].some((key) => key.startsWith('page:')) || all.photo.has(p.id));
    const mended = mend(all, newer.size ? known : photos, nameOfLost);
    for (const [key, record] of mended)
      (all[kindOf(key) as keyof Everything] as Map<string, object>).set((record as { id: string }).id, record);

    const entries: Record<string, string> = {};
    for (const [key, record] of mended) entries[key] = JSON.stringify(record);
    const summaries = everySummary(all, newer);
    const filled: Drawer[] = Array.from({ length: drawers }, () => ({}));
    for (const summary of summaries) filled[Number(named.drawerOf(summary.id).split(':')[1])]![summary.id] = summary;
    filled.forEach((drawer, n) => {
      if (there.has(named.drawer(n)) || Object.keys(drawer).length) entries[named.drawer(n)] = JSON.stringify(drawer);
    });
    const posted: Posted[] = [...all.delivery.values()]
      .sort((a, b) => b.createdAt.localeCompare(a.createdAt))
      .map(({ id, state }) => ({ id, open: isOpenDelivery({ state }) }));
    entries[named.outbox] = JSON.stringify(posted);
    entries[named.bin] = JSON.stringify(everyBinned(all));
    entries[named.layout] = JSON.stringify(layout);
    entries[named.generation] = await nextGeneration();
    // The layout is said last, so that a stop in between begins again.
    const { [named.layout]: said, ...rest } = entries;
    const list = Object.entries(rest);
    for (let i = 0; i < list.length; i += portion) await writeTexts(Object.fromEntries(list.slice(i, i + portion)));
    await setAside(aside);
    await writeTexts({ [named.layout]: said! });
    return { aside, fromNothing: !there.size && !photos.length };
  });
}

function everySummary(all: Everything, newer: ReadonlySet<Key>): Summary[] {
  const deliveries = new Map<string, Delivery[]>();
  for (const d of all.delivery.values()) deliveries.set(d.documentId, [...(deliveries.get(d.documentId) ?? []), d]);
  return [...all.document.values()].map((d) =>
    summarise(
      d,
      d.pageIds.flatMap((id) => all.page.get(id) ?? []),
      deliveries.get(d.id) ?? [],
      { newer: d.pageIds.some((id) => newer.has(keyOf('page', id))) },
    ),
  );
}

function everyBinned({ page, document }: Everything): Binned[] {
  return [
    ...[...page.values()].flatMap((p): Binned | [] =>
      p.deletedAt ? { key: keyOf('page', p.id), documentId: p.documentId, photoId: p.photoId, at: p.deletedAt } : [],
    ),
    ...[...document.values()].flatMap((d): Binned | [] =>
      d.deletedAt ? { key: keyOf('document', d.id), documentId: d.id, at: d.deletedAt } : [],
    ),
  ];
}

export const layoutOf = (text: string | null | undefined): string | null => parsed<string | null>(text, null);
