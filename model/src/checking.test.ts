import { betterOf, bySeverity, checkOf, remedyOf } from './checking';
import { checks } from './lists';
import { checkSchema } from './records';

test('every check has one action that settles it, and is stored as measured', () => {
  for (const { id, remedy } of checks) {
    const check = checkOf({ id, severity: 'look', value: 0.123456 });
    expect(remedyOf(check).remedy).toBe(remedy);
    expect(check).toEqual({ id, severity: 'look', value: 0.1235 });
    expect(checkSchema.parse(check)).toEqual(check);
  }
});

test('what has to be taken again comes before what wants a look', () => {
  const list = (['note', 'retake', 'look'] as const).map((severity) => checkOf({ id: 'glare', severity, value: 0.1 }));
  expect(bySeverity(list).map((c) => c.severity)).toEqual(['retake', 'look', 'note']);
});

test('of two photos of one sheet the clearly sharper one is named, otherwise neither', () => {
  const same = (value?: number) => checkOf({ id: 'same-page', severity: 'look', ...(value && { value }) });
  expect([same(1.3), same(0.7), same(1.02), same()].map(betterOf)).toEqual(['this', 'other', null, null]);
});
