import { editDistance } from '@libretto/text/editDistance';
import { characterError, plain } from './characters';

test('edit distance of the textbook’s example: kitten to sitting is 3', () => {
  // Source: Levenshtein distance, standard example of the literature (from memory).
  expect(editDistance('kitten', 'sitting')).toBe(3);
  expect(editDistance('', 'abc')).toBe(3);
});

test('case, quotes, ligatures, rules and hyphenation do not count', () => {
  expect(plain('The ﬁne “Hull–plate” ____ sur-\nvey')).toBe('the fine "hull-plate" survey');
});

test('the order in which columns are read does not count, a wrong letter and a missing word do', () => {
  expect(characterError('mast step oak', 'oak mast step')).toBe(0);
  expect(characterError('mast step oak', 'mast stop oak')).toBeCloseTo(1 / 11);
  expect(characterError('mast step oak', 'mast oak')).toBeCloseTo(4 / 11);
  expect(characterError('mast', '')).toBe(1);
});
