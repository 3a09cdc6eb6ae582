import { firstName, type Document, type NamePattern } from '@libretto/model';
import { undoLast } from '../store/change';
import { answerName, changeSettings, renameDocument } from '../store/editing';
import type { ReadText } from '../store/files';
import { settingsId } from '../store/library';
import { aDocument, aPage } from '../testing/records';
import { aStore } from '../testing/store';
import { nameUnasked } from './naming';

const createdAt = '2026-11-30T09:15:00.000Z';
const unnamed = firstName(new Date(createdAt));

/** Lines of a page, one under the other; the first one large. */
const read = (lines: string[], confidence = 0.99): ReadText => ({
  look: '',
  documentId: 'document-1',
  language: 'en',
  text: lines.join('\n'),
  unread: 0,
  photo: [],
  lines: lines.map((line, i) =>
    line.split(' ').map((word, k) => [word, 500 + 900 * k, 500 + 700 * i, 800, i ? 150 : 400, confidence] as const),
  ) as unknown as ReadText['lines'],
});
const docket = ['Delivery docket', 'Marram & Pole, timber merchants', '19 November 2026', 'Docket no. 4471'];

async function begin(also: Partial<Document> = {}) {
  const store = await aStore([
    { kind: 'document', record: aDocument(['page-1', 'page-2'], { name: unnamed, createdAt, ...also }) },
    ...['page-1', 'page-2'].map((id) => ({ kind: 'page' as const, record: aPage(id) })),
  ]);
  const document = () => store.getState().library.document['document-1']!;
  return { store, document, name: (pageId = 'page-1', text = read(docket)) => store.dispatch(nameUnasked(pageId, text)) };
}

test('a document that nobody has named gets what its first page says, and can have its old name back', async () => {
  const { store, document, name } = await begin();
  await name('page-2');
  expect(document().name).toBe(unnamed);
  await name();
  expect(document()).toMatchObject({ name: '2026-11-19 Delivery docket 4471', nameRead: '2026-11-19 Delivery docket 4471' });
  await store.dispatch(answerName(document(), unnamed));
  expect(document()).toMatchObject({ name: unnamed, nameRead: '' });
  // That was the last word.
  await name();
  expect(document().name).toBe(unnamed);
  // It was a step of the user's.
  await store.dispatch(undoLast('document-1'));
  expect(document().name).toBe('2026-11-19 Delivery docket 4471');
});

test('it is no step of the user’s: undo takes back what they did', async () => {
  const { store, document, name } = await begin();
  await store.dispatch(renameDocument(document(), 'Wren'));
  await store.dispatch(undoLast('document-1'));
  await name();
  await store.dispatch(undoLast('document-1'));
  expect(document().name).toBe('2026-11-19 Delivery docket 4471');
});

test.each([
  { why: 'somebody has named it', also: { name: 'Wren' } },
  { why: 'a word is doubtful', confidence: 0.78 },
  { why: 'two dates may be meant', lines: [...docket, '21 November 2026'] },
  { why: 'a date may be two days', lines: ['Delivery docket', '03/04/2026'] },
  { why: 'nothing on it is larger than the rest', lines: docket, flat: true },
])('it stays as it is where $why', async ({ also, lines = docket, confidence, flat }) => {
  const { document, name } = await begin(also);
  const before = document().name;
  const text = read(lines, confidence);
  if (flat) text.lines = text.lines.map((line) => line.map(([word, x, y, wide, , sure]) => [word, x, y, wide, 150, sure]));
  await name('page-1', text);
  expect(document().name).toBe(before);
});

test('by the pattern, or not at all where that is wanted', async () => {
  const { store, document, name } = await begin();
  const settings = () => store.getState().library.settings[settingsId]!;
  await store.dispatch(changeSettings(settings(), { namesUnasked: false }));
  await name();
  expect(document().name).toBe(unnamed);
  const namePattern: NamePattern = { parts: [{ kind: 'title' }, { kind: 'text', text: 'Wren' }], separator: ', ' };
  await store.dispatch(changeSettings(settings(), { namesUnasked: true, namePattern }));
  await name();
  expect(document().name).toBe('Delivery docket, Wren');
});
