import type { Delivery, Document, Outline, Page, Photo, Place } from '@libretto/model';

/** Records for tests; each part can be set. */
const at = '2026-11-20T09:00:00.000Z';

export const anOutline = (part: Partial<Outline> = {}): Outline => ({ v: 1, quad: [[10, 10], [90, 10], [90, 130], [10, 130]], confidence: 0.95, source: 'found', ...part }); // prettier-ignore

export const aPage = (id: string, part: Partial<Page> = {}): Page => ({
  v: 4, id, documentId: 'document-1', photoId: `photo-of-${id}`, alone: true, state: 'ready', checks: [], made: null, deletedAt: null, found: anOutline(),
  recipe: { v: 1, outline: anOutline(), turn: 0, filter: 'auto' }, ...part,
}); // prettier-ignore

export const aDocument = (pageIds: string[], part: Partial<Document> = {}): Document => ({
  v: 1,
  id: 'document-1',
  name: 'Hull survey',
  pageIds,
  createdAt: at,
  changedAt: at,
  deletedAt: null,
  ...part,
});

export const aPhoto = (id: string, part: Partial<Photo> = {}): Photo => ({
  v: 1,
  id,
  documentId: 'document-1',
  name: `${id}.jpg`,
  type: 'image/jpeg',
  bytes: 3,
  addedAt: at,
  ...part,
});

export const aPlace: Place = {
  v: 1,
  id: 'yard-records',
  kind: 'folder',
  name: 'Yard records',
  about: 'Surveys / 2026',
  limit: 1e8,
};

export const aDelivery = (id: string, part: Partial<Delivery> = {}): Delivery => ({
  v: 2, id, documentId: 'document-1', place: aPlace, fileName: 'Hull survey.pdf', bytes: 1000, sha256: 'ab'.repeat(32), message: '', state: 'waiting', attempts: 0, createdAt: at, proof: null, ...part,
}); // prettier-ignore
