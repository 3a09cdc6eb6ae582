import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import type { ReadText } from '../store/files';
import { undoLast } from '../store/change';
import { aDocument, aPage } from '../testing/records';
import { show } from '../testing/show';
import { RenameSheet } from './RenameSheet';

const mockTexts: Record<string, ReadText['lines']> = {};
jest.mock('../work/reading', () => ({
  isReadable: (page: unknown) => Boolean(page),
  readText: (page: { id: string }) => () => Promise.resolve({ lines: mockTexts[page.id] ?? [] }),
}));

/** Lines of one height, each word as sure as said. */
const lines = (confidence: number, ...texts: [string, number][]): ReadText['lines'] =>
  texts.map(([text, height], row) => text.split(' ').map((word, i) => [word, 800 + i * 900, 500 + row * 600, 800, height, confidence] as never)); // prettier-ignore

test('names by the pattern stand beside the old ones; a doubtful one is taken only when it is ticked; one step takes all back', async () => {
  const sheet = (confidence: number) => lines(confidence, ['Hull survey report', 260], ['19 November 2026', 120], ['The planking is sound and dry', 110]); // prettier-ignore
  mockTexts['page-1'] = sheet(0.99);
  mockTexts['page-2'] = sheet(0.99);
  mockTexts['page-4'] = sheet(0.6);
  const done = jest.fn();
  const records = [1, 2, 3, 4].flatMap((n) => [
    { kind: 'document' as const, record: aDocument([`page-${n}`], { id: `document-${n}`, name: `Scan ${n}` }) },
    { kind: 'page' as const, record: aPage(`page-${n}`, { documentId: `document-${n}` }) },
  ]);
  const first = await show(<div />, records);
  const summaries = Object.values(first.store.getState().library.summary).sort((a, b) => a.id.localeCompare(b.id));
  first.again(<RenameSheet documents={summaries} onClose={jest.fn()} onDone={done} />);
  await screen.findByText('Nothing for a name was read');
  const rows = await screen.findAllByRole('checkbox', { name: /Scan/ });
  await waitFor(() => expect(screen.getByRole('button', { name: /^Rename/ })).not.toHaveAttribute('aria-disabled', 'true'));
  const names = rows.map((row) => row.getAttribute('aria-label'));
  expect(names[0]).toMatch(/^Scan 1 becomes 2026-11-19 Hull survey report/);
  expect(names[1]).toMatch(/^Scan 2 becomes 2026-11-19 Hull survey report.* \(2\)$/);
  expect(names[2]).toBe('Scan 3');
  expect(rows.map((row) => row.getAttribute('aria-checked'))).toEqual(['true', 'true', 'false', 'false']);
  fireEvent.click(rows[1]!);
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Rename 1' })));
  const now = () => summaries.map(({ id }) => first.store.getState().library.summary[id]!.name);
  expect(now()).toEqual([expect.stringContaining('Hull survey report'), 'Scan 2', 'Scan 3', 'Scan 4']);
  expect(done).toHaveBeenCalled();
  await act(async () => void (await first.store.dispatch(undoLast())));
  expect(now()).toEqual(['Scan 1', 'Scan 2', 'Scan 3', 'Scan 4']);
});
