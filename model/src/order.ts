/** The list with the item at `from` moved to `to`; positions outside are brought to the ends. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  if (from < 0 || from >= list.length) return [...list];
  const rest = list.filter((_, i) => i !== from);
  const at = Math.max(0, Math.min(rest.length, to));
  return [...rest.slice(0, at), list[from]!, ...rest.slice(at)];
}

/**
 * After which item some that are moved together come to stand when they are dropped on another one: behind it when they come from before it, else
 * before it. Null: in front of all.
 */
export function anchorFor<T>(list: readonly T[], items: readonly T[], lifted: T, over: T): T | null {
  const rest = list.filter((item) => item === over || !items.includes(item));
  const behind = list.indexOf(lifted) < list.indexOf(over);
  const at = rest.indexOf(over);
  return (behind ? over : rest[at - 1]) ?? null;
}

/** Fronts in order, then backs from the last to the first, as a stack is shot that is turned over as a whole: put together. With an odd number there is one front more. */
export function interleaved<T>(list: readonly T[]): T[] {
  const fronts = list.slice(0, Math.ceil(list.length / 2));
  const backs = list.slice(fronts.length).reverse();
  // Of an odd number the last sheet has no back.
  return fronts.flatMap((front, i) => (i < backs.length ? [front, backs[i]!] : [front]));
}
