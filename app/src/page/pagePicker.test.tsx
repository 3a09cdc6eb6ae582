import { fireEvent, screen } from '@testing-library/react';
import type { Page } from '@libretto/model';
import { aPage } from '../testing/records';
import { show } from '../testing/show';
import { PagePicker } from './PagePicker';

const shownWith: unknown[] = [];
jest.mock('../work/usePageImage', () => ({
  usePageImage: (page: Page) => {
    shownWith.push(page.recipe);
    return { url: `blob:${page.id}`, current: true, image: null, problem: null };
  },
}));

const all = ['page-a', 'page-b', 'page-c'].map((id) => aPage(id));
const onUse = jest.fn();
const onClose = jest.fn();
beforeEach(async () => {
  jest.clearAllMocks();
  shownWith.length = 0;
  await show(
    <PagePicker
      title="Grey for these pages?"
      pages={all.slice(1)}
      all={all}
      recipeFor={(page) => ({ ...page.recipe!, filter: 'grey' })}
      onUse={onUse}
      onClose={onClose}
    />,
  );
});

test('each page is shown as it would be, under its own number, and all are chosen', () => {
  expect(screen.getByText('Grey for these pages?')).toBeVisible();
  for (const folio of [2, 3]) expect(screen.getByRole('checkbox', { name: `Page ${folio}` })).toHaveAttribute('aria-checked', 'true'); // prettier-ignore
  expect(screen.queryByRole('checkbox', { name: 'Page 1' })).toBeNull();
  expect(shownWith.every((recipe) => (recipe as { filter: string }).filter === 'grey')).toBe(true);
});

test('one is left out, and the others are changed', () => {
  fireEvent.click(screen.getByRole('checkbox', { name: 'Page 2' }));
  fireEvent.click(screen.getByRole('button', { name: 'Use for 1' }));
  expect(onUse).toHaveBeenCalledWith([all[2]]);
  expect(onClose).toHaveBeenCalledTimes(1);
});

test('with none chosen there is nothing to use; leaving changes nothing', () => {
  fireEvent.click(screen.getByRole('checkbox', { name: 'Page 2' }));
  fireEvent.click(screen.getByRole('checkbox', { name: 'Page 3' }));
  fireEvent.click(screen.getByRole('button', { name: 'Use for 0' }));
  expect(onUse).not.toHaveBeenCalled();
  fireEvent.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(onClose).toHaveBeenCalledTimes(1);
  expect(onUse).not.toHaveBeenCalled();
});
