import type { Delivery } from '@libretto/model';
import { getOutgoing, putOutgoing } from '../store/files';
import { settingsId } from '../store/library';
import type { Store } from '../store/store';
import { isSaving } from '../store/unsaved';
import { aDelivery, aPlace } from '../testing/records';
import { anotherTab, aStore, until } from '../testing/store';
import { Carrier } from './carrier';
import { cancelSending, pauseSending, saidToHaveArrived, send, tryAgain } from './outbox';

/** held: none comes before somebody aborts. */
type Answer = { body: unknown; status?: number } | 'unreachable' | 'held';
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
    if (answer === 'held') return;
    setTimeout(() => {
      this.upload.onprogress?.({ loaded: 3, total: 3 });
      if (answer === 'unreachable') return this.onerror?.();
      this.status = answer.status ?? 200;
      this.responseText = JSON.stringify(answer.body);
      this.onload?.();
    }, 1);
  }
}

const aborted = ScriptedRequest.prototype.abort;

/** The server's events, told by hand. */
class ScriptedEvents {
  static open: ScriptedEvents[] = [];
  readyState = 1;
  onmessage?: (event: { data: string }) => void;
  constructor(readonly url: string) {
    ScriptedEvents.open.push(this);
  }
  close() {
    ScriptedEvents.open = ScriptedEvents.open.filter((e) => e !== this);
  }
}
const tell = (id: string, answer: object) =>
  ScriptedEvents.open.forEach((e) => e.url.includes(id) && e.onmessage?.({ data: JSON.stringify({ id, answer }) }));

beforeEach(() => {
  answers = [];
  requests = [];
  ScriptedEvents.open = [];
  Object.assign(globalThis, { XMLHttpRequest: ScriptedRequest, EventSource: ScriptedEvents });
  AbortSignal.timeout ??= () => new AbortController().signal;
});

const carriers: Carrier[] = [];
function carry(store: Store): Carrier {
  const carrier = new Carrier(store);
  carriers.push(carrier);
  void carrier.start();
  return carrier;
}
afterEach(async () => {
  carriers.splice(0).forEach((c) => c.stop());
  // What was begun is stored before the next test empties the storage.
  await until(() => !isSaving());
});

async function begin(deliveries: Delivery[] = []) {
  const store = await aStore(deliveries.map((record) => ({ kind: 'delivery' as const, record })));
  carry(store);
  return { store, all: () => Object.values(store.getState().library.delivery) };
}

const parcel = (places = [aPlace]) => ({
  documentId: 'document-1',
  files: [{ fileName: 'Wren.pdf', blob: new Blob(['pdf']), sha256: 'ab'.repeat(32) }],
  message: 'As agreed',
  places,
});

test('each place gets a delivery of its own; arrived only with the proof, and the file is let go', async () => {
  const { store, all } = await begin();
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
  const { store, all } = await begin();
  answers = ['unreachable'];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.reason !== undefined);
  expect(all()[0]).toMatchObject({ state: 'waiting', attempts: 1 });
  expect(await getOutgoing(all()[0]!.id)).toBeDefined();
  await store.dispatch(tryAgain(all()[0]!));
  await until(() => all()[0]!.state === 'arrived');
  expect(new Set(requests.map((r) => r.url)).size).toBe(1);
});

test('held up by hand an upload ends and the next one goes; when it may it goes on under its id', async () => {
  const { store, all } = await begin();
  answers = ['held'];
  await store.dispatch(send(parcel()));
  await until(() => requests.length === 1);
  await store.dispatch(pauseSending(all()[0]!));
  expect(all()[0]).toMatchObject({ state: 'paused', reason: { code: 'paused' } });
  const other = { ...aPlace, id: 'workshop' };
  await store.dispatch(send(parcel([other])));
  await until(() => all().some((d) => d.state === 'arrived'));
  const held = () => all().find((d) => d.place.id === aPlace.id)!;
  expect(held().state).toBe('paused');
  expect(await getOutgoing(held().id)).toBeDefined();
  await store.dispatch(tryAgain(held()));
  await until(() => held().state === 'arrived');
  expect(requests.map((r) => r.header.placeId)).toEqual([aPlace.id, 'workshop', aPlace.id]);
  expect(requests[0]!.url).toBe(requests[2]!.url);
});

test('held up too late it has gone its way', async () => {
  const { store, all } = await begin();
  answers = ['held'];
  await store.dispatch(send(parcel()));
  await until(() => requests.length === 1);
  // The answer is there before the upload can be ended.
  ScriptedRequest.prototype.abort = function (this: ScriptedRequest) {
    Object.assign(this, { status: 200, responseText: JSON.stringify({ state: 'arrived', proof }) });
    this.onload?.();
  };
  await store.dispatch(pauseSending(all()[0]!));
  await until(() => all()[0]!.state === 'arrived');
  ScriptedRequest.prototype.abort = aborted;
});

test('a server that does not know this device any more is told from one that is out of reach', async () => {
  const { store, all } = await begin();
  answers = [{ status: 401, body: { code: 'signed-out' } }];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.reason !== undefined);
  expect(all()[0]).toMatchObject({ state: 'waiting', reason: { code: 'signed-out' } });
  expect(await getOutgoing(all()[0]!.id)).toBeDefined();
});

test('a refusal that waiting does not mend needs the user', async () => {
  const { store, all } = await begin();
  answers = [failed(false)];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.state === 'failed');
  expect(all()[0]!.reason).toEqual({ code: 'server-x', said: 'Yard records is full' });
});

test('an answer that makes no sense is not taken for an arrival', async () => {
  const { store, all } = await begin();
  answers = [{ body: { state: 'arrived' } }];
  await store.dispatch(send(parcel()));
  await until(() => all()[0]?.reason !== undefined);
  expect(all()[0]).toMatchObject({ state: 'waiting', reason: { code: 'no-sense', said: '200' } });
  await store.dispatch(cancelSending(all()[0]!));
  expect(all()[0]).toMatchObject({ state: 'failed', reason: { code: 'cancelled' } });
});

test('what a tab that is gone was sending goes again under its id; without its file it says so', async () => {
  await putOutgoing('delivery-kept', new Blob(['pdf']));
  const { all } = await begin([aDelivery('delivery-lost', { state: 'sending' })]);
  await until(() => all()[0]!.state === 'failed');
  expect(all()[0]!.reason).toEqual({ code: 'file-gone' });
  expect(requests).toEqual([]);
});

describe('taken over by the server', () => {
  const carrying: Answer = { status: 202, body: { state: 'carrying', attempts: 0 } };
  async function carried() {
    const { store, all } = await begin();
    answers = [carrying];
    await store.dispatch(send(parcel([{ ...aPlace, kind: 'mail' }])));
    await until(() => all()[0]?.state === 'carrying' && ScriptedEvents.open.length > 0);
    return { store, the: () => all()[0]! };
  }

  test('it is followed, with what keeps it waiting, until it has arrived; its file stays until then', async () => {
    const { the } = await carried();
    tell(the().id, { state: 'carrying', attempts: 1, code: 'busy', reason: 'Asks to be left alone', nextAt: proof.at });
    await until(() => the().reason !== undefined);
    expect(the()).toMatchObject({ reason: { code: 'server-busy', said: 'Asks to be left alone' }, nextAt: proof.at });
    expect(await getOutgoing(the().id)).toBeDefined();
    tell(the().id, { state: 'arrived', proof });
    await until(() => the().state === 'arrived');
    await until(async () => (await getOutgoing(the().id)) === undefined);
    await until(() => ScriptedEvents.open.length === 0);
    expect(requests).toHaveLength(1);
  });

  test('in doubt it goes out again only when somebody says so, and says so to the server', async () => {
    const { store, the } = await carried();
    tell(the().id, { state: 'doubt', reason: 'No answer came' });
    await until(() => the().state === 'doubt');
    await new Promise((resolve) => setTimeout(resolve, 30));
    expect(requests).toHaveLength(1);
    await store.dispatch(tryAgain(the()));
    await until(() => the().state === 'arrived');
    expect(requests.map((r) => r.header.again)).toEqual([undefined, true]);
  });

  test('in doubt, and somebody has seen it there', async () => {
    const { store, the } = await carried();
    tell(the().id, { state: 'doubt', reason: 'No answer came' });
    await until(() => the().state === 'doubt');
    await store.dispatch(saidToHaveArrived(the()));
    expect(the()).toMatchObject({ state: 'arrived', proof: { how: 'said' } });
    expect(requests).toHaveLength(1);
  });

  test('a server that has lost it: a mail is in doubt, a folder is sent to again', async () => {
    const { the } = await carried();
    tell(the().id, { state: 'failed', code: 'unknown', reason: 'The server does not have it', again: false });
    await until(() => the().state === 'doubt');
    expect(requests).toHaveLength(1);
  });

  test('taken back from the server; too late is said', async () => {
    const { store, the } = await carried();
    const answering = (body: object) => Object.assign(globalThis, { fetch: jest.fn(async () => ({ json: async () => body })) });
    answering({ state: 'carrying', attempts: 1 });
    expect(await store.dispatch(cancelSending(the()))).toBe(false);
    expect(the().state).toBe('carrying');
    answering({ state: 'failed', code: 'cancelled', reason: '', again: false });
    expect(await store.dispatch(cancelSending(the()))).toBe(true);
    expect(the()).toMatchObject({ state: 'failed', reason: { code: 'cancelled' } });
  });
});

describe('with a second tab', () => {
  test('its start neither resets what the first one is sending nor falsifies what has arrived', async () => {
    const { store, all } = await begin();
    await store.dispatch(send(parcel()));
    await until(() => all()[0]!.state !== 'waiting');
    const second = await anotherTab();
    expect(second.getState().library.delivery[all()[0]!.id]!.state).toMatch(/sending|arrived/);
    await until(() => all()[0]!.state === 'arrived');
    // It has waited for its turn; now it carries, and reads everything anew before it does.
    carriers.splice(0).forEach((c) => c.stop());
    carry(second);
    await second.dispatch(send(parcel()));
    await until(() => Object.values(second.getState().library.delivery).every((d) => d.state === 'arrived'));
    expect(requests).toHaveLength(2);
    expect((await anotherTab()).getState().library.outbox).toHaveLength(2);
  });

  test('what the second one puts into the outbox the first one carries; cancelled there, it stops here', async () => {
    const { store } = await begin();
    const second = await anotherTab();
    await second.dispatch(send(parcel()));
    await until(() => Object.values(second.getState().library.delivery)[0]?.state === 'arrived');
    expect(Object.values(store.getState().library.delivery)[0]!.state).toBe('arrived');

    answers = ['unreachable'];
    await second.dispatch(send(parcel()));
    const waiting = () => Object.values(second.getState().library.delivery).find((d) => d.state === 'waiting' && d.reason);
    await until(() => waiting() !== undefined);
    await second.dispatch(cancelSending(waiting()!));
    await until(() => Object.values(store.getState().library.delivery).some((d) => d.reason?.code === 'cancelled'));
    const cancelled = Object.values(store.getState().library.delivery).find((d) => d.reason?.code === 'cancelled')!;
    await until(async () => (await getOutgoing(cancelled.id)) === undefined);
  });
});
