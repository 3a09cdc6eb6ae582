import { aDocument, anOutline, aPage } from '../testing/records';
import {
  approveOutline,
  deletePages,
  finishAll,
  joinPages,
  learnPage,
  mirrorPage,
  movePage,
  pagesOf,
  paintPage,
  renameDocument,
  setFinish,
  setOutline,
  setOutlines,
  settleCheck,
  splitPage,
  takeTwinOut,
  turnAsSaid,
  turnPages,
  unpaintPage,
} from './editing';
import { aStore } from '../testing/store';
import { redoLast, undoLast } from './change';

async function begin() {
  const pages = [aPage('page-a'), aPage('page-b', { checks: [{ id: 'unsure-outline', severity: 'look' }] }), aPage('page-c')];
  const store = await aStore([
    ...pages.map((record) => ({ kind: 'page' as const, record })),
    { kind: 'document', record: aDocument(pages.map((p) => p.id)) },
  ]);
  const document = () => store.getState().library.document['document-1']!;
  return {
    store,
    document,
    order: () =>
      document()
        .pageIds.map((id) => id.slice(-1))
        .join(''),
    page: (id: string) => store.getState().library.page[id]!,
    steps: () => store.getState().library.steps,
  };
}

test('moving, deleting and naming can each be taken back and done again, in turn', async () => {
  const { store, document, order, page } = await begin();
  await store.dispatch(movePage(document(), 0, 2));
  expect(order()).toBe('bca');
  await store.dispatch(deletePages(document(), [page('page-c')]));
  expect(order()).toBe('ba');
  expect(page('page-c').deletedAt).not.toBeNull();
  await store.dispatch(renameDocument(document(), '  Wren,   survey '));
  expect(document().name).toBe('Wren, survey');

  await store.dispatch(undoLast('document-1'));
  expect(document().name).toBe('Hull survey');
  await store.dispatch(undoLast('document-1'));
  expect([order(), page('page-c').deletedAt]).toEqual(['bca', null]);
  await store.dispatch(undoLast('document-1'));
  expect(order()).toBe('abc');
  await store.dispatch(undoLast('document-1'));
  await store.dispatch(redoLast('document-1'));
  await store.dispatch(redoLast('document-1'));
  expect(order()).toBe('ba');
});

test('undo means what was done last, also before that is stored', async () => {
  const { store, document, order, page } = await begin();
  await store.dispatch(movePage(document(), 2, 0));
  void store.dispatch(deletePages(document(), [page('page-a')]));
  expect(order()).toBe('cb');
  await store.dispatch(undoLast('document-1'));
  expect(order()).toBe('cab');
  void store.dispatch(deletePages(document(), [page('page-a')]));
  void store.dispatch(undoLast('document-1'));
  await store.dispatch(undoLast('document-1'));
  expect(order()).toBe('abc');
  void store.dispatch(redoLast('document-1'));
  await store.dispatch(redoLast('document-1'));
  expect(order()).toBe('cb');
});

test('a new step ends what could be done again', async () => {
  const { store, document, order } = await begin();
  await store.dispatch(movePage(document(), 0, 1));
  await store.dispatch(undoLast('document-1'));
  await store.dispatch(movePage(document(), 2, 0));
  await store.dispatch(redoLast('document-1'));
  expect(order()).toBe('cab');
});

test('an empty name changes nothing and leaves no step', async () => {
  const { store, document } = await begin();
  await store.dispatch(renameDocument(document(), '   '));
  await store.dispatch(renameDocument(document(), 'Hull survey'));
  expect(store.getState().library.steps).toHaveLength(0);
});

test('setting the edges, or finding them good, settles the doubt; taking it back brings the doubt back', async () => {
  const { store, page } = await begin();
  await store.dispatch(setOutline(page('page-b'), anOutline({ source: 'hand', confidence: 1 })));
  expect(page('page-b').checks).toEqual([]);
  await store.dispatch(undoLast('document-1'));
  expect(page('page-b').checks).toHaveLength(1);
  await store.dispatch(approveOutline(page('page-b')));
  expect([page('page-b').checks, page('page-b').recipe!.outline.confidence]).toEqual([[], 1]);
});

test('one filter for all pages is one step', async () => {
  const { store, page, steps } = await begin();
  const pages = pagesOf(store.getState(), store.getState().library.document['document-1']);
  await store.dispatch(setFinish(pages, { filter: 'ink' }, { code: 'notice.finishSome', values: { filter: 'ink', count: 3 } }));
  expect(pages.map((p) => page(p.id).recipe!.filter)).toEqual(['ink', 'ink', 'ink']);
  expect(store.getState().session.notice).toEqual({
    code: 'notice.finishSome',
    values: { filter: 'ink', count: 3 },
    undo: steps().at(-1)!.id,
  });
  await store.dispatch(undoLast('document-1'));
  expect(pages.map((p) => page(p.id).recipe!.filter)).toEqual(['auto', 'auto', 'auto']);
});

test('four quarter turns are none', async () => {
  const { store, page } = await begin();
  for (const turn of [90, 180, 270, 0]) {
    await store.dispatch(turnPages([page('page-a')]));
    expect(page('page-a').recipe!.turn).toBe(turn);
  }
});

test('what is turned on a filter goes with it, and putting it back leaves no trace', async () => {
  const { store, page } = await begin();
  await store.dispatch(setFinish([page('page-a')], { filter: 'grey', adjust: { contrast: 0.4 } }));
  expect(page('page-a').recipe).toMatchObject({ filter: 'grey', adjust: { contrast: 0.4 } });
  await store.dispatch(setFinish([page('page-a')], { filter: 'grey' }));
  expect('adjust' in page('page-a').recipe!).toBe(false);
  // The same again is no step.
  const steps = store.getState().library.steps.length;
  await store.dispatch(setFinish([page('page-a')], { filter: 'grey' }));
  expect(store.getState().library.steps).toHaveLength(steps);
});

test('a finish for all is remembered for the pages to come', async () => {
  const { store, document, page } = await begin();
  const pages = pagesOf(store.getState(), document());
  await store.dispatch(finishAll(document(), pages, { filter: 'ink', adjust: { strokes: 0.3 } }));
  expect(document().finish).toEqual({ filter: 'ink', adjust: { strokes: 0.3 } });
  expect(pages.every((p) => page(p.id).recipe!.adjust!.strokes === 0.3)).toBe(true);
  await store.dispatch(undoLast('document-1'));
  expect(page('page-a').recipe!.filter).toBe('auto');
});

test('a check that is found fine goes, and comes back with undo', async () => {
  const { store, page } = await begin();
  await store.dispatch(settleCheck(page('page-b'), page('page-b').checks[0]!));
  expect(page('page-b').checks).toEqual([]);
  await store.dispatch(undoLast('document-1'));
  expect(page('page-b').checks).toHaveLength(1);
});

test('a page split in two and joined again is one page, each step can be taken back', async () => {
  const { store, document, order, page } = await begin();
  const halves = [anOutline({ confidence: 0.9 }), anOutline({ confidence: 0.8 })] as const;
  await store.dispatch(splitPage(document(), page('page-a'), halves));
  expect(document().pageIds).toHaveLength(4);
  const further = page(document().pageIds[1]!);
  expect([page('page-a').recipe!.outline, further.recipe!.outline]).toEqual(halves);
  expect([further.photoId, further.deletedAt]).toEqual([page('page-a').photoId, null]);
  await store.dispatch(joinPages(document(), page('page-a'), further, anOutline({ confidence: 1 })));
  expect(order()).toBe('abc');
  expect(page(further.id).deletedAt).not.toBeNull();
  await store.dispatch(undoLast('document-1'));
  await store.dispatch(undoLast('document-1'));
  expect(order()).toBe('abc');
  expect(page(further.id).deletedAt).not.toBeNull();
});

test('mirrored twice is not mirrored; one outline for several pages is one step', async () => {
  const { store, page } = await begin();
  await store.dispatch(mirrorPage(page('page-a')));
  expect(page('page-a').recipe!.mirror).toBe(true);
  await store.dispatch(mirrorPage(page('page-a')));
  expect(page('page-a').recipe!.mirror).toBe(false);
  const outline = anOutline({ source: 'hand', confidence: 1 });
  await store.dispatch(setOutlines([page('page-b'), page('page-c')], outline));
  expect([page('page-b'), page('page-c')].map((p) => p.recipe!.outline)).toEqual([outline, outline]);
  await store.dispatch(undoLast('document-1'));
  expect(page('page-c').recipe!.outline.source).not.toBe('hand');
});

test('a page that may lie on its side is turned by as much as its check says, and the doubt goes; undo brings both back', async () => {
  const { store, page } = await begin();
  const check = { id: 'sideways' as const, severity: 'look' as const, value: 270 };
  await store.dispatch(learnPage(page('page-a'), { checks: [check] }));
  await store.dispatch(turnAsSaid(page('page-a'), page('page-a').checks[0]!));
  expect(page('page-a')).toMatchObject({ recipe: { turn: 270 }, checks: [] });
  await store.dispatch(undoLast('document-1'));
  expect(page('page-a')).toMatchObject({ recipe: { turn: 0 }, checks: [check] });
});

test('of two photos of one sheet the worse one is taken out where the better one has the check', async () => {
  const { store, document, order, page } = await begin();
  const check = { id: 'same-page' as const, severity: 'look' as const, value: 1.4, pageId: 'page-a' };
  await store.dispatch(learnPage(page('page-c'), { checks: [check] }));
  await store.dispatch(takeTwinOut(document(), page('page-c'), page('page-c').checks[0]!, page('page-a')));
  expect([order(), page('page-c').checks.length, page('page-a').deletedAt !== null]).toEqual(['bc', 0, true]);
  await store.dispatch(undoLast('document-1'));
  expect([order(), page('page-c').checks.length, page('page-a').deletedAt]).toEqual(['abc', 1, null]);
});

test('edges of two pages that share a side are set, and taken back, in one step', async () => {
  const { store, page } = await begin();
  const [a, b] = [anOutline({ confidence: 0.7 }), anOutline({ confidence: 0.6 })];
  const before = page('page-b').recipe!.outline;
  await store.dispatch(setOutline(page('page-a'), a, [{ page: page('page-b'), outline: b }]));
  expect([page('page-a').recipe!.outline, page('page-b').recipe!.outline]).toEqual([a, b]);
  await store.dispatch(undoLast('document-1'));
  expect(page('page-b').recipe!.outline).toEqual(before);
});

test('strokes painted by hand are kept in order, taken back one by one or all at once', async () => {
  const { store, page } = await begin();
  const touch = (kind: 'fill' | 'keep') => ({ kind, points: [[1500, 2000] as [number, number]], radius: 60 });
  await store.dispatch(paintPage(page('page-a'), touch('fill')));
  await store.dispatch(paintPage(page('page-a'), touch('keep')));
  expect(page('page-a').recipe!.touches!.map((t) => t.kind)).toEqual(['fill', 'keep']);
  await store.dispatch(undoLast('document-1'));
  expect(page('page-a').recipe!.touches).toHaveLength(1);
  await store.dispatch(unpaintPage(page('page-a')));
  expect(page('page-a').recipe!.touches).toBeUndefined();
  await store.dispatch(undoLast('document-1'));
  expect(page('page-a').recipe!.touches).toHaveLength(1);
});
