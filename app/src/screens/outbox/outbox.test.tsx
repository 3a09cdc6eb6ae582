import { fireEvent, screen, within } from '@testing-library/react';
import { giveUp, tryAgain } from '../../state/outbox';
import { aDelivery, aPlace } from '../../testing/records';
import { show } from '../../testing/show';
import { Outbox } from './Outbox';

const mockPush = jest.fn();
jest.mock('expo-router', () => ({ useRouter: () => ({ push: mockPush }) }));
jest.mock('../../state/outbox', () => ({
  giveUp: jest.fn(() => () => Promise.resolve()),
  tryAgain: jest.fn(() => () => Promise.resolve()),
}));

const deliveries = (...list: ReturnType<typeof aDelivery>[]) => list.map((record) => ({ kind: 'delivery' as const, record }));
const proof = { where: 'Yard records / Hull survey.pdf', at: '2026-11-20T14:02:00.000Z', bytes: 412_000, sha256: 'ab12'.repeat(16), how: 'read-back' as const, receipt: '' }; // prettier-ignore
const group = (title: string) => screen.getByRole('heading', { name: title }).parentElement!;

beforeEach(() => jest.clearAllMocks());

test('with nothing sent it says what will stand here', () => {
  show(<Outbox />);
  expect(screen.getByText(/Nothing has been sent yet/)).toBeVisible();
});

test('what needs somebody comes first, then what is under way, then what arrived with its proof', () => {
  show(
    <Outbox />,
    deliveries(
      aDelivery('delivery-1', { state: 'arrived', proof, fileName: 'Arrived.pdf' }),
      aDelivery('delivery-2', { state: 'failed', reason: 'The password was refused', fileName: 'Failed.pdf' }),
      aDelivery('delivery-3', { state: 'waiting', reason: 'No network', attempts: 2, fileName: 'Waiting.pdf' }),
    ),
  );
  expect(screen.getAllByRole('heading', { level: 2 }).map((h) => h.textContent)).toEqual(['Needs you', 'Under way', 'Arrived']);
  expect(within(group('Needs you')).getByText('Failed.pdf')).toBeVisible();
  expect(within(group('Needs you')).getByText(/The password was refused/)).toBeVisible();
  expect(within(group('Under way')).getByText(/Tried 2 times/)).toBeVisible();
  expect(within(group('Arrived')).getByText(/Read back and compared: ab12 ab12 … ab12, the same/)).toBeVisible();
});

test('mail is told as what it is: taken over by the server', () => {
  const mail = { ...aPlace, kind: 'mail' as const, name: 'Surveyors' };
  show(<Outbox />, deliveries(aDelivery('delivery-4', { state: 'arrived', place: mail, proof: { ...proof, how: 'accepted', receipt: '250 2.0.0 Ok: queued' } }))); // prettier-ignore
  expect(screen.getByText('Taken over by the mail server: 250 2.0.0 Ok: queued')).toBeVisible();
});

test('what failed can be tried again or sent another way; what waits can be taken back', () => {
  const { unmount } = show(<Outbox />, deliveries(aDelivery('delivery-5', { state: 'failed', reason: 'Full' })));
  fireEvent.click(screen.getByRole('button', { name: 'Try again' }));
  expect(tryAgain).toHaveBeenCalledWith('delivery-5');
  fireEvent.click(screen.getByRole('button', { name: 'Send another way' }));
  expect(mockPush).toHaveBeenCalledWith('/document/document-1?send=1');
  expect(screen.queryByRole('button', { name: 'Take back' })).toBeNull();
  unmount();
  show(<Outbox />, deliveries(aDelivery('delivery-6', { state: 'waiting' })));
  fireEvent.click(screen.getByRole('button', { name: 'Take back' }));
  expect(giveUp).toHaveBeenCalledWith('delivery-6');
});

test('what its sender took back is not tried again by a slip', () => {
  show(<Outbox />, deliveries(aDelivery('delivery-7', { state: 'failed', reason: 'Taken back by you' })));
  expect(screen.queryByRole('button', { name: 'Try again' })).toBeNull();
});
