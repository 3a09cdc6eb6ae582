import { editDistance } from '@libretto/text/editDistance';

/** Text as both sides are compared: case, quotes, dashes, ligatures, rules and hyphenation aside. */
export function plain(text: string): string {
  return text
    .normalize('NFKC')
    .toLowerCase()
    .replace(/[’‘]/g, "'")
    .replace(/[“”]/g, '"')
    .replace(/[–—−]/g, '-')
    .replace(/[-_.]{4,}/g, ' ')
    .replace(/(\w)-\n(\w)/g, '$1$2')
    .split(/\s+/)
    .filter(Boolean)
    .join(' ');
}

/**
 * Character error rate free of reading order, 0..1: words that are not found again are paired with the nearest ones left over by edit distance
 * (greedily), what stays unpaired counts in full; over the number of characters of the truth without spaces. Common practice where columns and
 * tables make the order ambiguous.
 */
export function characterError(truth: string, read: string): number {
  const wanted = plain(truth).split(' ').filter(Boolean);
  if (!wanted.length) return 0;
  const left = new Map<string, number>();
  for (const word of plain(read).split(' ').filter(Boolean)) left.set(word, (left.get(word) ?? 0) + 1);
  const missing = wanted.filter((word) => {
    const n = left.get(word) ?? 0;
    if (n) left.set(word, n - 1);
    return !n;
  });
  const spare = [...left].flatMap(([word, n]) => Array<string>(n).fill(word));
  const byPair = new Map<string, Set<number>>();
  spare.forEach((word, j) => pairs(word).forEach((pair) => byPair.set(pair, (byPair.get(pair) ?? new Set()).add(j))));
  const candidates: [number, number, number][] = [];
  missing.forEach((word, i) => {
    const limit = Math.max(1, Math.floor(0.6 * word.length));
    const near = new Set(pairs(word).flatMap((pair) => [...(byPair.get(pair) ?? [])]));
    for (const j of near) {
      if (Math.abs(spare[j]!.length - word.length) > limit) continue;
      const distance = editDistance(word, spare[j]!);
      if (distance <= limit) candidates.push([distance, i, j]);
    }
  });
  candidates.sort((a, b) => a[0] - b[0]);
  const [doneMissing, doneSpare] = [new Set<number>(), new Set<number>()];
  let cost = 0;
  for (const [distance, i, j] of candidates) {
    if (doneMissing.has(i) || doneSpare.has(j)) continue;
    doneMissing.add(i);
    doneSpare.add(j);
    cost += distance;
  }
  missing.forEach((word, i) => (cost += doneMissing.has(i) ? 0 : word.length));
  spare.forEach((word, j) => (cost += doneSpare.has(j) ? 0 : word.length));
  return Math.min(1, cost / wanted.join('').length);
}

function pairs(word: string): string[] {
  return Array.from({ length: Math.max(1, word.length - 1) }, (_, k) => word.slice(k, k + 2));
}
