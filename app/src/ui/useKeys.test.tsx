import { fireEvent, render } from '@testing-library/react';
import { useKeys } from './useKeys';

const pressed: string[] = [];
function Screen() {
  useKeys({
    'mod+z': () => pressed.push('back'),
    'mod+shift+z': () => pressed.push('again'),
    'mod+a': () => pressed.push('all'),
    'shift+delete': () => pressed.push('gone'),
  });
  return null;
}

test('with Shift another key, where there is one', () => {
  render(<Screen />);
  const press = (key: string, held: object) => fireEvent.keyDown(document.body, { key, ...held });
  press('z', { ctrlKey: true });
  press('Z', { ctrlKey: true, shiftKey: true });
  press('Z', { metaKey: true, shiftKey: true });
  press('A', { ctrlKey: true, shiftKey: true });
  press('Delete', { shiftKey: true });
  press('z', {});
  expect(pressed).toEqual(['back', 'again', 'again', 'all', 'gone']);
});
