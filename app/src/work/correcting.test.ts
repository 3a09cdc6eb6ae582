import { getText, photoGrid, type ReadText } from '../store/files';
import { undoLast } from '../store/change';
import { aDocument, aPage, aPhoto } from '../testing/records';
import { aStore } from '../testing/store';
import { corrected, correctWord } from './correcting';
import { textLook } from './reading';

/** A page that lies in its photo shifted by 100 px and 2000 px large. */
const photo = Array.from({ length: photoGrid * photoGrid }, (_, i) => [100 + ((i % photoGrid) * 2000) / (photoGrid - 1), 100 + (Math.floor(i / photoGrid) * 2000) / (photoGrid - 1)]).flat(); // prettier-ignore
const read: ReadText = {
  look: '',
  documentId: 'document-1',
  language: 'en',
  unread: 0,
  photo,
  lines: [
    [['Stern', 1000, 1000, 500, 200, 0.99], ['tubc', 1600, 1000, 500, 200, 0.4]],
    [['No', 1000, 2000, 300, 200, 0.99], ['G671', 1400, 2000, 400, 200, 0.5], ['~', 1900, 2000, 50, 200, 0.2]],
  ],
  text: 'Stern tubc\n\nNo G671 ~',
}; // prettier-ignore
const middle = (x: number, y: number): [number, number] => [100 + (x / 10_000) * 2000, 100 + (y / 10_000) * 2000];

test('a correction goes to the word on its place of the photo; paragraphs stay, and what is no word goes', () => {
  const fixed = corrected(read, [
    { at: middle(1850, 1100), text: 'tube' },
    { at: middle(1600, 2100), text: '0671' },
    { at: middle(1925, 2100), text: '' },
    { at: [5, 5], text: 'nowhere' },
  ]);
  expect(fixed.text).toBe('Stern tube\n\nNo 0671');
  expect(fixed.lines[0]![1]).toEqual(['tube', 1600, 1000, 500, 200, 1]);
  expect(read.lines[0]![1]![0]).toBe('tubc');
});

test('it is a step that can be undone, and nothing is read anew for it', async () => {
  const page = aPage('page-0001', { photoId: 'photo-0001' });
  const store = await aStore([
    { kind: 'document', record: aDocument(['page-0001']) },
    { kind: 'page', record: page },
    { kind: 'photo', record: aPhoto('photo-0001') },
  ]);
  await store.dispatch(correctWord(page, read, 0, 1, ' tube '));
  const now = () => store.getState().library.page['page-0001']!;
  expect(now().corrections).toEqual([{ at: [470, 320], text: 'tube' }]);
  expect(await getText('page-0001')).toMatchObject({ text: 'Stern tube\n\nNo G671 ~', look: textLook(now()) });
  expect(store.getState().session.texts['page-0001']).toBe(textLook(now()));
  // Once more for the same word takes the place of the first.
  await store.dispatch(correctWord(now(), (await getText('page-0001'))!, 0, 1, 'tubes'));
  expect(now().corrections).toEqual([{ at: [470, 320], text: 'tubes' }]);
  await store.dispatch(undoLast('document-1'));
  await store.dispatch(undoLast('document-1'));
  expect(now().corrections).toBeUndefined();
  // What was read is another page's now: it is read anew.
  expect((await getText('page-0001'))!.look).not.toBe(textLook(now()));
});
