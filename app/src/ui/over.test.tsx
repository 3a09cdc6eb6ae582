import { act, fireEvent, screen } from '@testing-library/react';
import { useState } from 'react';
import { Pressable, TextInput, View } from 'react-native';
import { Text } from 'react-native-paper';
import { show } from '../testing/show';
import { Over } from './Over';
import { useKeys } from './useKeys';

const turned = jest.fn();
const left = jest.fn();

function PageWithSheet() {
  const [open, setOpen] = useState(false);
  useKeys({ r: turned, escape: left });
  return (
    <View>
      <Pressable role="button" onPress={() => setOpen(true)}>
        <Text>Open</Text>
      </Pressable>
      {open ? (
        <Over label="A sheet" maxWidth={400} onClose={() => setOpen(false)}>
          <TextInput aria-label="A line" />
        </Over>
      ) : null}
    </View>
  );
}

beforeEach(async () => {
  jest.clearAllMocks();
  await show(<PageWithSheet />);
  act(() => screen.getByRole('button', { name: 'Open' }).focus());
});
const open = () => fireEvent.click(screen.getByRole('button', { name: 'Open' }));

test('a page has its keys, until something lies over it', () => {
  fireEvent.keyDown(document.body, { key: 'r' });
  expect(turned).toHaveBeenCalledTimes(1);
  open();
  expect(screen.getByRole('dialog', { name: 'A sheet' })).toContainElement(screen.getByLabelText('A line'));
  fireEvent.keyDown(document.body, { key: 'r' });
  expect(turned).toHaveBeenCalledTimes(1);
});

test('Escape closes what lies over the page, not the page; then the focus is where it was', () => {
  open();
  act(() => screen.getByLabelText('A line').focus());
  // Whoever types means the line.
  fireEvent.keyDown(screen.getByLabelText('A line'), { key: 'Escape' });
  expect(screen.getByRole('dialog')).toBeInTheDocument();
  act(() => screen.getByLabelText('A line').blur());
  fireEvent.keyDown(document.body, { key: 'Escape' });
  expect(screen.queryByRole('dialog')).toBeNull();
  expect(left).not.toHaveBeenCalled();
  expect(screen.getByRole('button', { name: 'Open' })).toHaveFocus();
  fireEvent.keyDown(document.body, { key: 'Escape' });
  expect(left).toHaveBeenCalledTimes(1);
});
