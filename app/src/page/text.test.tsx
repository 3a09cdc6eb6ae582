import { screen } from '@testing-library/react';
import type { ReadText } from '../store/files';
import { aPage } from '../testing/records';
import { show } from '../testing/show';
import type { PageTextState } from '../work/usePageText';
import { countHits } from './finding';
import { TextDrawer } from './TextDrawer';

test.each([
  ['Larch, boat skin grade 32x220', 'larch', 1],
  ['Schlüssel und Größe', 'schlussel gro', 2],
  ['oak oaken soak', 'oak', 3],
  ['nothing', ' ', 0],
])('in “%s”, “%s” stands %i times', (text, query, count) => expect(countHits(text, query)).toBe(count));

const text = (part: Partial<ReadText> = {}): ReadText => ({
  look: '', documentId: 'document-1', language: 'de', text: 'Eiche grün\nLärche', unread: 0, photo: [],
  lines: [[['Eiche', 0, 0, 100, 50, 0.99], ['grün', 120, 0, 80, 50, 0.4]], [['Lärche', 0, 80, 100, 50, 0.95]]], ...part,
}); // prettier-ignore
const drawer = (read: Partial<PageTextState>, query = '') => (
  <TextDrawer
    page={aPage('page-a')}
    read={{ text: null, state: 'here', again: () => {}, ...read }}
    taken={null}
    query={query}
    onQuery={() => {}}
  />
);

test('what is uncertain, missing or not there is said', async () => {
  const { again } = await show(drawer({ text: text() }, 'lar'));
  expect(screen.getByText('1 of 3 words is uncertain, underlined')).toBeTruthy();
  expect(screen.getByText('1 place')).toBeTruthy();
  again(drawer({ text: text({ unread: 0.31 }) }));
  expect(screen.getByText('Part of this page could not be read: 31% of its print.')).toBeTruthy();
  again(drawer({ text: text({ lines: [], text: '' }) }));
  expect(screen.getByText('No text was found on this page.')).toBeTruthy();
  again(drawer({ state: 'failed' }));
  expect(screen.getByText('This page could not be read here.')).toBeTruthy();
  again(drawer({ state: 'reading' }));
  expect(screen.getByText('Reading the page')).toBeTruthy();
});
