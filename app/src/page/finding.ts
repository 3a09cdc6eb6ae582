/** Letters without their marks and case: é is found by e. */
export const fold = (text: string): string => text.toLowerCase().normalize('NFKD').replace(/\p{M}/gu, '');

/** How many words of a text hold one that is looked for. */
export function countHits(text: string, query: string): number {
  const wanted = fold(query).split(/\s+/).filter(Boolean);
  if (!wanted.length) return 0;
  return fold(text)
    .split(/\s+/)
    .filter((word) => wanted.some((w) => word.includes(w))).length;
}
