import { fromBase64 } from '../raster/base64';

/** Complete binary trees of one depth, each deciding by one number against one of its cuts at every node; their leaves are added up (gradient boosting, Friedman 2001). */
export interface Trees {
  depth: number;
  /** What the sum begins with. */
  base: number;
  /** Of each tree, node by node from the top: which number decides, and the greatest one that goes left. */
  names: Uint8Array;
  limits: Float64Array;
  /** Of each tree from left to right. */
  leaves: Float32Array;
}

/**
 * @param cuts of each number its rising cuts, with Infinity at the end.
 * @param nodes of each tree, node by node from the top: which number, and the index of its cut; bytes.
 */
export function treesOf(
  depth: number,
  base: number,
  cuts: readonly (readonly number[])[],
  nodes: Uint8Array,
  leaves: Float32Array,
): Trees {
  const names = new Uint8Array(nodes.length / 2);
  const limits = new Float64Array(names.length);
  for (let i = 0; i < names.length; i++) {
    names[i] = nodes[2 * i];
    limits[i] = cuts[names[i]][nodes[2 * i + 1]];
  }
  return { depth, base, names, limits, leaves };
}

/**
 * @param cuts of each number its cuts with spaces between; Infinity follows them.
 * @param packed bytes in base64: of each tree its nodes, then its leaves as 16 bit integers in steps of `step`.
 */
export function unpackTrees(depth: number, base: number, cuts: readonly string[], packed: string, step: number): Trees {
  const bytes = fromBase64(packed);
  const [inner, outer] = [2 * (2 ** depth - 1), 2 ** depth];
  const count = bytes.length / (inner + 2 * outer);
  const nodes = new Uint8Array(count * inner);
  const leaves = new Float32Array(count * outer);
  for (let t = 0, p = 0; t < count; t++) {
    nodes.set(bytes.subarray(p, (p += inner)), t * inner);
    for (let i = 0; i < outer; i++, p += 2) leaves[t * outer + i] = (((bytes[p] | (bytes[p + 1] << 8)) << 16) >> 16) * step;
  }
  return treesOf(
    depth,
    base,
    cuts.map((c) => [...c.split(' ').filter(Boolean).map(Number), Infinity]),
    nodes,
    leaves,
  );
}

/** The sum of the leaves that the numbers from one place on lead to; a number at or below its limit goes left. */
export function sumOfTrees({ depth, base, names, limits, leaves }: Trees, numbers: ArrayLike<number>, from = 0): number {
  const inner = 2 ** depth - 1;
  let sum = base;
  for (let first = 0, leaf = -inner; first < names.length; first += inner, leaf += inner + 1) {
    let node = 0;
    for (let level = 0; level < depth; level++)
      node = 2 * node + 2 - Number(numbers[from + names[first + node]] <= limits[first + node]);
    sum += leaves[leaf + node];
  }
  return sum;
}

/** The same of every row of numbers; four rows go down a tree side by side, so that none waits for another's look-up. */
export function sumsOfTrees(trees: Trees, numbers: Float32Array, rowLength: number): Float64Array {
  const { depth, base, names, limits, leaves } = trees;
  const inner = 2 ** depth - 1;
  const count = numbers.length / rowLength;
  const sums = new Float64Array(count);
  const together = count - (count % 4);
  for (let row = 0; row < together; row += 4) {
    const a = row * rowLength;
    const [b, c, d] = [a + rowLength, a + 2 * rowLength, a + 3 * rowLength];
    let [sa, sb, sc, sd] = [base, base, base, base];
    for (let first = 0, leaf = -inner; first < names.length; first += inner, leaf += inner + 1) {
      let [na, nb, nc, nd] = [first, first, first, first];
      for (let level = 0; level < depth; level++) {
        // A node's children stand at twice its place and 1 or 2.
        na = 2 * na - first + 2 - Number(numbers[a + names[na]] <= limits[na]);
        nb = 2 * nb - first + 2 - Number(numbers[b + names[nb]] <= limits[nb]);
        nc = 2 * nc - first + 2 - Number(numbers[c + names[nc]] <= limits[nc]);
        nd = 2 * nd - first + 2 - Number(numbers[d + names[nd]] <= limits[nd]);
      }
      sa += leaves[leaf + na - first];
      sb += leaves[leaf + nb - first];
      sc += leaves[leaf + nc - first];
      sd += leaves[leaf + nd - first];
    }
    sums[row] = sa;
    sums[row + 1] = sb;
    sums[row + 2] = sc;
    sums[row + 3] = sd;
  }
  for (let row = together; row < count; row++) sums[row] = sumOfTrees(trees, numbers, row * rowLength);
  return sums;
}
