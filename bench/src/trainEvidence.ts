/**
 * Trains what judges an accepted outline by all evidence (`core/src/find/evidence.ts`) and writes its weights: boosted trees (Friedman 2001, with second derivatives as Chen and Guestrin 2016) on what the ranker and its
 * acceptance would take. What is printed comes from five-fold cross-validation over photos.
 *
 *     tsx bench/src/trainEvidence.ts DIR...      each DIR with photographs and their truth.json
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { looks, sight, type Point } from '@libretto/core';
import { choose, leastEvidence } from '@libretto/core/find/findPages';
import { evidenceNames } from '@libretto/core/find/evidence';
import { sumOfTrees, type Trees } from '@libretto/core/find/trees';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';

interface Row {
  photo: number;
  category: string;
  evidence: number[];
  page: boolean;
}

const right = 0.85;
/** Least sum of second derivatives on either side of a cut; penalty on leaves; share of rows and numbers that a tree sees. */
const boosting = { trees: 80, depth: 4, rate: 0.12, bins: 32, least: 1, penalty: 3, rows: 0.7, numbers: 0.6 };
const leafStep = 1 / 2048;

async function lookAll(dirs: readonly string[]): Promise<Row[]> {
  const rows: Row[] = [];
  let number = 0;
  for (const dir of dirs)
    for (const photo of readTruth(dir)) {
      const raster = await decode(path.join(dir, photo.file));
      number++;
      const pages = photo.pages.map((p) => ({ quads: p.alt_quad ? [p.quad, p.alt_quad] : [p.quad], sizeMm: p.size_mm }));
      const [left, second] = photo.pages;
      if (photo.category === 'book' && left && second)
        pages.push({ quads: [[left.quad[0]!, second.quad[1]!, second.quad[2]!, left.quad[3]!]], sizeMm: [left.size_mm[0] + second.size_mm[0], left.size_mm[1]] }); // prettier-ignore
      for (const look of [...looks, { workingEdgePx: 360, thorough: false }]) {
        const seen = sight(raster, look);
        const scale = raster.width / seen.lab[0]!.width;
        for (const { candidate, evidence } of choose(raster, seen, { leastConfidence: 0.35 }, true).chosen) {
          const corners = candidate.corners.map(([x, y]): Point => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5]);
          const fit = Math.max(
            0,
            ...pages.flatMap(({ quads, sizeMm }) => quads.map((quad) => inEveryTurn(quad, corners, sizeMm))),
          );
          rows.push({ photo: number, category: photo.category, evidence: [...evidence!], page: fit > right });
        }
      }
    }
  return rows;
}

/** Corners begin anywhere. */
const inEveryTurn = (quad: readonly Point[], corners: readonly Point[], sizeMm: [number, number]) =>
  Math.max(...[0, 1, 2, 3].map((k) => jaccard([...quad], [...corners.slice(k), ...corners.slice(0, k)], sizeMm)));

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

function train(rows: readonly Pick<Row, 'evidence' | 'page'>[]): Trees {
  const { trees, depth, rate, least, penalty } = boosting;
  const roll = dice(9);
  const cuts = evidenceNames.map((_, k) => cutsOf(rows.map((r) => r.evidence[k]!)));
  const bins = rows.map((r) => Uint8Array.from(r.evidence, (v, k) => cuts[k]!.filter((cut) => v > cut).length));
  const share = rows.filter((r) => r.page).length / rows.length;
  const base = Math.log(share / (1 - share));
  const sums = rows.map(() => base);
  const [inner, outer] = [2 ** depth - 1, 2 ** depth];
  const nodes = new Uint8Array(trees * inner * 2);
  const leaves = new Float32Array(trees * outer);
  for (let t = 0; t < trees; t++) {
    const slope = rows.map(({ page }, i) => 1 / (1 + Math.exp(-sums[i]!)) - Number(page));
    const bend = sums.map((s) => 1 / (2 + Math.exp(s) + Math.exp(-s)));
    const numbers = evidenceNames.map((_, k) => k).filter(() => roll() < boosting.numbers);
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
    const tree: Trees = {
      depth,
      base: 0,
      cuts: cuts.map((c) => [...c, Infinity]),
      nodes: nodes.subarray(t * inner * 2, (t + 1) * inner * 2),
      leaves: leaves.subarray(t * outer, (t + 1) * outer),
    };
    for (const [i, { evidence }] of rows.entries()) sums[i]! += sumOfTrees(tree, evidence);
  }
  return { depth, base, cuts: cuts.map((c) => [...c, Infinity]), nodes, leaves };
}

/** As `unpackTrees` reads them. */
function packed({ depth, nodes, leaves }: Trees): string {
  const [inner, outer] = [2 * (2 ** depth - 1), 2 ** depth];
  const parts = Array.from({ length: leaves.length / outer }, (_, t) => [
    nodes.subarray(t * inner, (t + 1) * inner),
    new Uint8Array(Int16Array.from(leaves.subarray(t * outer, (t + 1) * outer), (v) => Math.round(v / leafStep)).buffer),
  ]);
  return Buffer.concat(parts.flat()).toString('base64');
}

const cache = process.env.CACHE;
const rows: Row[] =
  cache && existsSync(cache) ? (JSON.parse(readFileSync(cache, 'utf8')) as Row[]) : await lookAll(process.argv.slice(2));
if (cache && !existsSync(cache)) writeFileSync(cache, JSON.stringify(rows));
const probability = (trees: Trees, evidence: readonly number[]) => 1 / (1 + Math.exp(-sumOfTrees(trees, evidence)));
const found = new Map<string, { right: number; kept: number; wrong: number; let: number }>();
for (let fold = 0; fold < 5; fold++) {
  const w = train(rows.filter((r) => r.photo % 5 !== fold));
  for (const r of rows.filter((x) => x.photo % 5 === fold)) {
    const at = found.get(r.category) ?? { right: 0, kept: 0, wrong: 0, let: 0 };
    found.set(r.category, at);
    const before = 1 / (1 + Math.exp(-r.evidence[0]!)) >= 0.65;
    const after = before && probability(w, r.evidence) >= leastEvidence;
    if (r.page && before) at.right++;
    if (r.page && after) at.kept++;
    if (!r.page && before) at.wrong++;
    if (!r.page && after) at.let++;
  }
}
console.log('category          pages: by outline, by all   others: by outline, by all (five-fold, three looks a photo)');
const sum = { right: 0, kept: 0, wrong: 0, let: 0 };
for (const [name, r] of found) {
  console.log(`${name.padEnd(20)}${String(r.right).padEnd(6)}${String(r.kept).padEnd(10)}${String(r.wrong).padEnd(6)}${r.let}`);
  for (const key of ['right', 'kept', 'wrong', 'let'] as const) sum[key] += r[key];
}
console.log('all', JSON.stringify(sum));
const w = train(rows);
const list = (v: readonly number[]) =>
  v
    .slice(0, -1)
    .map((x) => +x.toPrecision(5))
    .join(' ');
writeFileSync(
  new URL('../../core/src/find/evidenceWeights.ts', import.meta.url),
  `// Written by bench/src/trainEvidence.ts; in the order of evidenceNames.
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
