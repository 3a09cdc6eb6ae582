import { readRecord, recordVersions } from './migrations';
import { firstSettings, lookingPage, type Page } from './records';

const page = lookingPage('page-1', 'document-1', 'photo-1');
const text = (record: object) => JSON.stringify(record);

describe('forward, each from the version before', () => {
  test('page 2 → 3: strokes lie on the photo', () => {
    const quad = [[100, 100], [520, 140], [500, 700], [80, 660]]; // prettier-ignore
    const recipe = (touches: object[]) => ({
      v: 1,
      outline: { v: 1, quad, confidence: 1, source: 'hand' },
      turn: 90,
      filter: 'auto',
      touches,
    });
    const stroke = { kind: 'fill', points: [[0, 0], [1, 0], [1, 1], [0, 1], [0.5, 0.5]], radius: 0.1 }; // prettier-ignore
    const { record } = readRecord('page', text({ ...page, v: 2, recipe: recipe([stroke]) })) as { record: Page };
    const [{ points, radius }] = record.recipe!.touches!;
    [...quad, [300, 400]].forEach((corner, i) => corner.forEach((v, k) => expect(points[i]![k]).toBeCloseTo(v, 6)));
    expect(radius).toBeCloseTo(0.1 * Math.hypot(20, 560), 6);
    // Where corners are nearer the camera, what lies between them is too: the middle of the page is where its diagonals cross.
    const slanted = [[200, 100], [400, 100], [600, 500], [0, 500]]; // prettier-ignore
    const far = readRecord('page', text({ ...page, v: 2, recipe: { ...recipe([stroke]), outline: { v: 1, quad: slanted, confidence: 1, source: 'hand' } } })) as { record: Page }; // prettier-ignore
    expect(far.record.recipe!.touches![0]!.points[4]![1]).toBeCloseTo(200, 6);
  });

  test('page 1 → 2: checks lose their words, problems become codes', () => {
    const old = {
      ...page,
      v: 1,
      state: 'failed',
      problem: 'The picture is damaged and cannot be read',
      checks: [{ id: 'low-resolution', severity: 'look', words: 'Only 92 dpi; 150 would do', value: 92 }],
    };
    expect(readRecord('page', text(old))).toEqual({
      record: {
        ...page,
        state: 'failed',
        problem: { code: 'damaged' },
        checks: [{ id: 'low-resolution', severity: 'look', value: 92 }],
      },
    });
    const other = readRecord('page', text({ ...old, problem: 'Out of the blue' })) as { record: Page };
    expect(other.record.problem).toEqual({ code: 'said', said: 'Out of the blue' });
  });

  test('delivery 1 → 2: reasons become codes; what a server said is kept', () => {
    const old = {
      v: 1, id: 'delivery-1', documentId: 'document-1', place: { v: 1, id: 'yard', kind: 'folder', name: 'Yard', about: '', limit: 9 },
      fileName: 'a.pdf', bytes: 3, sha256: 'ab'.repeat(32), message: '', state: 'failed', attempts: 1,
      createdAt: '2026-11-20T09:00:00.000Z', proof: null,
    }; // prettier-ignore
    expect(readRecord('delivery', text({ ...old, reason: 'Taken back by you' }))).toMatchObject({ record: { v: 2, reason: { code: 'cancelled' } } }); // prettier-ignore
    expect(readRecord('delivery', text({ ...old, reason: 'Yard is full' }))).toMatchObject({ record: { reason: { code: 'said', said: 'Yard is full' } } }); // prettier-ignore
    expect(readRecord('delivery', text(old))).not.toHaveProperty('record.reason');
  });

  test('settings 1 → 2: letter keys are on, and what the first ones did not hold has its usual value', () => {
    const { capture: _capture, letterKeys: _keys, ...old } = firstSettings;
    expect(readRecord('settings', text({ ...old, v: 1, theme: 'dark' }))).toEqual({
      record: { ...firstSettings, theme: 'dark' },
    });
  });
});

test('fields that nobody here knows stay, at any depth', () => {
  const later = { ...page, folder: 'Yard', found: null, checks: [{ id: 'blank', severity: 'note', since: 3 }] };
  expect(readRecord('page', text(later))).toEqual({ record: later });
});

test('a newer version is told, not read', () => {
  expect(readRecord('page', text({ ...page, v: recordVersions.page + 1, state: 'folded' }))).toEqual({
    newer: recordVersions.page + 1,
  });
});

test.each([
  ['torn', '{"v":2,"id":"pa', /JSON/],
  ['no record', '[1]', /not a record/],
  ['a field that does not fit', text({ ...page, state: 'folded' }), /state/],
])('damaged: %s', (_, stored, problem) =>
  expect(readRecord('page', stored)).toEqual({ problem: expect.stringMatching(problem) }),
);
