/** The list with the item at `from` moved to `to`; positions outside are brought to the ends. */
export function moved<T>(list: readonly T[], from: number, to: number): T[] {
  if (from < 0 || from >= list.length) return [...list];
  const rest = list.filter((_, i) => i !== from);
  const at = Math.max(0, Math.min(rest.length, to));
  return [...rest.slice(0, at), list[from]!, ...rest.slice(at)];
}
