import { nameWith } from './names';

test.each([
  ['2026-11-29 Scan 17.20', 'title', 'Delivery docket', '2026-11-29 Delivery docket'],
  ['2026-11-29 Scan 17.20', 'date', '2026-11-19', '2026-11-19 Scan 17.20'],
  ['2026-11-19 Delivery docket', 'number', '4471', '2026-11-19 Delivery docket 4471'],
  ['2026-11-29 Delivery docket', 'date', '2026-11-19', '2026-11-19 Delivery docket'],
  ['Wren', 'date', '2026-11-19', '2026-11-19 Wren'],
  ['2026-11-19 Delivery docket', 'title', 'delivery docket', '2026-11-19 Delivery docket'],
] as const)('“%s” with the %s “%s” is “%s”', (name, kind, text, next) => expect(nameWith(name, { kind, text })).toBe(next));
