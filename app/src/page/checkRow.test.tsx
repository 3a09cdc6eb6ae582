import { fireEvent, screen } from '@testing-library/react';
import { checkOf, type Check } from '@libretto/model';
import { show } from '../testing/show';
import { CheckRow } from './CheckRow';

const onRemedy = jest.fn();
const onSettle = jest.fn();
const row = (check: Check, other: number | null = null, more = 0) =>
  show(<CheckRow check={check} other={other} more={more} onRemedy={onRemedy} onSettle={onSettle} />);

beforeEach(() => jest.clearAllMocks());

test.each([
  [checkOf({ id: 'blurred', severity: 'retake', value: 0.71 }), 'Blurred: edges 0.7 mm wide', 'Retake'],
  [checkOf({ id: 'cut-off', severity: 'look', value: 0.034 }), 'Cut off: 3.4% missing', null],
  [checkOf({ id: 'glare', severity: 'look', value: 0.25 }), 'Glare over 25%', null],
  [checkOf({ id: 'low-resolution', severity: 'look', value: 112.4 }), 'Low resolution: 112 dpi, 150 recommended', null],
  [checkOf({ id: 'sideways', severity: 'look', value: 90 }), 'May be sideways', null],
  [checkOf({ id: 'sideways', severity: 'look', value: 180 }), 'May be upside down', null],
])('%p is said in words, with what was measured', async (check, words, action) => {
  await row(check);
  expect(screen.getByTestId('check')).toHaveTextContent(words);
  if (action) expect(screen.getByRole('button', { name: action })).toBeVisible();
});

test('of two photos of one sheet the sharper one is named, and the remedy takes the other one out', async () => {
  const twin = (value: number): Check => ({ ...checkOf({ id: 'same-page', severity: 'look', value }), pageId: 'page-3' });
  const { unmount } = await row(twin(1.4), 3);
  expect(screen.getByTestId('check')).toHaveTextContent('Same as page 3, this one is sharper');
  fireEvent.click(screen.getByRole('button', { name: 'Remove page 3' }));
  expect(onRemedy).toHaveBeenCalledTimes(1);
  unmount();
  const second = await row(twin(0.6), 3);
  expect(screen.getByTestId('check')).toHaveTextContent('Same as page 3, page 3 is sharper');
  expect(screen.queryByRole('button', { name: 'Remove page 3' })).toBeNull();
  second.unmount();
  await row(twin(1.02), 3);
  expect(screen.getByTestId('check').textContent).not.toContain('sharper');
});

test('more doubts are counted, and one that is none is let be', async () => {
  await row(checkOf({ id: 'dark', severity: 'look', value: 60 }), null, 2);
  expect(screen.getByTestId('check')).toHaveTextContent('Taken in too little light · 2 more');
  fireEvent.click(screen.getByRole('button', { name: 'Keep as it is' }));
  expect(onSettle).toHaveBeenCalledTimes(1);
  expect(onRemedy).not.toHaveBeenCalled();
});
