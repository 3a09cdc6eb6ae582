import { fireEvent, render, screen } from '@testing-library/react';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { checks } from '@libretto/model';
import { aDocument, anOutline, aPage } from '../testing/records';
import { isPage, polygonFor, withCorner, withSide, within, type Quad } from '../page/quad';
import { NameLine } from './NameLine';
import {
  checkInWords,
  dayInWords,
  stretchInWords,
  fateInWords,
  fileSize,
  problemAlone,
  sizeInWords,
  sizesInWords,
  sizesOf,
} from '../ui/words/format';
import { lightTheme } from '../ui/theme';
import { say } from '../ui/words/words';
import { aStore } from '../testing/store';

const square: Quad = [[0, 0], [100, 0], [100, 100], [0, 100]]; // prettier-ignore

describe('the outline under the finger', () => {
  test('a corner goes where it is put, a side moves parallel to itself', () => {
    expect(withCorner(square, 2, [120, 130])[2]).toEqual([120, 130]);
    expect(withSide(square, 0, [30, -10])).toEqual([[0, -10], [100, -10], [100, 100], [0, 100]]); // prettier-ignore
    const skewed: Quad = [[0, 0], [100, 0], [120, 100], [-20, 100]]; // prettier-ignore
    const moved = withSide(skewed, 2, [0, 50]);
    expect(moved[2]).toEqual([130, 150]);
    expect(moved[3]).toEqual([-30, 150]);
  });

  test('a curved outline follows its corners and keeps its curve', () => {
    const polygon = [0, 1, 2, 3].flatMap((i) =>
      [0, 0.25, 0.5, 0.75].map((t): [number, number] => {
        const [a, b] = [square[i]!, square[(i + 1) % 4]!];
        return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t + (i === 0 ? -8 * t * (1 - t) : 0)];
      }),
    );
    const outline = anOutline({ quad: square, polygon });
    const moved = polygonFor(outline, withCorner(square, 1, [120, -20]))!;
    expect(moved[0]).toEqual([0, 0]);
    expect(moved[2]).toEqual([60, -12]);
    expect(moved[4]).toEqual([120, -20]);
    expect(moved[8]).toEqual([100, 100]);
    expect(polygonFor(anOutline(), square)).toBeUndefined();
  });

  test('crossing, folded and mirrored outlines are no page', () => {
    expect(isPage(square)).toBe(true);
    expect(isPage(withCorner(square, 0, [150, 150]))).toBe(false);
    expect(isPage([square[1], square[0], square[3], square[2]])).toBe(false);
    expect(isPage(withCorner(square, 1, [50, 0.05]))).toBe(true);
    expect(isPage(withCorner(square, 1, [50, 60]))).toBe(false);
  });

  test('corners stay within a quarter of the photo round it', () => {
    expect(within([-900, 5000], 1000, 2000)).toEqual([-500, 2500]);
  });
});

describe('words', () => {
  const now = new Date('2026-11-20T15:00:00');
  test.each([
    ['2026-11-20T01:00:00', 'Today'],
    ['2026-11-19T23:59:00', 'Yesterday'],
    ['2026-11-16T12:00:00', 'Monday'],
    ['2026-10-02T12:00:00', '2 October 2026'],
  ])('%s is %s', (iso, words) => expect(dayInWords(say, iso, now)).toBe(words));

  test('a week goes from its Monday to its Sunday, a month has its name', () => {
    expect(stretchInWords(say, '2026-11-22T23:00:00', 'week', now)).toMatch(/^16\s*–\s*22 November 2026$/);
    expect(stretchInWords(say, '2026-11-22T23:00:00', 'month', now)).toBe('November 2026');
    expect(stretchInWords(say, '2026-11-19T23:00:00', 'day', now)).toBe('Yesterday');
  });

  test('sizes by name, or in mm', () => {
    const made = { widthMm: 210, heightMm: 297, sizeName: 'a4', dpi: 200, filter: 'grey' as const };
    expect(sizeInWords(say, made)).toBe('A4');
    expect(sizeInWords(say, { ...made, sizeName: null, widthMm: 80, heightMm: 236.4 })).toBe('80 × 236 mm');
    expect(
      sizesInWords(say, sizesOf([aPage('page-a', { made }), aPage('page-b', { made: { ...made, sizeName: 'legal' } })])),
    ).toBe('A4, Legal');
  });

  test('what became of a document', () => {
    const at = '2026-11-20T14:02:00';
    const words = (fate: Parameters<typeof fateInWords>[1]) => fateInWords(say, fate, now);
    expect(words({ code: 'device' })).toEqual({ tone: 'plain', words: 'On this device only' });
    expect(words({ code: 'arrived', kind: 'folder', place: 'Yard records', at })).toEqual({
      tone: 'good',
      words: 'Arrived in Yard records, 14:02',
    });
    expect(words({ code: 'arrived', kind: 'mail', place: 'Workshop', at: '2026-11-18T14:02:00' }).words).toMatch(
      /^Mailed to Workshop, 18 Nov/,
    );
    expect(words({ code: 'doubts', pages: 1 })).toEqual({ tone: 'attention', words: '1 page to check' });
    expect(words({ code: 'failed', place: 'Yard records' }).words).toBe('Did not reach Yard records');
    expect(words({ code: 'waiting', reason: { code: 'offline' } }).words).toBe('Waiting: no network');
    expect(words({ code: 'waiting', reason: { code: 'server-full', said: 'The yard is full' } }).words).toBe(
      'Waiting: The yard is full',
    );
  });

  test.each([
    [999, '999 byte'],
    [311_200, '311 kB'],
    [2_140_000, '2.1 MB'],
    [26_400_000, '26 MB'],
  ])('%i bytes are %s', (size, words) => expect(fileSize(size)).toBe(words));

  test('a problem is said by its code; one that is not known, as the other side said it', () => {
    expect(problemAlone(say, { code: 'damaged' })).toBe('The picture is damaged and cannot be read');
    expect(problemAlone(say, { code: 'server-421', said: 'try later' })).toBe('Try later');
    expect(problemAlone(say, { code: 'server-550', said: 'yard@saltmarsh.example.org: refused' })).toBe(
      'yard@saltmarsh.example.org: refused',
    );
    expect(problemAlone(say, { code: 'never-heard-of' })).toBe('Never-heard-of');
  });

  test('every check has words, with and without a figure', () => {
    for (const { id } of checks)
      for (const value of [undefined, 0.5]) {
        const words = checkInWords(say, { id, severity: 'look', ...(value && { value }) });
        expect(words).toMatch(/^[A-Z]/);
        expect(words).not.toMatch(/check\.|\{\{|By$/);
      }
  });
});

test('a name is changed in place: Enter keeps it, Escape does not', async () => {
  const store = await aStore([{ kind: 'document', record: aDocument([]) }]);
  const show = () => (
    <Provider store={store}>
      <PaperProvider theme={lightTheme}>
        <NameLine document={store.getState().library.document['document-1']!} />
      </PaperProvider>
    </Provider>
  );
  const { rerender } = render(show());
  fireEvent.click(screen.getByLabelText('Change the name'));
  fireEvent.change(screen.getByLabelText('Name of the document'), { target: { value: 'Wren' } });
  fireEvent.keyDown(screen.getByLabelText('Name of the document'), { key: 'Escape' });
  rerender(show());
  expect(screen.getByRole('heading')).toHaveTextContent('Hull survey');
  fireEvent.click(screen.getByLabelText('Change the name'));
  fireEvent.change(screen.getByLabelText('Name of the document'), { target: { value: 'Wren' } });
  fireEvent.blur(screen.getByLabelText('Name of the document'));
  rerender(show());
  expect(screen.getByRole('heading')).toHaveTextContent('Wren');
});
