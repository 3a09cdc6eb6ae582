import type { Mark, Page } from '@libretto/model';
import { getText, putText, type ReadText } from '../store/files';
import { anOutline, aPage } from '../testing/records';
import { emptyStorage } from '../testing/store';
import { isReadable, textLook, textOfPage } from './reading';

const page = aPage('page-a');
const withRecipe = (part: Partial<NonNullable<Page['recipe']>>): Page => ({ ...page, recipe: { ...page.recipe!, ...part } });
const pen: Mark = { kind: 'ink', id: 'mark-1', points: [[1, 1]], widthMm: 1, colour: 'red' };
const cover: Mark = { kind: 'cover', id: 'mark-2', from: [1, 1], to: [9, 9], fill: 'black' };
const read = (of: Page): ReadText => ({ look: textLook(of), documentId: 'document-1', language: 'en', lines: [[['Oak', 0, 0, 100, 50, 0.9]]], text: 'Oak', unread: 0, photo: [] }); // prettier-ignore

test.each<[string, Page]>([
  ['another filter', withRecipe({ filter: 'ink' })],
  ['brightness', withRecipe({ adjust: { brightness: 0.3 } })],
  ['a stroke of the pen', withRecipe({ marks: [pen] })],
])('%s: the page is not read anew', (_, other) => expect(textLook(other)).toBe(textLook(page)));

test.each<[string, Page]>([
  ['other edges', withRecipe({ outline: anOutline({ quad: [[0, 0], [90, 10], [90, 130], [10, 130]] }) })], // prettier-ignore
  ['a turn', withRecipe({ turn: 90 })],
  ['a cover', withRecipe({ marks: [cover] })],
  ['another photo', { ...page, photoId: 'photo-2' }],
])('%s: what was read before does not count', async (_, other) => {
  await emptyStorage();
  await putText(page.id, read(page));
  expect(await textOfPage(page)).toMatchObject({ text: 'Oak' });
  expect(await textOfPage(other)).toBeNull();
  expect(await getText(page.id)).toBeDefined();
});

test('what is deleted, or not found yet, is not read', () => {
  expect([page, { ...page, deletedAt: '2026-11-29T00:00:00.000Z' }, { ...page, state: 'looking' as const }, { ...page, recipe: null }].map(isReadable)) // prettier-ignore
    .toEqual([true, false, false, false]);
});
