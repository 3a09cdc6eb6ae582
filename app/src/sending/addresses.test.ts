import { badAddresses, completed, completions, groupable, groupCompletions, splitAddresses, withGroup } from './addresses';

const [owner, insurer, yard] = ['owner@wren.example.org', 'claims@marine-mutual.example.com', 'yard@example.org'] as const;
const crew = { name: 'Crew', addresses: [yard, owner] };

test('a line is taken apart at commas, semicolons and blanks, also with names before the addresses (RFC 5322, 3.4)', () => {
  expect(splitAddresses(`"Wren, J." <${owner}>; ${insurer} ${yard}, ${yard}`)).toEqual([owner, insurer, yard]);
  expect(badAddresses([owner, 'yard', '@example.org', 'a b@example.org'])).toEqual(['yard', '@example.org', 'a b@example.org']);
});

test('what is being typed is completed by addresses used before, and by groups', () => {
  expect(completions(`${yard}, w`, [insurer, owner, yard])).toEqual([owner]);
  expect(completions(`${yard}, `, [insurer, owner, yard])).toEqual([insurer, owner]);
  expect(completed(`${yard}, w`, [owner])).toBe(`${yard}, ${owner}, `);
  expect(groupCompletions('cr', [crew])).toEqual([crew]);
  expect(groupCompletions('wren', [crew])).toEqual([crew]);
  expect(groupCompletions('ins', [crew])).toEqual([]);
  expect(groupCompletions(`${yard}, ${owner}, `, [crew])).toEqual([]);
  expect(completed(`${yard}, cr`, crew.addresses)).toBe(`${yard}, ${owner}, `);
});

test('two good addresses and more can be kept as a group, once', () => {
  expect(groupable(owner, [])).toBeNull();
  expect(groupable(`${owner}, ${insurer}`, [crew])).toEqual([owner, insurer]);
  expect(groupable(`${owner}, ${yard}`, [crew])).toBeNull();
  expect(groupable(`${owner}, yard`, [])).toBeNull();
  const office = { name: 'Boat office', addresses: [insurer] };
  expect(withGroup([crew], office)).toEqual([office, crew]);
  expect(withGroup([crew, office], { ...crew, addresses: [owner] })).toEqual([office, { ...crew, addresses: [owner] }]);
});
