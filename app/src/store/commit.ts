import { isOpenDelivery, summarise, type Delivery, type Document, type Page, type Summary } from '@libretto/model';
import { Draft } from './draft';
import { kindOf, parsed, recordKeys, steps, type Binned, type Drawer, type Kept, type Posted, type Ring } from './records';
import { named } from './texts';
import { applyOps, backNow, idOf, keysOf, type Step } from './step';
import { keyOf, type Key } from './texts';
import { locked, shared } from './tabs';

/** What a step has come to, for the tab that made it and for all others. */
export interface Outcome {
  step: string;
  /** Steps of all tabs in the order in which they were taken: what is told late must not be shown over what is newer. */
  order: number;
  /** Records as they are now. */
  changed: [Key, object][];
  summaries: Summary[];
  taken?: Kept;
  outbox?: Posted[];
  /** Of a step that was to be taken back: how many fields stay, since somebody has changed them in the meantime. */
  stays?: number;
}

/** A record that a newer version of Libretto has written is not changed by this one. */
export class NewerRecord extends Error {
  constructor(readonly key: string) {
    super(`${key} was made by a newer version`);
  }
}

/** A step that can no longer be taken back. */
export class StepGone extends Error {}

const mostPosted = 2000;

interface Waiting {
  step: Step;
  replay: boolean;
  resolve: (outcome: Outcome) => void;
  reject: (error: unknown) => void;
}

let queue: Waiting[] = [];
let running = false;

/**
 * Takes a step: applied to what is stored now, under a lock that all tabs share, and written in one transaction together with all that follows from
 * it (the documents' summaries, the step for taking it back, the outbox, the bin). Steps that wait for the lock share one transaction. A step that was
 * taken already does nothing.
 *
 * @param options.replay it comes from an earlier life of the app: whether it was taken is looked for among all steps that are kept.
 * @throws NewerRecord, StepGone, or what the storage throws; then nothing has changed.
 */
export function commit(step: Step, { replay = false }: { replay?: boolean } = {}): Promise<Outcome> {
  return new Promise((resolve, reject) => {
    queue.push({ step, replay, resolve, reject });
    void run();
  });
}

async function run(): Promise<void> {
  if (running) return;
  running = true;
  while (queue.length) {
    let batch: Waiting[] = [];
    try {
      const settle = await locked(shared.records, async () => {
        batch = queue;
        queue = [];
        const draft = await Draft.begin();
        const told: (() => void)[] = [];
        for (const { step, replay, resolve, reject } of batch)
          try {
            const outcome = { ...(await applyStep(draft, step, replay)), order: draft.generation + told.length / 1e4 };
            told.push(() => resolve(outcome));
          } catch (error) {
            // What one step asks for in vain is no reason against the others.
            if (!(error instanceof NewerRecord || error instanceof StepGone)) throw error;
            told.push(() => reject(error));
          }
        await draft.write();
        return told;
      });
      settle.forEach((tell) => tell());
    } catch (error) {
      batch.forEach(({ reject }) => reject(error));
    }
  }
  running = false;
}

async function applyStep(draft: Draft, step: Step, replay: boolean): Promise<Omit<Outcome, 'order'>> {
  const ring = await readRing(draft, step, replay);
  const nothing: Omit<Outcome, 'order'> = { step: step.id, changed: [], summaries: [] };
  if (ring.known || (await isBorn(draft, step))) return { ...nothing, ...(ring.known && { taken: ring.known }) };
  let { ops } = step;
  let stays = 0;
  const back = ring.of;
  if (step.of) {
    if (!back) throw new StepGone('That step is too long ago');
    if (back.state === step.of.state) return { ...nothing, taken: back };
    const able = backNow((await draft.records(keysOf(back.inverse))).records, back);
    ops = able.ops;
    stays = able.stay.length;
    if (stays && !ops.some((op) => op.op !== 'set' || !op.soft)) return { ...nothing, stays };
  }
  const documents = step.label || step.of ? (back?.documentIds ?? step.documentIds) : [];
  const read = await draft.records([...new Set([...keysOf(ops), ...recordKeys('document', documents)])]);
  for (const key of read.newer) throw new NewerRecord(key);
  const { changed, inverse } = applyOps(read.records, ops);
  if (!changed.size) return { ...nothing, ...(stays && { stays }) };
  for (const key of recordKeys('document', documents)) {
    const document = changed.get(key) ?? read.records.get(key);
    if (document) changed.set(key, { ...document, changedAt: step.at });
  }

  for (const [key, record] of changed) draft.putRecord(key, record);
  const summaries = await summariesOf(draft, changed);
  const outbox = await outboxWith(draft, changed);
  await binWith(draft, changed, read.records);
  let taken: Kept | undefined;
  if (back) {
    taken = { ...back, ops, inverse, state: step.of!.state, changedAt: step.at };
    draft.put(named.step(back.slot), JSON.stringify(taken));
  } else if (step.label) {
    taken = {
      id: step.id, at: step.at, label: step.label, documentIds: step.documentIds, ops, inverse,
      state: 'done', changedAt: step.at, slot: ring.next,
    }; // prettier-ignore
    draft.put(named.step(ring.next), JSON.stringify(taken));
    draft.put(named.ring, JSON.stringify({ next: (ring.next + 1) % steps } satisfies Ring));
  }
  return {
    step: step.id,
    changed: [...changed],
    summaries,
    ...(taken && { taken }),
    ...(outbox && { outbox }),
    ...(stays && { stays }),
  };
}

/** Where the next step goes; the step itself if it was taken; the one that it takes back. */
async function readRing(draft: Draft, step: Step, replay: boolean): Promise<{ next: number; known?: Kept; of?: Kept }> {
  if (!step.label && !step.of) return { next: 0 };
  const { next } = parsed<Ring>((await draft.texts([named.ring]))[named.ring], { next: 0 });
  const slots = step.of || replay ? steps : 8;
  const keys = Array.from({ length: slots }, (_, i) => named.step((next - 1 - i + 2 * steps) % steps));
  const kept = Object.values(await draft.texts(keys)).flatMap((text) => parsed<Kept | null>(text, null) ?? []);
  const known = kept.find((k) => k.id === step.id);
  const of = step.of && kept.find((k) => k.id === step.of!.step);
  return { next, ...(known && { known }), ...(of && { of }) };
}

/** Whether a page that a step makes is there already: then the step was taken, and what became of the page since is not undone by taking it again. */
async function isBorn(draft: Draft, step: Step): Promise<boolean> {
  const pages = step.ops.flatMap((op) => (op.op === 'create' && op.kind === 'page' ? [keyOf('page', idOf(op.record))] : []));
  if (!pages.length) return false;
  const texts = await draft.texts(pages);
  return pages.some((key) => texts[key]);
}

const documentOf = (key: Key, record: object): string | null => {
  const kind = kindOf(key);
  if (kind === 'document') return idOf(record);
  return kind === 'page' || kind === 'delivery' ? (record as Page | Delivery).documentId : null;
};

/** The summaries of the documents that changed records belong to. */
async function summariesOf(draft: Draft, changed: ReadonlyMap<Key, object>): Promise<Summary[]> {
  const ids = [...new Set([...changed].flatMap(([key, record]) => documentOf(key, record) ?? []))];
  if (!ids.length) return [];
  const drawerKeys = [...new Set(ids.map(named.drawerOf))];
  const texts = await draft.texts(drawerKeys);
  const drawers = new Map(drawerKeys.map((key) => [key, parsed<Drawer>(texts[key], {})]));
  const { records } = await draft.records(recordKeys('document', ids));
  const documents = [...records.values()] as Document[];
  const before = (id: string) => drawers.get(named.drawerOf(id))![id];
  const own = (id: string) =>
    [...changed].filter(([key, record]) => kindOf(key) === 'delivery' && documentOf(key, record) === id).map(([key]) => key);
  const deliveryKeys = (id: string) => [...new Set([...recordKeys('delivery', before(id)?.deliveries ?? []), ...own(id)])];
  const rest = await draft.records(documents.flatMap((d) => [...recordKeys('page', d.pageIds), ...deliveryKeys(d.id)]));
  const out: Summary[] = [];
  for (const document of documents) {
    const pages = recordKeys('page', document.pageIds);
    const newer = pages.some((key) => rest.newer.has(key));
    const { folder: _folder, tags: _tags, ...known } = before(document.id) ?? {};
    const summary = {
      ...known,
      ...summarise(
        document,
        pages.flatMap((key) => (rest.records.get(key) ?? []) as Page | []),
        deliveryKeys(document.id).flatMap((key) => (rest.records.get(key) ?? []) as Delivery | []),
        { newer },
      ),
    };
    if (!newer) delete summary.newer;
    drawers.get(named.drawerOf(document.id))![document.id] = summary;
    out.push(summary);
  }
  for (const [key, drawer] of drawers) draft.put(key, JSON.stringify(drawer));
  return out;
}

async function outboxWith(draft: Draft, changed: ReadonlyMap<Key, object>): Promise<Posted[] | undefined> {
  const deliveries = [...changed].filter(([key]) => kindOf(key) === 'delivery').map(([, record]) => record as Delivery);
  if (!deliveries.length) return undefined;
  const before = parsed<Posted[]>((await draft.texts([named.outbox]))[named.outbox], []);
  const list = [...before];
  for (const { id, state } of deliveries) {
    const posted = { id, open: isOpenDelivery({ state }) };
    const at = list.findIndex((p) => p.id === id);
    if (at < 0) list.unshift(posted);
    else list[at] = posted;
  }
  const kept = list.filter((p, i) => p.open || i < mostPosted);
  if (JSON.stringify(kept) === JSON.stringify(before)) return undefined;
  draft.put(named.outbox, JSON.stringify(kept));
  return kept;
}

/** Notes what goes into the bin, and what comes out of it. */
async function binWith(draft: Draft, changed: ReadonlyMap<Key, object>, before: ReadonlyMap<Key, object>): Promise<void> {
  type Deletable = { deletedAt?: string | null };
  const deletedAt = (record: object | undefined) => (record as Deletable | undefined)?.deletedAt ?? null;
  const turned = [...changed].filter(([key, now]) => 'deletedAt' in now && deletedAt(now) !== deletedAt(before.get(key)));
  if (!turned.length) return;
  const bin = parsed<Binned[]>((await draft.texts([named.bin]))[named.bin], []);
  const rest = bin.filter((b) => !turned.some(([key]) => key === b.key));
  for (const [key, record] of turned) {
    const at = deletedAt(record);
    const { photoId } = record as Partial<Page>;
    if (at) rest.push({ key, documentId: documentOf(key, record)!, at, ...(photoId && { photoId }) });
  }
  draft.put(named.bin, JSON.stringify(rest));
}
