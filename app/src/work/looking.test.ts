import type { Outline as Found } from '@libretto/core';
import { putPhoto } from '../store/files';
import { aDocument, anOutline, aPage, aPhoto } from '../testing/records';
import { pagePool } from './pools';
import { cancelLooks, findHere, inspectAgain, lookAtPages, straighten, sureFrom, wholePhoto } from './looking';
import { deletePages } from '../store/editing';
import { aStore, until } from '../testing/store';

jest.mock('./pools', () => ({ pagePool: { run: jest.fn() }, filePool: {} }));

/** What the worker's functions give. */
interface Answers {
  look?: unknown;
  straighten?: unknown;
  findHere?: unknown;
  inspect?: unknown;
}
const run = pagePool.run as unknown as jest.Mock;
const asked: [name: string, args: unknown[]][] = [];
function answer(answers: Answers | Error) {
  asked.length = 0;
  run.mockImplementation(async (job: (api: unknown) => unknown) => {
    if (answers instanceof Error) throw answers;
    const say =
      (name: keyof Answers) =>
      async (...args: unknown[]) => {
        asked.push([name, args]);
        return answers[name];
      };
    return job({ look: say('look'), straighten: say('straighten'), findHere: say('findHere'), inspect: say('inspect') });
  });
}

const quad = (x: number, y: number, size = 100): Found['quad'] => [[x, y], [x + size, y], [x + size, y + size], [x, y + size]]; // prettier-ignore
const seen = (outline: Partial<Found>, findings: unknown[] = []) => ({
  outline: { quad: quad(10, 10), confidence: 0.95, ...outline },
  findings,
  edgeMm: null,
  signature: null,
  seen: null,
});

async function begin(part: Partial<ReturnType<typeof aPage>> = {}) {
  const page = aPage('page-a', { state: 'looking', recipe: null, found: null, photoId: 'photo-one', ...part });
  const store = await aStore([
    { kind: 'photo', record: aPhoto('photo-one') },
    { kind: 'page', record: page },
    { kind: 'document', record: aDocument(['page-a']) },
  ]);
  await putPhoto(aPhoto('photo-one'), new Blob(['photo']));
  const state = () => store.getState();
  return { store, page: () => state().library.page['page-a']!, state };
}

describe('a photo is looked at', () => {
  test('one page: its outline, no doubts, and the photo’s size', async () => {
    const { store, page, state } = await begin();
    answer({ look: { width: 400, height: 300, pages: [seen({})] } });
    await store.dispatch(lookAtPages());
    expect(page()).toMatchObject({ state: 'ready', alone: true, checks: [] });
    expect(page().recipe).toMatchObject({ outline: { quad: quad(10, 10), source: 'found' }, turn: 0, filter: 'auto' });
    expect(state().library.photo['photo-one']).toMatchObject({ width: 400, height: 300 });
  });

  test('an unsure outline is offered with a check, never silently used', async () => {
    const { store, page } = await begin();
    answer({ look: { width: 400, height: 300, pages: [seen({ confidence: sureFrom - 0.01 })] } });
    await store.dispatch(lookAtPages());
    expect(page().checks.map((c) => c.id)).toEqual(['unsure-outline']);
  });

  test('no page: the whole photo, as its print is read, with a check', async () => {
    const { store, page } = await begin();
    const turned = quad(300, 20);
    const polygon = turned.flatMap(([x, y]) => [0, 1, 2, 3].map((k) => [x + k, y]));
    answer({ look: { width: 400, height: 300, pages: [], whole: { quad: turned, polygon } } });
    await store.dispatch(lookAtPages());
    expect(page().recipe!.outline).toMatchObject({ source: 'whole', quad: turned, polygon, confidence: 0 });
    expect(page().checks.map((c) => c.id)).toEqual(['no-page']);
  });

  test('several papers become pages one after the other, in the order in which the core gives them', async () => {
    const { store, state } = await begin();
    const three = [quad(10, 14), quad(220, 10), quad(10, 150)];
    answer({ look: { width: 400, height: 300, pages: three.map((q) => seen({ quad: q })) } });
    await store.dispatch(lookAtPages());
    const { document, page } = state().library;
    const ids = document['document-1']!.pageIds;
    expect(ids).toHaveLength(3);
    expect(ids.map((id) => page[id]!.recipe!.outline.quad[0])).toEqual([[10, 14], [220, 10], [10, 150]]); // prettier-ignore
    expect(ids.every((id) => !page[id]!.alone)).toBe(true);
  });

  test('looked at in two tabs it is not doubled, and what was set by hand since is not overwritten', async () => {
    const { store, state } = await begin();
    const pages = [seen({ quad: quad(10, 10) }), seen({ quad: quad(220, 14) })];
    answer({ look: { width: 400, height: 300, pages } });
    await store.dispatch(lookAtPages());
    await store.dispatch(lookAtPages(['document-1']));
    expect(state().library.document['document-1']!.pageIds).toEqual(['page-a', 'page-a-2']);
    expect(asked.filter(([name]) => name === 'look')).toHaveLength(1);
  });

  test('what is deleted while it waits is not looked at', async () => {
    const { store, page, state } = await begin();
    let stop: AbortSignal | undefined;
    run.mockImplementation((_job: unknown, _rank: unknown, signal: AbortSignal) => {
      stop = signal;
      return new Promise((_resolve, reject) =>
        signal.addEventListener('abort', () => reject(new DOMException('', 'AbortError'))),
      );
    });
    store.extra.onStored(cancelLooks);
    const looking = store.dispatch(lookAtPages());
    await until(() => stop !== undefined);
    await store.dispatch(deletePages(state().library.document['document-1']!, [page()]));
    await looking;
    expect([stop!.aborted, page().state]).toEqual([true, 'looking']);
  });

  test('perhaps on its side: said, unless its print is blurred', async () => {
    const first = await begin();
    answer({ look: { width: 400, height: 300, pages: [seen({ perhapsTurn: 90 })] } });
    await first.store.dispatch(lookAtPages());
    expect(first.page().checks).toMatchObject([{ id: 'sideways', value: 90 }]);
    const second = await begin();
    answer({ look: { width: 400, height: 300, pages: [seen({ perhapsTurn: 90 }, [{ id: 'blurred', severity: 'retake', value: 0.8 }])] } }); // prettier-ignore
    await second.store.dispatch(lookAtPages());
    expect(second.page().checks.map((c) => c.id)).toEqual(['blurred']);
  });

  test.each([
    [Object.assign(new Error('x'), { name: 'InvalidStateError' }), { code: 'damaged' }],
    [new Error('Array buffer allocation failed'), { code: 'too-large' }],
    [new Error(''), { code: 'not-read' }],
  ])('what goes wrong is told by a code: %p', async (error, problem) => {
    const { store, page } = await begin();
    answer(error);
    await store.dispatch(lookAtPages());
    expect(page()).toMatchObject({ state: 'failed', problem });
  });

  test('a photo that is gone says so', async () => {
    const { store, page } = await begin({ photoId: 'photo-gone' });
    answer({});
    await store.dispatch(lookAtPages());
    expect(page()).toMatchObject({ state: 'failed', problem: { code: 'photo-gone' } });
  });
});

describe('a page is looked at again', () => {
  const ready = { state: 'ready' as const, recipe: aPage('x').recipe, found: anOutline() };

  test('what depends on the edges is judged anew, other doubts stay', async () => {
    const check = (id: 'cut-off' | 'blurred') => ({ id, severity: 'look' as const });
    const { store, page } = await begin({ ...ready, checks: [check('cut-off'), check('blurred')] });
    answer({ inspect: { findings: [{ id: 'low-resolution', severity: 'look', value: 90 }] } });
    await store.dispatch(inspectAgain(page()));
    expect(
      page()
        .checks.map((c) => c.id)
        .sort(),
    ).toEqual(['blurred', 'low-resolution']);
  });

  test('how the sides of an outline came to bend goes with it: read off the lines, set by hand, or traced', async () => {
    const polygon = quad(10, 10).flatMap(([x, y]) => [0, 1, 2, 3].map((k): [number, number] => [x + k, y]));
    for (const [source, sidesFrom] of [
      ['whole', 'lines'],
      ['hand', 'hand'],
      ['found', undefined],
    ] as const) {
      const { store, page } = await begin({
        ...ready,
        recipe: { ...ready.recipe!, outline: { ...anOutline(), polygon, source } },
      });
      answer({ inspect: { findings: [] } });
      await store.dispatch(inspectAgain(page()));
      const recipe = asked.at(-1)![1][2] as { polygon: unknown; sidesFrom?: string };
      expect([recipe.polygon, recipe.sidesFrom]).toEqual([polygon, sidesFrom]);
    }
  });

  test('of the whole photo nothing is cut off: the worker is told', async () => {
    const recipe = { ...ready.recipe!, outline: wholePhoto(400, 300) };
    const { store, page } = await begin({ ...ready, recipe });
    answer({ inspect: { findings: [] } });
    await store.dispatch(inspectAgain(page()));
    expect(asked[0]![1][2]).toMatchObject({ whole: true, quad: wholePhoto(400, 300).quad });
  });

  test('what makes its print level is asked for: an angle, or bent sides; where there is none a word says so', async () => {
    const { store, page, state } = await begin(ready);
    answer({ straighten: { degrees: -3.4, bent: null } });
    expect(await store.dispatch(straighten(page()))).toEqual({ degrees: -3.4, bent: null });
    const bent = { quad: quad(5, 5), polygon: quad(5, 5).flatMap(([x, y]) => [0, 1, 2, 3].map((k) => [x + k, y])) };
    answer({ straighten: { degrees: 0, bent } });
    expect(await store.dispatch(straighten(page()))).toEqual({ degrees: 0, bent });
    expect(state().session.notice).toBeNull();
    answer({ straighten: { degrees: 0, bent: null } });
    expect(await store.dispatch(straighten(page()))).toBeNull();
    expect(state().session.notice!.code).toBe('notice.levelAlready');
  });

  test('found round a spot it is sure, since somebody said so; not found, a word says what to do', async () => {
    const { store, page, state } = await begin(ready);
    answer({ findHere: { quad: quad(5, 5), confidence: 0.3 } });
    expect(await store.dispatch(findHere(page(), [50, 50]))).toMatchObject({ confidence: 1, source: 'hand', quad: quad(5, 5) });
    answer({ findHere: null });
    expect(await store.dispatch(findHere(page(), [50, 50]))).toBeNull();
    expect(state().session.notice!.code).toBe('notice.noEdgesHere');
  });
});
