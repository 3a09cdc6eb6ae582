import { act, fireEvent, screen } from '@testing-library/react';
import { emptyShelf, firstNamePattern, patternIn, type Folder, type NamePattern } from '@libretto/model';
import { undoLast } from '../store/change';
import { foldersOf } from '../store/filing';
import { show } from '../testing/show';
import { FolderNames } from './FolderNames';

const createdAt = '2026-11-01T09:00:00.000Z';
const outer: Folder = { id: 'folder-1', name: 'Invoices', parent: null, createdAt };
const inner: Folder = { ...outer, id: 'folder-2', name: '2026', parent: outer.id };
const numbered: NamePattern = { parts: [{ kind: 'number' }, { kind: 'title' }], separator: '_' };

test('a folder names as it says, else as the nearest that it lies in, else as everywhere', () => {
  const folders = { [outer.id]: { ...outer, namePattern: numbered }, [inner.id]: inner };
  expect(patternIn(folders, inner.id, firstNamePattern)).toBe(numbered);
  expect(patternIn(folders, undefined, firstNamePattern)).toBe(firstNamePattern);
  const own: NamePattern = { parts: [{ kind: 'date' }], separator: ' ' };
  expect(patternIn({ ...folders, [inner.id]: { ...inner, namePattern: own } }, inner.id, firstNamePattern)).toBe(own);
});

test('a way of its own begins as names were built there before, is changed, put away and undone', async () => {
  const record = { ...emptyShelf, folders: { [outer.id]: { ...outer, namePattern: numbered }, [inner.id]: inner } };
  const { store } = await show(<FolderNames folder={inner} onClose={jest.fn()} />, [{ kind: 'shelf', record }]);
  const kept = () => foldersOf(store.getState())[inner.id]?.namePattern;
  const press = (role: string, name: string | RegExp) => act(async () => void fireEvent.click(screen.getByRole(role, { name })));
  expect(screen.queryByTestId('name-example')).toBeNull();
  await press('switch', 'Built in a way of their own');
  expect(kept()).toEqual(numbered);
  await press('button', /Number on the page: leave out/);
  expect(kept()).toEqual({ ...numbered, parts: [{ kind: 'title' }] });
  await press('switch', 'Built in a way of their own');
  expect(kept()).toBeUndefined();
  await act(async () => void (await store.dispatch(undoLast())));
  expect(kept()?.parts).toEqual([{ kind: 'title' }]);
});
