import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { PaperProvider } from 'react-native-paper';
import { Provider } from 'react-redux';
import { settingsId } from '../store/library';
import { paperSettings } from '../ui/icons';
import { lightTheme } from '../ui/theme';
import { aStore } from '../testing/store';
import { readsAhead } from '../work/reading';
import { Phone } from './Phone';
import { ReadAhead } from './ReadAhead';
import { Settings } from './Settings';

jest.mock('expo-router', () => ({ Link: ({ children }: { children: unknown }) => children, useRouter: () => ({}) }));

// A busy machine takes its time.
jest.setTimeout(60_000);

const device = { id: 'd1', name: 'Safari on iPhone', pairedAt: '2026-11-20T10:00:00.000Z', seenAt: '2026-11-28T10:00:00.000Z', own: false }; // prettier-ignore
const open = { open: true, address: 'https://192.0.2.2:4171', link: 'https://192.0.2.2:4171/pair/x', qr: '<svg></svg>', fingerprint: 'AB:CD', ownAuthority: true, devices: [device] }; // prettier-ignore
let requests: [string, string][] = [];
let answers: { status: number; body?: unknown }[] = [];

async function shown(what: React.ReactNode) {
  const store = await aStore();
  Object.assign(globalThis, {
    fetch: async (url: string, { method = 'GET' }: RequestInit = {}) => {
      requests.push([method, url]);
      const answer = answers.shift();
      if (!answer) throw new TypeError('out of reach');
      return { ok: answer.status < 300, status: answer.status, json: async () => answer.body };
    },
  });
  AbortSignal.timeout ??= () => new AbortController().signal;
  render(
    <Provider store={store}>
      <PaperProvider theme={lightTheme} settings={paperSettings}>
        {what}
      </PaperProvider>
    </Provider>,
  );
  return store;
}

beforeEach(() => {
  requests = [];
  answers = [];
});

test('a server of this computer only says how it is opened to phones', async () => {
  answers = [{ status: 200, body: { open: false } }];
  await shown(<Phone />);
  expect(await screen.findByText(/npm start -- --phone/)).toBeInTheDocument();
});

test('an open one shows address, code, fingerprint and devices; one that is removed is asked for again', async () => {
  answers = [{ status: 200, body: open }, { status: 204 }, { status: 200, body: { ...open, devices: [] } }];
  const store = await shown(<Phone />);
  expect(await screen.findByAltText('Code that opens https://192.0.2.2:4171')).toHaveAttribute(
    'src',
    expect.stringContaining('svg'),
  );
  expect(screen.getByText('AB:CD')).toBeInTheDocument();
  fireEvent.click(screen.getByLabelText('Remove Safari on iPhone'));
  expect(await screen.findByText('No device is paired yet.')).toBeInTheDocument();
  expect(requests).toEqual([['GET', '/api/phone'], ['DELETE', '/api/devices/d1'], ['GET', '/api/phone']]); // prettier-ignore
  expect(store.getState().session.notice?.code).toBe('notice.deviceRemoved');
});

test('a device that was removed, and a server out of reach, are told apart', async () => {
  answers = [{ status: 401 }];
  await shown(<Phone />);
  expect(await screen.findByText('Sign in')).toHaveAttribute('href', '/sign-in');
  await shown(<Phone />);
  expect(await screen.findByText(/The server does not answer/)).toBeInTheDocument();
  answers = [{ status: 200, body: { open: false } }];
  fireEvent.click(screen.getByText('Try again'));
  expect(await screen.findByText(/open to this computer only/)).toBeInTheDocument();
});

test('the theme is chosen and stored', async () => {
  const store = await shown(<Settings />);
  fireEvent.click(screen.getByText('Dark'));
  await waitFor(() => expect(store.getState().library.settings[settingsId]!.theme).toBe('dark'));
});

test.each([false, true])(
  'whether pages are read ahead follows the device (it saves data: %s), until it is chosen',
  async (saveData) => {
    Object.assign(navigator, { connection: { saveData } });
    const store = await shown(<ReadAhead />);
    const settings = () => store.getState().library.settings[settingsId]!;
    const row = await screen.findByRole('switch', { name: 'Read pages by themselves' });
    expect(row).toHaveAttribute('aria-checked', String(!saveData));
    expect(readsAhead(settings())).toBe(!saveData);
    fireEvent.click(row);
    await waitFor(() => expect(settings().readAhead).toBe(saveData));
    expect(readsAhead(settings())).toBe(saveData);
  },
);
