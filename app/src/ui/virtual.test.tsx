import { act, fireEvent, render, screen } from '@testing-library/react';
import { VirtualList } from './VirtualList';

const list = (remembers?: string) => (
  <VirtualList
    testID="l"
    count={10_000}
    keyOf={String}
    sizeOf={() => 100}
    render={(i) => <p>entry {i}</p>}
    {...(remembers && { remembers })}
  />
);

test('of ten thousand entries a few are drawn', () => {
  render(list());
  expect(screen.getByText('entry 0')).toBeVisible();
  expect(screen.getAllByText(/entry/).length).toBeLessThan(40);
});

test('a list that is left and come back to is where it was; another one begins at its beginning', async () => {
  const { unmount } = render(list('one'));
  const scroller = screen.getByTestId('l');
  await act(async () => {
    scroller.scrollTop = 50_000;
    fireEvent.scroll(scroller);
  });
  expect(await screen.findByText('entry 501')).toBeInTheDocument();
  unmount();
  const again = render(list('one'));
  expect(screen.getByText('entry 501')).toBeInTheDocument();
  again.unmount();
  render(list('two'));
  expect(screen.getByText('entry 0')).toBeVisible();
});
