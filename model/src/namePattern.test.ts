import { firstNamePattern, nameByPattern, namePatternSchema, type NamePattern } from './namePattern';

const at = new Date(2026, 10, 20, 9, 5);
const all = { date: '2026-11-19', title: 'Delivery docket', number: '4471', at };

test.each<[NamePattern, object, string]>([
  [firstNamePattern, all, '2026-11-19 Delivery docket 4471'],
  [firstNamePattern, { at }, '2026-11-20'],
  [firstNamePattern, { at, title: 'Receipt' }, '2026-11-20 Receipt'],
  [{ parts: [{ kind: 'number' }, { kind: 'text', text: 'Wren' }, { kind: 'time' }], separator: '_' }, all, '4471_Wren_09.05'],
  [{ parts: [{ kind: 'text' }, { kind: 'title' }], separator: ' - ' }, all, 'Delivery docket'],
  [{ parts: [], separator: ' ' }, all, ''],
])('%j makes of %j “%s”', (pattern, facts, name) => {
  expect(namePatternSchema.safeParse(pattern).success).toBe(true);
  expect(nameByPattern(pattern, facts as typeof all)).toBe(name);
});
