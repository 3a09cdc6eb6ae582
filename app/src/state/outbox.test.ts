import { getOutgoing } from '../storage/files';
import { aDelivery, aPlace } from '../testing/records';
import { opened, settingsId } from './library';
import { giveUp, resumeDeliveries, send, tryAgain } from './outbox';
import { createStore } from './store';

type Answer = { body: unknown } | 'unreachable';
const proof = {
  where: 'Yard records / x.pdf',
  at: '2026-11-20T14:02:00.000Z',
  bytes: 3,
  sha256: 'ab'.repeat(32),
  how: 'read-back',
  receipt: '',
};
const arrived: Answer = { body: { state: 'arrived', proof } };
const failed = (again: boolean): Answer => ({ body: { state: 'failed', code: 'x', reason: 'Yard records is full', again } });

let answers: Answer[] = [];
let requests: { url: string; header: Record<string, unknown> }[] = [];

/** The browser's upload, answered by a script. */
class ScriptedRequest {
  upload: { onprogress?: (event: { loaded: number; total: number }) => void } = {};
  onload?: () => void;
  onerror?: () => void;
  onabort?: () => void;
  status = 200;
  responseText = '';
  private url = '';
  private header = '';
  open(_method: string, url: string) {
    this.url = url;
  }
  setRequestHeader(name: string, value: string) {
    if (name === 'x-delivery') this.header = value;
  }
  abort() {
    this.onabort?.();
  }
  send() {
    requests.push({ url: this.url, header: JSON.parse(decodeURIComponent(this.header)) });
    const answer = answers.shift() ?? arrived;
    setTimeout(() => {
      this.upload.onprogress?.({ loaded: 3, total: 3 });
      if (answer === 'unreachable') return this.onerror?.();
      this.responseText = JSON.stringify(answer.body);
      this.onload?.();
    }, 1);
  }
}

beforeEach(() => {
  answers = [];
  requests = [];
  Object.assign(globalThis, { XMLHttpRequest: ScriptedRequest });
});

function begin() {
  const store = createStore();
  store.dispatch(opened({ records: [], aside: [] }));
  return { store, all: () => Object.values(store.getState().library.delivery) };
}

async function until(check: () => boolean) {
  for (let i = 0; i < 200 && !check(); i++) await new Promise((r) => setTimeout(r, 5));
  expect(check()).toBe(true);
}

const parcel = (places = [aPlace]) => ({
  documentId: 'document-1',
  fileName: 'Wren.pdf',
  file: new Blob(['pdf']),
  sha256: 'ab'.repeat(32),
  message: 'As agreed',
  places,
});

test('each place gets a delivery of its own; arrived only with the proof, and the file is let go', async () => {
  const { store, all } = begin();
  const other = { ...aPlace, id: 'workshop', kind: 'mail' as const };
  await store.dispatch(send(parcel([aPlace, other])));
  await until(() => all().every((d) => d.state === 'arrived'));
  expect(all().map((d) => d.proof)).toEqual([proof, proof]);
  expect(requests.map((r) => r.url)).toEqual(all().map((d) => `/api/deliveries/${d.id}`));
  expect(requests[0]!.header).toMatchObject({
    placeId: 'yard-records',
    fileName: 'Wren.pdf',
    subject: 'Wren',
    message: 'As agreed',
  });
  expect(store.getState().library.settings[settingsId]!.lastPlaces).toEqual(['yard-records', 'workshop']);
  expect(await getOutgoing(all()[0]!.id)).toBeUndefined();
});

test('out of reach it waits with the reason and keeps its file; trying again sends it under the same id', async () => {
  const { store, all } = begin();
  answers = ['unreachable'];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.reason !== undefined);
  expect(all()[0]).toMatchObject({ state: 'waiting', attempts: 1 });
  expect(await getOutgoing(all()[0]!.id)).toBeDefined();
  await store.dispatch(tryAgain(all()[0]!.id));
  await until(() => all()[0]!.state === 'arrived');
  expect(new Set(requests.map((r) => r.url)).size).toBe(1);
});

test('a refusal that waiting does not mend needs the user', async () => {
  const { store, all } = begin();
  answers = [failed(false)];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.state === 'failed');
  expect(all()[0]!.reason).toBe('Yard records is full');
});

test('an answer that makes no sense is not taken for an arrival', async () => {
  const { store, all } = begin();
  answers = [{ body: { state: 'arrived' } }];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.reason !== undefined);
  expect(all()[0]).toMatchObject({ state: 'waiting', reason: expect.stringContaining('makes no sense') });
  await store.dispatch(giveUp(all()[0]!.id));
  expect(all()[0]).toMatchObject({ state: 'failed', reason: 'Taken back by you' });
});

test('after a reload what was being sent goes again; without its file it says so', async () => {
  const store = createStore();
  store.dispatch(
    opened({ records: [{ kind: 'delivery', record: aDelivery('delivery-lost', { state: 'sending' }) }], aside: [] }),
  );
  await store.dispatch(resumeDeliveries());
  await until(() => store.getState().library.delivery['delivery-lost']!.state === 'failed');
  expect(store.getState().library.delivery['delivery-lost']!.reason).toContain('no longer in this browser');
  expect(requests).toEqual([]);
});
