import { writeFileSync } from 'node:fs';
import { sumOfTrees, treesOf, type Trees } from '@libretto/core/find/trees';

/** Least sum of second derivatives on either side of a cut; penalty on leaves; share of rows and numbers that a tree sees. */
const boosting = { trees: 80, depth: 4, rate: 0.12, bins: 32, least: 1, penalty: 3, rows: 0.7, numbers: 0.6 };
const leafStep = 1 / 2048;

/** A linear congruential generator, 0 to 1. */
function dice(seed: number): () => number {
  let state = seed;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296;
}

/** Cuts between equally many rows, once each. */
function cutsOf(values: readonly number[]): number[] {
  const sorted = [...values].sort((a, b) => a - b);
  const at = (q: number) => +sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))]!.toPrecision(4);
  return [...new Set(Array.from({ length: boosting.bins - 1 }, (_, i) => at((i + 1) / boosting.bins)))];
}

export interface Row {
  numbers: readonly number[];
  /** What it is to say. */
  yes: boolean;
  /** How much it counts; default 1. */
  weight?: number;
}

/** Trees with what they are written from. */
export interface Trained extends Trees {
  cuts: readonly (readonly number[])[];
  nodes: Uint8Array;
}

const numbersOf = (rows: readonly Row[]) => rows[0]!.numbers;

/** Boosted trees (Friedman 2001, with second derivatives as Chen and Guestrin 2016) for the probability of yes. */
export function train(rows: readonly Row[], more: Partial<typeof boosting> = {}): Trained {
  const { trees, depth, rate, least, penalty } = { ...boosting, ...more };
  const roll = dice(9);
  const cuts = numbersOf(rows).map((_, k) => cutsOf(rows.map((r) => r.numbers[k]!)));
  const limits = cuts.map((c) => [...c, Infinity]);
  const bins = rows.map((r) => Uint8Array.from(r.numbers, (v, k) => cuts[k]!.filter((cut) => v > cut).length));
  const share = rows.filter((r) => r.yes).length / rows.length;
  const base = Math.log(share / (1 - share));
  const sums = rows.map(() => base);
  const [inner, outer] = [2 ** depth - 1, 2 ** depth];
  const nodes = new Uint8Array(trees * inner * 2);
  const leaves = new Float32Array(trees * outer);
  for (let t = 0; t < trees; t++) {
    const slope = rows.map(({ yes, weight = 1 }, i) => weight * (1 / (1 + Math.exp(-sums[i]!)) - Number(yes)));
    const bend = sums.map((s, i) => (rows[i]!.weight ?? 1) / (2 + Math.exp(s) + Math.exp(-s)));
    const numbers = numbersOf(rows)
      .map((_, k) => k)
      .filter(() => roll() < boosting.numbers);
    const build = (node: number, own: readonly number[]): void => {
      const [g, h] = [own.reduce((s, i) => s + slope[i]!, 0), own.reduce((s, i) => s + bend[i]!, 0)];
      if (node >= inner) {
        leaves[t * outer + node - inner] = (-rate * g) / (h + penalty);
        return;
      }
      // Where no cut is worth it all go on to the left.
      let best = { gain: 1e-3, number: numbers[0]!, cut: cuts[numbers[0]!]!.length };
      for (const number of numbers) {
        const [gs, hs] = [new Float64Array(boosting.bins), new Float64Array(boosting.bins)];
        for (const i of own) {
          gs[bins[i]![number]!]! += slope[i]!;
          hs[bins[i]![number]!]! += bend[i]!;
        }
        for (let cut = 0, gl = 0, hl = 0; cut < cuts[number]!.length; cut++) {
          gl += gs[cut]!;
          hl += hs[cut]!;
          if (hl < least || h - hl < least) continue;
          const gain = gl ** 2 / (hl + penalty) + (g - gl) ** 2 / (h - hl + penalty) - g ** 2 / (h + penalty);
          if (gain > best.gain) best = { gain, number, cut };
        }
      }
      nodes.set([best.number, best.cut], 2 * (t * inner + node));
      const left = own.filter((i) => bins[i]![best.number]! <= best.cut);
      build(2 * node + 1, left);
      build(2 * node + 2, left.length === own.length ? left : own.filter((i) => bins[i]![best.number]! > best.cut));
    };
    build(0, rows.flatMap((_, i) => (roll() < boosting.rows ? i : []))); // prettier-ignore
    const tree = treesOf(depth, 0, limits, nodes.subarray(t * inner * 2, (t + 1) * inner * 2), leaves.subarray(t * outer, (t + 1) * outer)); // prettier-ignore
    for (const [i, { numbers: own }] of rows.entries()) sums[i]! += sumOfTrees(tree, own);
  }
  return { ...treesOf(depth, base, limits, nodes, leaves), cuts: limits, nodes };
}

/** As `unpackTrees` reads them. */
function packed({ depth, nodes, leaves }: Trained): string {
  const [inner, outer] = [2 * (2 ** depth - 1), 2 ** depth];
  const parts = Array.from({ length: leaves.length / outer }, (_, t) => [
    nodes.subarray(t * inner, (t + 1) * inner),
    new Uint8Array(Int16Array.from(leaves.subarray(t * outer, (t + 1) * outer), (v) => Math.round(v / leafStep)).buffer),
  ]);
  return Buffer.concat(parts.flat()).toString('base64');
}

export const probability = (trees: Trees, numbers: readonly number[]): number => 1 / (1 + Math.exp(-sumOfTrees(trees, numbers)));

/** Writes them where `unpackTrees` finds them. */
export function writeTrees(w: Trained, name: string, by: string, order: string): void {
  const list = (v: readonly number[]) =>
    v
      .slice(0, -1)
      .map((x) => +x.toPrecision(5))
      .join(' ');
  writeFileSync(
    new URL(`../../core/src/${name}.ts`, import.meta.url),
    `// Written by bench/src/${by}.ts; in the order of ${order}.
export const depth = ${w.depth};
export const base = ${+w.base.toPrecision(5)};
export const step = 1 / ${1 / leafStep};
export const cuts = [
${w.cuts.map((c) => `  '${list(c)}',`).join('\n')}
];
export const packed =
  '${packed(w)}';
`,
  );
}
