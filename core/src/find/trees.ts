import { fromBase64 } from '../raster/base64';

/** Complete binary trees of one depth, each deciding by one number against one of its cuts at every node; their leaves are added up (gradient boosting, Friedman 2001). */
export interface Trees {
  depth: number;
  /** What the sum begins with. */
  base: number;
  /** Rising cuts of each number. */
  cuts: readonly (readonly number[])[];
  /** Of each tree, node by node from the top: which number, and the index of its cut; bytes. */
  nodes: Uint8Array;
  /** Of each tree from left to right. */
  leaves: Float32Array;
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
  return { depth, base, cuts: cuts.map((c) => [...c.split(' ').filter(Boolean).map(Number), Infinity]), nodes, leaves };
} // prettier-ignore

/** The sum of the leaves that some numbers lead to; a number at or below a cut goes left. */
export function sumOfTrees({ depth, base, cuts, nodes, leaves }: Trees, numbers: ArrayLike<number>): number {
  const [inner, outer] = [2 ** depth - 1, 2 ** depth];
  let sum = base;
  for (let t = 0; t * outer < leaves.length; t++) {
    let node = 0;
    for (let level = 0; level < depth; level++) {
      const at = 2 * (t * inner + node);
      node = 2 * node + (numbers[nodes[at]] <= cuts[nodes[at]][nodes[at + 1]] ? 1 : 2);
    }
    sum += leaves[t * outer + node - inner];
  }
  return sum;
}
