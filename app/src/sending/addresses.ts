import { addressSchema, mostAddresses, type AddressGroup } from '@libretto/model';

/** Addresses of a line that somebody typed: between commas, semicolons or spaces, also as "Name <address>"; each once. */
export function splitAddresses(line: string): string[] {
  const parts = line.replace(/"[^"]*"/g, ' ').replace(/[^<,;]*<([^>]*)>/g, ' $1 ').split(/[\s,;]+/).filter(Boolean); // prettier-ignore
  return [...new Set(parts)];
}

/** Those that are no addresses. */
export const badAddresses = (addresses: readonly string[]): string[] =>
  addresses.filter((a) => !addressSchema.safeParse(a).success);

/** What is being typed at the end of the line. */
const typedIn = (line: string): string => /[^\s,;]*$/.exec(line)![0].toLowerCase();

/** The addresses used before that go on with what is being typed, the last used first. */
export function completions(line: string, used: readonly string[], most = 5): string[] {
  const there = new Set(splitAddresses(line));
  return used.filter((a) => a.toLowerCase().includes(typedIn(line)) && !there.has(a)).slice(0, most);
}

/** The groups that do, by their name or an address, and bring somebody who is not there yet. */
export function groupCompletions(line: string, groups: readonly AddressGroup[], most = 5): AddressGroup[] {
  const [typed, there] = [typedIn(line), new Set(splitAddresses(line))];
  const goesOn = ({ name, addresses }: AddressGroup) => [name, ...addresses].some((word) => word.toLowerCase().includes(typed));
  return groups.filter((g) => goesOn(g) && g.addresses.some((a) => !there.has(a))).slice(0, most);
}

/** The line with one of them, or all of a group, in the place of what was being typed; each once. */
export function completed(line: string, addresses: readonly string[]): string {
  const before = line.replace(/[^\s,;]*$/, '');
  const there = new Set(splitAddresses(before));
  return `${before}${addresses.filter((a) => !there.has(a)).map((a) => `${a}, `).join('')}`;
} // prettier-ignore

/** The addresses of a line that could be kept as a group: two and more, all of them good, and no group yet. */
export function groupable(line: string, groups: readonly AddressGroup[]): string[] | null {
  const addresses = splitAddresses(line);
  if (addresses.length < 2 || addresses.length > mostAddresses || badAddresses(addresses).length) return null;
  const key = (all: readonly string[]) => [...all].sort().join();
  return groups.some((g) => key(g.addresses) === key(addresses)) ? null : addresses;
}

/** The groups with one more, in the place of one of its name. */
export const withGroup = (groups: readonly AddressGroup[], group: AddressGroup): AddressGroup[] =>
  [...groups.filter((g) => g.name !== group.name), group].sort((a, b) => a.name.localeCompare(b.name));
