import { measured, table } from './noting';

test('figures of all benches as one table, nested ones in one cell', () => {
  const text = table({
    find: { command: 'npm run bench -- find', day: '2026-11-30', figures: { ji: 0.99, ms: 640 } },
    text: {
      command: 'npm run bench -- text',
      day: '2026-11-29',
      figures: { letters: { ours: 0.1, clean: 0.02 }, read: [9, 6, 9] },
    },
  });
  expect(text.split('\n').filter((line) => line.startsWith('|'))).toEqual([
    '| bench | figure | value |',
    '| --- | --- | --- |',
    '| `npm run bench -- find`, 2026-11-30 | ji | 0.99 |',
    '|  | ms | 640 |',
    '| `npm run bench -- text`, 2026-11-29 | letters | ours 0.1, clean 0.02 |',
    '|  | read | 9 / 6 / 9 |',
  ]);
});

test('of how many it was told does not make it another figure; over how many servers does', () => {
  expect(measured(['--runs', '1000'])).toEqual([]);
  expect(measured(['--servers', '3', '--runs', '80'])).toEqual(['--servers', '3']);
});
