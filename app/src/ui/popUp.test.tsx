import { fireEvent, screen, waitFor } from '@testing-library/react';
import { useState } from 'react';
import { Button } from 'react-native-paper';
import { show } from '../testing/show';
import { PopUp } from './PopUp';

/** Drawn anew while its menu is open, with another `onClose` each time. */
function Owner() {
  const [open, setOpen] = useState(true);
  const [times, setTimes] = useState(0);
  return (
    <>
      <Button onPress={() => setTimes(times + 1)}>{`drawn ${times}`}</Button>
      {open ? <PopUp label="More" at={{ x: 5, y: 5 }} entries={[{ title: 'Move', onPress() {} }]} onClose={() => setOpen(false)} /> : null}
    </>
  ); // prettier-ignore
}

test('Escape closes a menu whose owner was drawn anew meanwhile', async () => {
  // jsdom lays nothing out; the library waits for a size.
  for (const [name, value] of [['offsetWidth', 80], ['offsetHeight', 40]] as const) Object.defineProperty(HTMLElement.prototype, name, { configurable: true, value }); // prettier-ignore
  jest.spyOn(HTMLElement.prototype, 'getBoundingClientRect').mockReturnValue({ x: 5, y: 5, left: 5, top: 5, width: 80, height: 40 } as DOMRect); // prettier-ignore
  await show(<Owner />);
  await waitFor(() => expect(screen.getByRole('menuitem', { name: 'Move' })).toHaveFocus());
  fireEvent.click(screen.getByText('drawn 0'));
  await screen.findByText('drawn 1');
  expect(screen.getByText('Move')).toBeInTheDocument();
  fireEvent.keyUp(document, { key: 'Escape' });
  await waitFor(() => expect(screen.queryByText('Move')).toBeNull());
});
