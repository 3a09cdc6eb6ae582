import { render, screen } from '@testing-library/react';
import { VirtualList } from './VirtualList';

test('of ten thousand entries a few are drawn', () => {
  render(<VirtualList testID="l" count={10_000} keyOf={String} sizeOf={() => 100} render={(i) => <p>entry {i}</p>} />);
  expect(screen.getByText('entry 0')).toBeVisible();
  expect(screen.getAllByText(/entry/).length).toBeLessThan(40);
});
