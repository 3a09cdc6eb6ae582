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

/** Upper median; null for fewer than eight values. Moves the values about: Hoare, "Algorithm 65: Find", CACM 4 (1961). */
export function median(values: Float32Array): number | null {
  if (values.length < 8) return null;
  const k = values.length >> 1;
  let low = 0;
  let high = values.length - 1;
  while (low < high) {
    const pivot = values[(low + high) >> 1];
    let i = low;
    let j = high;
    while (i <= j) {
      while (values[i] < pivot) i++;
      while (values[j] > pivot) j--;
      if (i > j) break;
      const v = values[i];
      values[i++] = values[j];
      values[j--] = v;
    }
    if (k <= j) high = j;
    else if (k >= i) low = i;
    else break;
  }
  return values[k];
}
