import { addressSchema } from '@libretto/model';

/** Addresses of a line that somebody typed: between commas, semicolons or spaces, also as "Name <address>"; each once. */
export function splitAddresses(line: string): string[] {
  const parts = line.replace(/"[^"]*"/g, ' ').replace(/[^<,;]*<([^>]*)>/g, ' $1 ').split(/[\s,;]+/).filter(Boolean); // prettier-ignore
  return [...new Set(parts)];
}

/** Those that are no addresses. */
export const badAddresses = (addresses: readonly string[]): string[] =>
  addresses.filter((a) => !addressSchema.safeParse(a).success);

/** The addresses used before that go on with what is being typed at the end of the line, the last used first. */
export function completions(line: string, used: readonly string[], most = 5): string[] {
  const typed = /[^\s,;]*$/.exec(line)![0].toLowerCase();
  const there = new Set(splitAddresses(line));
  return used.filter((a) => a.toLowerCase().includes(typed) && !there.has(a)).slice(0, most);
}

/** The line with one of them in the place of what was being typed. */
export const completed = (line: string, address: string): string => `${line.replace(/[^\s,;]*$/, '')}${address}, `;
