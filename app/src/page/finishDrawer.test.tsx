import { fireEvent, screen } from '@testing-library/react';
import type { Page } from '@libretto/model';
import { aDocument, aPage } from '../testing/records';
import { show } from '../testing/show';
import { FinishDrawer, type FinishDrawerProps } from './FinishDrawer';

jest.mock('../work/usePageImage', () => ({
  usePageImage: (page: Page) => ({ url: 'blob:x', current: true, problem: null, image: { tidied: page.recipe!.tidy === false ? 0 : 2 } }),
})); // prettier-ignore

const details: FinishDrawerProps['details'] = {
  auto: 'grey',
  why: 'no colour to lose',
  urls: { grey: 'blob:grey', ink: 'blob:ink' },
  at: [0.5, 0.5],
  problem: null,
} as never;

async function drawer(part: Partial<Page['recipe'] & object> = {}, others: string[] = []) {
  const page = aPage('page-a', { recipe: { ...aPage('x').recipe!, ...part } });
  const all = [page, ...others.map((id) => aPage(id))];
  const turned = { adjust: page.recipe!.adjust, onMove: jest.fn(), onSet: jest.fn() };
  const onPainting = jest.fn();
  const shown = await show(
    <FinishDrawer
      page={page}
      details={details}
      width={390}
      adjusting={turned}
      others={all.slice(1)}
      all={all}
      painting={null}
      onPainting={onPainting}
    />,
    [...all.map((record) => ({ kind: 'page' as const, record })), { kind: 'document', record: aDocument(all.map((p) => p.id)) }],
  );
  const recipe = (id = 'page-a') => shown.store.getState().library.page[id]!.recipe!;
  return { ...shown, recipe, turned, onPainting };
}

test('Auto says what it picked and why, and its filter is the one that is on', async () => {
  await drawer();
  expect(screen.getByTestId('why')).toHaveTextContent('Auto: Grey, no colour to lose');
  expect(screen.getByRole('radio', { name: /^Grey/ })).toHaveAttribute('aria-checked', 'true');
  expect(screen.getAllByRole('radio').filter((r) => r.getAttribute('aria-checked') === 'true')).toHaveLength(1);
});

test('a tap on a detail chooses its filter; Auto can be let pick again', async () => {
  const { recipe, unmount } = await drawer();
  fireEvent.click(screen.getByRole('radio', { name: /^Ink/ }));
  expect(recipe().filter).toBe('ink');
  unmount();
  const second = await drawer({ filter: 'ink' });
  fireEvent.click(screen.getByRole('button', { name: /Use Auto$/ }));
  expect(second.recipe().filter).toBe('auto');
});

test('a filter keeps what was turned on it', async () => {
  const { recipe } = await drawer({ filter: 'grey', adjust: { contrast: 0.3 } });
  fireEvent.click(screen.getByRole('radio', { name: /^Board/ }));
  expect(recipe()).toMatchObject({ filter: 'board', adjust: { contrast: 0.3 } });
});

test('tidied places are counted, and tidying is switched off', async () => {
  const { recipe } = await drawer();
  expect(screen.getByText('2 places filled with paper')).toBeVisible();
  fireEvent.click(screen.getByRole('switch', { name: 'Tidy edges' }));
  expect(recipe().tidy).toBe(false);
});

test('what is only cut out is not tidied or painted', async () => {
  await drawer({ filter: 'original' });
  expect(screen.queryByRole('switch', { name: 'Tidy edges' })).toBeNull();
  expect(screen.queryByRole('button', { name: /Fill by hand$/ })).toBeNull();
});

test('painting begins by what it does; strokes can all be taken away', async () => {
  const { onPainting, recipe } = await drawer({ touches: [{ kind: 'fill', points: [[1500, 2000]], radius: 60 }] });
  fireEvent.click(screen.getByRole('button', { name: /Keep by hand$/ }));
  expect(onPainting).toHaveBeenCalledWith('keep');
  fireEvent.click(screen.getByRole('button', { name: 'Remove strokes' }));
  expect(recipe().touches ?? []).toEqual([]);
});

test('sliders tell what they are turned to, and reset', async () => {
  const { turned } = await drawer({ filter: 'grey', adjust: { contrast: 0.3 } });
  const contrast = screen.getByRole('slider', { name: 'Contrast' });
  expect(contrast).toHaveAttribute('aria-valuetext', '30 percent');
  fireEvent.change(contrast, { target: { value: '0.5' } });
  expect(turned.onMove).toHaveBeenLastCalledWith({ contrast: 0.5 });
  fireEvent.click(screen.getByRole('button', { name: 'Reset' }));
  expect(turned.onSet).toHaveBeenLastCalledWith(undefined);
  // Grey paper has no warmth.
  expect(screen.queryByRole('slider', { name: 'Paper warmth' })).toBeNull();
});

test('used for some pages after each was shown', async () => {
  const { recipe } = await drawer({ filter: 'grey' }, ['page-b', 'page-c']);
  fireEvent.click(screen.getByRole('button', { name: /Use for some pages$/ }));
  fireEvent.click(screen.getByRole('checkbox', { name: 'Page 2' }));
  fireEvent.click(screen.getByRole('button', { name: 'Use for 1' }));
  expect([recipe('page-b').filter, recipe('page-c').filter]).toEqual(['auto', 'grey']);
});

test('one stop for Tab; arrows go through the filters and choose them', async () => {
  const { recipe } = await drawer({ filter: 'grey' });
  const radios = screen.getAllByRole('radio');
  expect(radios.filter((r) => r.tabIndex === 0)).toEqual([screen.getByRole('radio', { name: /^Grey/ })]);
  fireEvent.keyDown(screen.getByRole('radio', { name: /^Grey/ }), { key: 'ArrowRight' });
  expect(recipe().filter).toBe('ink');
  fireEvent.keyDown(screen.getByRole('radio', { name: /^Ink/ }), { key: 'Home' });
  expect(recipe().filter).toBe('original');
});
