import { betterOf, bySeverity, checkOf, remedyOf } from './checking';
import { checks } from './lists';
import { checkSchema } from './records';

test('every check has words and one action that settles it', () => {
  for (const { id, label, action } of checks) {
    const check = checkOf({ id, severity: 'look' });
    expect(check.words).toBe(label);
    expect(remedyOf(check).action).toBe(action);
    expect(checkSchema.parse(check)).toEqual(check);
  }
});

test('what was measured is said, with what would be enough', () => {
  expect(checkOf({ id: 'low-resolution', severity: 'look', value: 92.4 }).words).toBe('Only 92 dpi; 150 would do');
  expect(checkOf({ id: 'cut-off', severity: 'retake', value: 0.0814 }).words).toBe('Cut off: 8.1 % missing');
  expect(checkOf({ id: 'grainy', severity: 'retake', value: 14.2 }).words).toBe('Grainy: needs more light');
  expect(checkOf({ id: 'glare', severity: 'look', value: 0.21 }).words).toBe('Glare over 21 %');
  expect(checkOf({ id: 'blurred', severity: 'look', value: 0.5 })).toMatchObject({
    words: 'Blurred: edges 0.5 mm wide',
    value: 0.5,
  });
});

test('what has to be taken again comes before what wants a look', () => {
  const list = (['note', 'retake', 'look'] as const).map((severity) => checkOf({ id: 'glare', severity, value: 0.1 }));
  expect(bySeverity(list).map((c) => c.severity)).toEqual(['retake', 'look', 'note']);
});

test('a record written before checks had values is still read', () => {
  expect(checkSchema.parse({ id: 'unsure-outline', severity: 'look', words: 'Edges not sure' }).value).toBeUndefined();
});

test('of two photos of one sheet the clearly sharper one is named, otherwise neither', () => {
  const same = (value?: number) => checkOf({ id: 'same-page', severity: 'look', ...(value && { value }) });
  expect([same(1.3), same(0.7), same(1.02), same()].map(betterOf)).toEqual(['this', 'other', null, null]);
});

test('a doubt about which way is up says by how much', () => {
  expect(checkOf({ id: 'sideways', severity: 'look', value: 180 }).words).toBe('Maybe upside down');
  expect(checkOf({ id: 'sideways', severity: 'look', value: 90 }).words).toBe('Maybe sideways');
});
