import { act, fireEvent, screen, waitFor } from '@testing-library/react';
import { emptyShelf, placesAnswerSchema, type Folder } from '@libretto/model';
import { aDocument, aPage, aPlace } from '../testing/records';
import { show } from '../testing/show';
import type { Store } from '../store/store';
import { AddressGroups } from './AddressGroups';
import { FolderSends } from './FolderSends';
import { SendSeveral } from './SendSeveral';

const mockNavigate = jest.fn();
const mockMade = jest.fn((document: { name: string }) =>
  document.name === 'Torn'
    ? Promise.reject(new Error('no photo'))
    : Promise.resolve([{ fileName: `${document.name}.pdf`, blob: new Blob(['pdf']), sha256: 'ab'.repeat(32) }]),
);
jest.mock('expo-router', () => ({ useRouter: () => ({ navigate: mockNavigate }) }));
jest.mock('../work/exporting', () => ({ makeFiles: (document: { name: string }) => mockMade(document) }));

const mail = { ...aPlace, id: 'insurer', name: 'Owner and insurer', kind: 'mail' as const, typed: true };
const folder: Folder = { id: 'folder-1', name: 'Invoices', parent: null, createdAt: '2026-11-01T09:00:00.000Z' };
const paper = (n: number, name: string, ready = true) => [
  { kind: 'document' as const, record: aDocument([`page-${n}`], { id: `document-${n}`, name }) },
  { kind: 'page' as const, record: aPage(`page-${n}`, { documentId: `document-${n}`, ...(!ready && { state: 'looking' as const }) }) }, // prettier-ignore
];

beforeEach(() => {
  jest.clearAllMocks();
  AbortSignal.timeout ??= () => new AbortController().signal;
  const answer = placesAnswerSchema.parse({ places: [aPlace, mail] });
  globalThis.fetch = jest.fn(() => Promise.resolve({ ok: true, status: 200, json: () => Promise.resolve(answer) })) as never;
});
const deliveries = (store: Store) => Object.values(store.getState().library.delivery);
const place = (name: RegExp) => screen.findByRole('checkbox', { name });

test('several documents go to a place as a file each; what cannot be made is named, the others go all the same', async () => {
  const end = jest.fn();
  const { store } = await show(<SendSeveral ids={['document-1', 'document-2', 'document-3', 'document-4']} onClose={end} />, [
    ...paper(1, 'Hull survey'),
    ...paper(2, 'Torn'),
    ...paper(3, 'Half', false),
    ...paper(4, 'Paint chart'),
  ]);
  expect(screen.getByText('Hull survey · Torn · Half · Paint chart')).toBeVisible();
  fireEvent.click(await place(/Yard records/));
  fireEvent.click(screen.getByRole('button', { name: 'Send 4 documents, a file each' }));
  await waitFor(() => expect(end).toHaveBeenCalledWith(true));
  expect(deliveries(store).map((d) => [d.documentId, d.fileName])).toEqual([
    ['document-1', 'Hull survey.pdf'],
    ['document-4', 'Paint chart.pdf'],
  ]);
  expect(mockNavigate).toHaveBeenCalledWith('/outbox');
  expect(store.getState().session.notice).toMatchObject({
    code: 'notice.notAllSent',
    values: { count: 2, name: 'Torn' },
  });
});

test('a mail account wants an address before anything goes', async () => {
  await show(<SendSeveral ids={['document-1']} onClose={jest.fn()} />, paper(1, 'Hull survey'));
  fireEvent.click(await place(/Owner and insurer/));
  const press = screen.getByRole('button', { name: 'Send 1 document' });
  expect(press).toHaveAttribute('aria-disabled', 'true');
  fireEvent.change(screen.getByRole('textbox', { name: 'To: addresses' }), { target: { value: 'office@harbour.example' } });
  expect(press).not.toHaveAttribute('aria-disabled', 'true');
});

test('a folder is told where it sends, with what the place wants to know, and to send nothing any more', async () => {
  const shelf = { kind: 'shelf' as const, record: { ...emptyShelf, folders: { [folder.id]: folder } } };
  const end = jest.fn();
  const { store, again } = await show(<FolderSends folderId={folder.id} onClose={end} />, [shelf]);
  const stored = () => store.getState().library.shelf[emptyShelf.id]!.folders[folder.id];
  fireEvent.click(await place(/Owner and insurer/));
  fireEvent.change(screen.getByRole('textbox', { name: 'To: addresses' }), { target: { value: 'office@harbour.example' } });
  fireEvent.click(screen.getByRole('radio', { name: 'Unchecked as well' }));
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Done' })));
  expect(stored()).toMatchObject({ sendsTo: { insurer: { to: ['office@harbour.example'] } }, sendsUnchecked: true });
  again(<FolderSends key="again" folderId={folder.id} onClose={end} />);
  expect(screen.getByRole('textbox', { name: 'To: addresses' })).toHaveValue('office@harbour.example');
  fireEvent.click(await place(/Owner and insurer/));
  await act(async () => void fireEvent.click(screen.getByRole('button', { name: 'Send nothing' })));
  expect(stored()).toEqual(folder);
});

test('addresses that go together are kept as a group, offered again by its name, and removed under Places', async () => {
  const { store, again } = await show(<SendSeveral ids={['document-1']} onClose={jest.fn()} />, paper(1, 'Hull survey'));
  fireEvent.click(await place(/Owner and insurer/));
  const to = screen.getByRole('textbox', { name: 'To: addresses' });
  fireEvent.change(to, { target: { value: 'owner@wren.example.org, yard@example.org' } });
  fireEvent.click(screen.getByRole('button', { name: 'Keep as a group' }));
  fireEvent.change(screen.getByRole('textbox', { name: 'Name of the group' }), { target: { value: 'Crew of the Wren ' } });
  fireEvent.click(screen.getByRole('button', { name: 'Save' }));
  const groups = () => Object.values(store.getState().library.settings)[0]!.groups;
  await waitFor(() => expect(groups()).toEqual([{ name: 'Crew of the Wren', addresses: ['owner@wren.example.org', 'yard@example.org'] }])); // prettier-ignore
  expect(screen.queryByRole('button', { name: 'Keep as a group' })).toBeNull();
  fireEvent.change(to, { target: { value: 'crew' } });
  fireEvent.focus(to);
  fireEvent.click(screen.getByRole('button', { name: 'Crew of the Wren (2)' }));
  expect(to).toHaveValue('owner@wren.example.org, yard@example.org, ');
  again(<AddressGroups />);
  expect(screen.getByText('owner@wren.example.org, yard@example.org')).toBeVisible();
  fireEvent.click(screen.getByRole('button', { name: 'Remove the group Crew of the Wren' }));
  await waitFor(() => expect(groups()).toEqual([]));
});
