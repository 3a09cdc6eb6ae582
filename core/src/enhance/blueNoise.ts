/** Side of the pattern, px; it repeats. */
export const noiseSide = 64;

const sigma = 1.5;
/** How far a dot is felt, px. */
const reach = 7;

let made: Float32Array | null = null;

/**
 * Thresholds 0..255, 64×64, repeating: how bright a pixel has to be to be white. Dots that are set so lie evenly and without a pattern at every tone.
 * Method: void and cluster (Ulichney, SPIE 1913 (1993)), with its Gaussian of σ 1.5 px on a torus.
 */
export function blueNoise(): Float32Array {
  return (made ??= rankedDots(noiseSide));
}

function rankedDots(side: number): Float32Array {
  const n = side * side;
  const weights: { dx: number; dy: number; weight: number }[] = [];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++)
      weights.push({ dx, dy, weight: Math.exp(-(dx * dx + dy * dy) / (2 * sigma * sigma)) });
  const set = new Uint8Array(n);
  const energy = new Float64Array(n);
  const put = (at: number, value: 0 | 1) => {
    set[at] = value;
    const [x, y] = [at % side, Math.floor(at / side)];
    const sign = value ? 1 : -1;
    for (const { dx, dy, weight } of weights) energy[((y + dy + side) % side) * side + ((x + dx + side) % side)] += sign * weight;
  };
  /** The tightest cluster among the dots, or the largest void among the rest. */
  const extreme = (dots: 0 | 1) => {
    let best = -1;
    for (let i = 0; i < n; i++)
      if (set[i] === dots && (best < 0 || (dots ? energy[i] > energy[best] : energy[i] < energy[best]))) best = i;
    return best;
  };
  // A tenth of the dots at scattered places (a linear congruence, so that the pattern is always the same), moved from clusters to voids until they stay.
  const first = Math.floor(n / 10);
  for (let k = 0, seed = 1; k < first;) {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    const at = Math.floor((seed / 2 ** 32) * n);
    if (set[at]) continue;
    put(at, 1);
    k++;
  }
  for (;;) {
    const cluster = extreme(1);
    put(cluster, 0);
    const hole = extreme(0);
    put(hole, 1);
    if (hole === cluster) break;
  }
  const rank = new Float32Array(n);
  const start = { set: set.slice(), energy: energy.slice() };
  for (let k = first - 1; k >= 0; k--) {
    const cluster = extreme(1);
    put(cluster, 0);
    rank[cluster] = k;
  }
  set.set(start.set);
  energy.set(start.energy);
  for (let k = first; k < n; k++) {
    const hole = extreme(0);
    put(hole, 1);
    rank[hole] = k;
  }
  return rank.map((k) => ((k + 0.5) / n) * 255);
}
