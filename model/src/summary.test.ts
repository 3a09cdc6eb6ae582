import { lookOf } from './looks';
import { type Delivery } from './deliveries';
import { lookingPage, type Document, type Page, type Recipe } from './records';
import { summarise } from './summary';

const at = '2026-11-20T09:00:00.000Z';
const recipe: Recipe = { v: 1, outline: { v: 1, quad: [[0, 0], [9, 0], [9, 9], [0, 9]], confidence: 1, source: 'hand' }, turn: 0, filter: 'auto' }; // prettier-ignore
const page = (id: string, part: Partial<Page> = {}): Page => ({ ...lookingPage(id, 'document-1', `photo-${id}`), state: 'ready', recipe, ...part }); // prettier-ignore
const document: Document = { v: 1, id: 'document-1', name: 'Survey', pageIds: ['page-1', 'page-2'], createdAt: at, changedAt: at, deletedAt: null }; // prettier-ignore
const place = { v: 1 as const, id: 'yard', kind: 'folder' as const, name: 'Yard records', about: '', limit: 9 };
const delivery = (id: string, part: Partial<Delivery>): Delivery => ({
  v: 2, id, documentId: 'document-1', place, fileName: 'a.pdf', bytes: 3, sha256: 'ab'.repeat(32), message: '', state: 'waiting', attempts: 0, createdAt: at, proof: null, ...part,
}); // prettier-ignore
const proof = {
  where: '',
  at: '2026-11-20T14:02:00.000Z',
  bytes: 1,
  sha256: 'ab'.repeat(32),
  how: 'read-back' as const,
  receipt: '',
};
const fate = (pages: Page[], deliveries: Delivery[] = []) => summarise(document, pages, deliveries).fate;

test('what became of a document: what needs somebody comes first', () => {
  const doubt = page('page-1', { checks: [{ id: 'no-page', severity: 'look' }] });
  const arrived = delivery('delivery-1', { state: 'arrived', proof });
  expect(fate([page('page-1')])).toEqual({ code: 'device' });
  expect(fate([page('page-1')], [arrived])).toEqual({ code: 'arrived', kind: 'folder', place: 'Yard records', at: proof.at });
  expect(fate([page('page-1')], [delivery('delivery-2', { reason: { code: 'offline' } })])).toEqual({ code: 'waiting', reason: { code: 'offline' } }); // prettier-ignore
  expect(fate([doubt], [arrived])).toEqual({ code: 'doubts', pages: 1 });
  expect(fate([page('page-1', { state: 'looking' })], [arrived])).toEqual({ code: 'looking', pages: 1 });
  expect(fate([doubt], [arrived, delivery('delivery-3', { state: 'failed', reason: { code: 'said' } })])).toEqual({ code: 'failed', place: 'Yard records' }); // prettier-ignore
});

test('what was cancelled does not stay on the shelf', () => {
  const cancelled = delivery('delivery-4', { state: 'failed', reason: { code: 'cancelled' } });
  expect(fate([page('page-1')], [cancelled])).toEqual({ code: 'device' });
});

test('pages are counted as the document names them; sizes once each; the first page with its look', () => {
  const made = { widthMm: 210, heightMm: 297, sizeName: 'a4', dpi: 200, filter: 'grey' as const };
  const pages = [page('page-1', { made }), page('page-2', { made: { ...made, sizeName: null, widthMm: 80, heightMm: 236.4 } })];
  expect(summarise(document, pages, [])).toMatchObject({ pages: 2, sizes: ['a4', '80×236'], doubts: 0, looking: 0, first: { pageId: 'page-1', look: lookOf(pages[0]!) } }); // prettier-ignore
});

test('a look names what decides the pixels and nothing else', () => {
  const one = page('page-1');
  expect(lookOf(page('page-1', { checks: [{ id: 'blank', severity: 'note' }] }))).toBe(lookOf(one));
  const others = [
    page('page-1', { recipe: { ...recipe, turn: 90 } }),
    page('page-1', { recipe: { ...recipe, filter: 'ink' } }),
    page('page-1', { alone: false }),
    page('page-2'),
  ];
  expect(new Set([one, ...others].map(lookOf)).size).toBe(5);
  expect(lookOf(page('page-1', { recipe: null }))).toBe('');
});
