/** Levels 0..255 below which the given shares of the values lie. */
export function percentiles(values: Float32Array, shares: readonly number[]): number[] {
  const bins = new Uint32Array(1024);
  for (let i = 0; i < values.length; i++) bins[Math.max(0, Math.min(1023, (values[i] * 4) | 0))]++;
  return shares.map((share) => {
    let seen = 0;
    for (let b = 0; b < 1024; b++) {
      seen += bins[b];
      if (seen >= share * values.length) return b / 4;
    }
    return 255;
  });
}

/** Null for fewer than eight values. */
export function median(list: number[]): number | null {
  if (list.length < 8) return null;
  list.sort((a, b) => a - b);
  return list[list.length >> 1];
}
