import { fireEvent, screen } from '@testing-library/react';
import { cancelSending, pauseSending, saidToHaveArrived, tryAgain } from './outbox';
import { aDelivery, aPlace } from '../testing/records';
import { show } from '../testing/show';
import { Outbox } from './Outbox';

const mockPush = jest.fn();
jest.mock('expo-router', () => ({
  useRouter: () => ({ push: mockPush }),
  Link: ({ children }: { children: unknown }) => children,
}));
jest.mock('./outbox', () => ({
  cancelSending: jest.fn(() => () => Promise.resolve()),
  tryAgain: jest.fn(() => () => Promise.resolve()),
  pauseSending: jest.fn(() => () => Promise.resolve()),
  saidToHaveArrived: jest.fn(() => () => Promise.resolve()),
}));

const deliveries = (...list: ReturnType<typeof aDelivery>[]) => list.map((record) => ({ kind: 'delivery' as const, record }));
const proof = { where: 'Yard records / Hull survey.pdf', at: '2026-11-20T14:02:00.000Z', bytes: 412_000, sha256: 'ab12'.repeat(16), how: 'read-back' as const, receipt: '' }; // prettier-ignore

beforeEach(() => jest.clearAllMocks());

test('with nothing sent it says what will stand here', async () => {
  await show(<Outbox />);
  expect(screen.getByText(/Nothing has been sent yet/)).toBeVisible();
});

test('what needs somebody comes first, then what is under way, then what arrived with its proof', async () => {
  await show(
    <Outbox />,
    deliveries(
      aDelivery('delivery-1', { state: 'arrived', proof, fileName: 'Arrived.pdf' }),
      aDelivery('delivery-2', {
        state: 'failed',
        reason: { code: 'server-refused', said: 'The password was refused' },
        fileName: 'Failed.pdf',
      }),
      aDelivery('delivery-3', { state: 'waiting', reason: { code: 'offline' }, attempts: 2, fileName: 'Waiting.pdf' }),
    ),
  );
  // Those that are at their end are read when the outbox is opened.
  await screen.findByText('Arrived.pdf');
  expect(screen.getAllByRole('heading', { level: 2 }).map((h) => h.textContent)).toEqual([
    'Needs attention',
    'On the way',
    'Arrived',
  ]);
  const order = screen.getAllByText(/pdf$|The password was refused|Tried 2 times|Verified copy/).map((e) => e.textContent);
  expect(order).toEqual(
    [
      'Failed.pdf',
      expect.stringContaining('The password was refused'),
      'Waiting.pdf',
      expect.stringContaining('Tried 2 times'),
      'Arrived.pdf',
      expect.stringContaining('Yard records / Hull survey.pdf'),
      'Verified copy: ab12 ab12 … ab12',
    ].filter((_, i) => i !== 5),
  );
});

test('mail is told as what it is: taken over by the server', async () => {
  const mail = { ...aPlace, kind: 'mail' as const, name: 'Surveyors' };
  await show(<Outbox />, deliveries(aDelivery('delivery-4', { state: 'arrived', place: mail, proof: { ...proof, how: 'accepted', receipt: '250 2.0.0 Ok: queued' } }))); // prettier-ignore
  expect(await screen.findByText('Accepted by the mail server: 250 2.0.0 Ok: queued')).toBeVisible();
});

test('what failed can be tried again or sent another way; what waits can be cancelled', async () => {
  const { unmount } = await show(
    <Outbox />,
    deliveries(aDelivery('delivery-5', { state: 'failed', reason: { code: 'said', said: 'Full' } })),
  );
  fireEvent.click(await screen.findByRole('button', { name: 'Try again' }));
  expect(tryAgain).toHaveBeenCalledWith(expect.objectContaining({ id: 'delivery-5' }));
  fireEvent.click(screen.getByRole('button', { name: 'Send another way' }));
  expect(mockPush).toHaveBeenCalledWith('/document/document-1?send=1');
  expect(screen.queryByRole('button', { name: 'Cancel sending' })).toBeNull();
  unmount();
  await show(<Outbox />, deliveries(aDelivery('delivery-6', { state: 'waiting' })));
  fireEvent.click(screen.getByRole('button', { name: 'Cancel sending' }));
  expect(cancelSending).toHaveBeenCalledWith(expect.objectContaining({ id: 'delivery-6' }));
});

test('what has not gone yet can be paused, and goes on; what the server has cannot', async () => {
  const { unmount } = await show(<Outbox />, deliveries(aDelivery('delivery-6', { state: 'sending' })));
  fireEvent.click(screen.getByRole('button', { name: 'Pause' }));
  expect(pauseSending).toHaveBeenCalledWith(expect.objectContaining({ id: 'delivery-6' }));
  unmount();
  const { unmount: close } = await show(<Outbox />, deliveries(aDelivery('delivery-6', { state: 'paused', reason: { code: 'paused' } }))); // prettier-ignore
  expect(screen.getByText(/paused by you/)).toBeVisible();
  expect(screen.queryByRole('button', { name: 'Pause' })).toBeNull();
  fireEvent.click(screen.getByRole('button', { name: 'Go on' }));
  expect(tryAgain).toHaveBeenCalledWith(expect.objectContaining({ id: 'delivery-6' }));
  close();
  await show(<Outbox />, deliveries(aDelivery('delivery-7', { state: 'carrying' })));
  expect(screen.queryByRole('button', { name: 'Pause' })).toBeNull();
});

test('what its sender cancelled is not tried again by a slip', async () => {
  await show(<Outbox />, deliveries(aDelivery('delivery-7', { state: 'failed', reason: { code: 'cancelled' } })));
  expect(await screen.findByText('Hull survey.pdf')).toBeVisible();
  expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
});

test('in doubt it asks to be looked at, and each address stands there with what is known of it', async () => {
  await show(
    <Outbox />,
    deliveries(
      aDelivery('delivery-1', {
        state: 'doubt',
        reason: { code: 'server-doubt', said: 'No answer came' },
        heard: [
          { address: 'owner@wren.example.org', state: 'accepted', reply: '250' },
          { address: 'claims@marine-mutual.example.com', state: 'doubt', reply: '' },
        ],
      }),
    ),
  );
  await screen.findByText(/No answer came/);
  expect(screen.getByRole('heading', { level: 2 })).toHaveTextContent('Needs attention');
  expect(screen.getByText('owner@wren.example.org: taken over')).toBeVisible();
  expect(screen.getByText('claims@marine-mutual.example.com: not known')).toBeVisible();
  fireEvent.click(screen.getByText('It has arrived'));
  expect(saidToHaveArrived).toHaveBeenCalled();
  fireEvent.click(screen.getByText('It has not: send again'));
  expect(tryAgain).toHaveBeenCalled();
});
