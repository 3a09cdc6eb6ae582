import { act, fireEvent, screen } from '@testing-library/react';
import { show } from '../testing/show';
import { Field } from './Field';
import { Sheet } from './Sheet';

const closed = jest.fn();

beforeEach(async () => {
  closed.mockClear();
  await show(
    <Sheet title="A sheet" onClose={closed}>
      <Field label="Ours" />
    </Sheet>,
  );
});

test('the first Escape leaves the field, the next one closes the sheet', () => {
  const field = screen.getByRole('textbox', { name: 'Ours' });
  act(() => field.focus());
  expect(field).toHaveFocus();
  fireEvent.keyDown(field, { key: 'Escape' });
  expect(field).not.toHaveFocus();
  expect(closed).not.toHaveBeenCalled();
  fireEvent.keyDown(document.body, { key: 'Escape' });
  expect(closed).toHaveBeenCalledTimes(1);
});
