import type { Document, Page } from '@libretto/model';
import { aDocument, aPage } from '../testing/records';
import { applyOps, backNow, edit, type Op } from './step';
import { keyOf, type Key } from './texts';

const records = (...list: (Document | Page)[]): Map<Key, object> =>
  new Map(list.map((r) => [keyOf('pageIds' in r ? 'document' : 'page', r.id), r]));
const order = (map: ReadonlyMap<Key, object>) => (map.get('document:document-1') as Document).pageIds.join('');
const doc = (pages: string) => records(aDocument([...pages]));
const place = (pages: string, after?: string | null): Op => ({ op: 'place', id: 'document-1', pages: [...pages], ...(after !== undefined && { after }) }); // prettier-ignore
const take = (pages: string): Op => ({ op: 'take', id: 'document-1', pages: [...pages] });

/** Applies, then takes back on whatever has become of it. */
function thereAndBack(before: string, op: Op, between: Op[] = []) {
  const first = applyOps(doc(before), [op]);
  const there = first.changed.size ? order(first.changed) : before;
  const meanwhile = applyOps(doc(there), between);
  const now = meanwhile.changed.size ? order(meanwhile.changed) : there;
  const back = applyOps(doc(now), first.inverse);
  return [there, back.changed.size ? order(back.changed) : now];
}

describe('the order of pages', () => {
  test.each<[string, Op, string]>([
    ['abc', place('x'), 'abcx'],
    ['abc', place('x', null), 'xabc'],
    ['abc', place('x', 'a'), 'axbc'],
    ['abc', place('x', 'gone'), 'abcx'],
    ['abcd', place('a', 'c'), 'bcad'],
    ['abcd', place('d', null), 'dabc'],
    ['abcd', take('bc'), 'ad'],
  ])('%s, %j: %s, and back', (before, op, after) => expect(thereAndBack(before, op)).toEqual([after, before]));

  test('a page that came in the meantime stays when another is brought back', () => {
    expect(thereAndBack('abc', take('b'), [place('x')])).toEqual(['ac', 'abcx']);
    expect(thereAndBack('abc', place('x'), [take('a')])).toEqual(['abcx', 'bc']);
  });

  // A property: whatever was moved, and whatever was added or taken by others meanwhile, nothing is lost or doubled.
  test('no page is lost or doubled, whatever is taken back over whatever', () => {
    let seed = 7;
    const next = (n: number) => (seed = (Math.imul(seed, 48271) >>> 0) % 2147483647) % n;
    for (let i = 0; i < 400; i++) {
      const pages = [...'abcdefgh'].slice(0, 2 + next(7));
      const some = pages.filter(() => next(3) === 0).join('') || pages[0]!;
      const op = next(2) ? take(some) : place(some, [null, undefined, pages[next(pages.length)]!][next(3)] as string | null);
      const [, back] = thereAndBack(pages.join(''), op, next(2) ? [place('xyz'.slice(0, 1 + next(3)), null)] : []);
      expect([...back!].filter((p) => !'xyz'.includes(p)).sort()).toEqual(pages);
      expect(new Set(back).size).toBe(back!.length);
    }
  });
});

describe('fields', () => {
  test('one field of a recipe changes, what nobody here knows stays', () => {
    const page = { ...aPage('page-a'), later: { x: 1 } } as unknown as Page;
    const { changed, inverse } = applyOps(records(page), edit('page', page, (p) => void (p.recipe!.turn = 90))); // prettier-ignore
    expect(changed.get('page:page-a')).toMatchObject({ later: { x: 1 }, recipe: { turn: 90, filter: 'auto' } });
    expect(inverse).toEqual([{ op: 'set', kind: 'page', id: 'page-a', path: ['recipe', 'turn'], value: 0 }]);
  });

  test('a field that comes goes again without a trace', () => {
    const page = aPage('page-a');
    const { changed, inverse } = applyOps(records(page), [{ op: 'set', kind: 'page', id: 'page-a', path: ['recipe', 'mirror'], value: true }]); // prettier-ignore
    const back = applyOps(changed, inverse).changed.get('page:page-a') as Page;
    expect('mirror' in back.recipe!).toBe(false);
  });

  test('what has no record, or no recipe yet, is missed and nothing breaks', () => {
    const ops: Op[] = [
      { op: 'set', kind: 'page', id: 'page-gone', path: ['alone'], value: false },
      { op: 'set', kind: 'page', id: 'page-a', path: ['recipe', 'turn'], value: 90 },
    ];
    const { changed, missed } = applyOps(records(aPage('page-a', { recipe: null })), ops);
    expect([changed.size, missed]).toEqual([0, ops]);
  });

  test('what somebody has changed since stays; what the work behind found out does not hinder', () => {
    const page = aPage('page-a', { checks: [{ id: 'glare', severity: 'look' }] });
    const ops: Op[] = [
      { op: 'set', kind: 'page', id: 'page-a', path: ['recipe', 'turn'], value: 90 },
      { op: 'set', kind: 'page', id: 'page-a', path: ['checks'], value: [], soft: true },
    ];
    const { changed, inverse } = applyOps(records(page), ops);
    expect(backNow(changed, { ops, inverse })).toEqual({ ops: inverse, stay: [] });
    const since = applyOps(changed, [
      { op: 'set', kind: 'page', id: 'page-a', path: ['recipe', 'turn'], value: 180 },
      { op: 'set', kind: 'page', id: 'page-a', path: ['checks'], value: [{ id: 'blank', severity: 'look' }] },
    ]);
    const { stay } = backNow(since.changed, { ops, inverse });
    expect(stay.map((op) => op.op === 'set' && op.path.join('.'))).toEqual(['recipe.turn']);
  });

  test('a list within a record is one value', () => {
    const page = aPage('page-a', { checks: [{ id: 'glare', severity: 'look' }] });
    expect(() => edit('page', page, (p) => void p.checks.push({ id: 'blank', severity: 'look' }))).toThrow('checks');
  });
});
