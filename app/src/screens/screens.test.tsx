import { fireEvent, render, screen } from '@testing-library/react';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { opened } from '../state/library';
import { createStore } from '../state/store';
import { aDelivery, aDocument, anOutline, aPage, aPlace } from '../testing/records';
import { isPage, polygonFor, withCorner, withSide, within, type Quad } from './bench/quad';
import { NameLine } from './proof/NameLine';
import { dayInWords, fateOf, sizeInWords, sizesInWords } from './shelf/words';
import { readingOrder } from '../state/looking';

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
  ])('%s is %s', (iso, words) => expect(dayInWords(iso, now)).toBe(words));

  test('sizes by name, or in mm', () => {
    const made = { widthMm: 210, heightMm: 297, sizeName: 'a4', dpi: 200, filter: 'grey' as const };
    expect(sizeInWords(made)).toBe('A4');
    expect(sizeInWords({ ...made, sizeName: null, widthMm: 80, heightMm: 236.4 })).toBe('80 × 236 mm');
    expect(sizesInWords([aPage('page-a', { made }), aPage('page-b', { made: { ...made, sizeName: 'legal' } })])).toBe(
      'A4, Legal',
    );
  });

  test('what became of a document: what needs the user comes first', () => {
    const document = aDocument(['page-a']);
    const doubt = aPage('page-a', { checks: [{ id: 'no-page', severity: 'look', words: '' }] });
    const proof = {
      where: '',
      at: '2026-11-20T14:02:00',
      bytes: 1,
      sha256: 'ab'.repeat(32),
      how: 'read-back' as const,
      receipt: '',
    };
    const arrived = aDelivery('delivery-1', { state: 'arrived', proof });
    expect(fateOf(document, [aPage('page-a')], [], now)).toEqual({ tone: 'plain', words: 'On this device only' });
    expect(fateOf(document, [aPage('page-a')], [arrived], now)).toEqual({
      tone: 'good',
      words: 'Arrived in Yard records, 14:02',
    });
    expect(
      fateOf(document, [aPage('page-a')], [{ ...arrived, place: { ...aPlace, kind: 'mail', name: 'Workshop' } }], now).words,
    ).toBe('Mailed to Workshop, 14:02');
    expect(fateOf(document, [doubt], [arrived], now)).toEqual({ tone: 'attention', words: '1 page to settle' });
    expect(fateOf(document, [doubt], [arrived, aDelivery('delivery-2', { state: 'failed' })], now)).toEqual({
      tone: 'failed',
      words: 'Did not reach Yard records',
    });
    expect(fateOf(document, [aPage('page-a')], [aDelivery('delivery-3', { reason: 'No network' })], now).words).toBe(
      'Waiting: No network',
    );
  });
});

test('several pages of one photo come in reading order', () => {
  const at = (x: number, y: number) => anOutline({ quad: [[x, y], [x + 80, y], [x + 80, y + 50], [x, y + 50]] }); // prettier-ignore
  const [a, b, c, d] = [at(5, 8), at(100, 0), at(0, 70), at(102, 74)];
  expect(readingOrder([d, b, c, a])).toEqual([a, b, c, d]);
});

test('a name is changed in place: Enter keeps it, Escape does not', () => {
  const store = createStore();
  store.dispatch(opened({ records: [{ kind: 'document', record: aDocument([]) }], aside: [] }));
  const show = () => (
    <Provider store={store}>
      <PaperProvider>
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
