/**
 * Trains the outline ranker and its acceptance and writes `core/src/find/weights.ts`.
 *
 * Ranking: a listwise softmax over each photo's candidates (ListNet: Cao, Qin, Liu, Tsai, Li, ICML 2007). Acceptance: logistic regression on
 * what the greedy choice would take. Both are reported by five-fold cross-validation over photos, so that what is printed was not trained on.
 *
 *     tsx bench/src/train.ts DIR...      each DIR with photographs and their truth.json
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { featureNames, looks as finderLooks, overlap, sight, type FindOptions, type Point } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth, type TruePage } from './photos';

/** The finder's own looks, and a larger one: more views of the same photos. */
const looks: readonly FindOptions[] = [...finderLooks, { workingEdgePx: 600 }];

interface Case {
  file: string;
  category: string;
  pages: number;
  features: number[][];
  corners: Point[][];
  quality: number[];
}

/** The two pages of a spread are looked for as one outline; the gutter divides them later. */
function targets(pages: readonly TruePage[], category: string): { quads: Point[][]; sizeMm: [number, number] }[] {
  if (category === 'book' && pages.length === 2) {
    const [left, right] = pages as [TruePage, TruePage];
    const quad = [left.quad[0]!, right.quad[1]!, right.quad[2]!, left.quad[3]!];
    return [{ quads: [quad], sizeMm: [left.size_mm[0] + right.size_mm[0], left.size_mm[1]] }];
  }
  return pages.map((p) => ({ quads: p.alt_quad ? [p.quad, p.alt_quad] : [p.quad], sizeMm: p.size_mm }));
}

async function lookAll(dirs: readonly string[]): Promise<Case[]> {
  const cases: Case[] = [];
  for (const dir of dirs) {
    for (const photo of readTruth(dir)) {
      const raster = await decode(path.join(dir, photo.file));
      const wanted = targets(photo.pages, photo.category);
      for (const look of looks) {
        const seen = sight(raster, look);
        const corners = seen.candidates.map((c) =>
          c.corners.map(([x, y]): Point => [(x + 0.5) / seen.scale - 0.5, (y + 0.5) / seen.scale - 0.5]),
        );
        // Of a page that is cut off, only what lies in the picture can be found.
        const quality = corners.map((q) =>
          Math.max(
            0,
            ...wanted.flatMap((w) => w.quads.map((t) => Math.max(jaccard(t, q, w.sizeMm), jaccard(t, q, w.sizeMm, photo.size)))),
          ),
        );
        cases.push({
          file: photo.file,
          category: photo.category,
          pages: wanted.length,
          features: seen.features.map((f) => [...f]),
          corners,
          quality,
        });
      }
    }
  }
  return cases;
}

const n = featureNames.length;

function standardise(rows: readonly (readonly number[])[]) {
  // Unknown features are NaN, null where the cases were read back from the cache.
  const column = (k: number) => rows.map((r) => r[k]!).filter((v) => v !== null && !Number.isNaN(v));
  const average = (v: readonly number[]) => v.reduce((s, x) => s + x, 0) / v.length;
  const mean = Array.from({ length: n }, (_, k) => average(column(k)));
  const deviation = mean.map((m, k) => Math.sqrt(average(column(k).map((v) => (v - m) ** 2))) + 1e-6);
  return { mean, deviation };
}

/** Full-batch Adam; `slope` adds the gradient at w and returns nothing. */
function descend(
  size: number,
  steps: number,
  slope: (w: Float64Array, g: Float64Array) => void,
  start = new Float64Array(size),
): Float64Array {
  const w = start.slice();
  const m = new Float64Array(size);
  const v = new Float64Array(size);
  for (let t = 1; t <= steps; t++) {
    const g = new Float64Array(size);
    slope(w, g);
    const rate = 0.05 * (1 - t / (steps + 1)) + 0.002;
    for (let k = 0; k < size; k++) {
      m[k] = 0.9 * m[k]! + 0.1 * g[k]!;
      v[k] = 0.999 * v[k]! + 0.001 * g[k]! * g[k]!;
      w[k] = w[k]! - (rate * (m[k]! / (1 - 0.9 ** t))) / (Math.sqrt(v[k]! / (1 - 0.999 ** t)) + 1e-9);
    }
  }
  return w;
}

const dot = (w: ArrayLike<number>, z: ArrayLike<number>) => {
  let s = 0;
  for (let k = 0; k < z.length; k++) s += w[k]! * z[k]!;
  return s;
};

const hidden = Number(process.env.HIDDEN ?? 40);
/** Single pages by the hundred teach that pages come alone and whole: cards and pages that are cut off count for more. */
const weightOf = (category: string) => (/^(own-)?(cutoff|cards)$/.test(category) ? 2.5 : 1);
/** One hidden layer beside a linear part: weights of the linear part, then for each unit its inputs, its constant and its output. */
const rankSize = n + hidden * (n + 2);

function rankScore(w: ArrayLike<number>, x: readonly number[], active?: Float64Array): number {
  let score = 0;
  for (let k = 0; k < n; k++) score += w[k]! * x[k]!;
  for (let h = 0, at = n; h < hidden; h++, at += n + 2) {
    let sum = w[at + n]!;
    for (let k = 0; k < n; k++) sum += w[at + k]! * x[k]!;
    const out = Math.tanh(sum);
    if (active) active[h] = out;
    score += w[at + n + 1]! * out;
  }
  return score;
}

function trainRank(cases: readonly Case[], z: (f: readonly number[]) => number[]): Float64Array {
  const lists = cases
    .map((c) => {
      const top = Math.max(0, ...c.quality);
      const wish = c.quality.map((q) => (q >= top - 0.05 ? Math.exp((q - top) / 0.01) : 0));
      const sum = wish.reduce((s, v) => s + v, 0);
      return { top, weight: weightOf(c.category), rows: c.features.map(z), wish: wish.map((v) => v / sum) };
    })
    .filter((l) => l.top > 0.8);
  const total = lists.reduce((sum, l) => sum + l.weight, 0);
  let seed = 77;
  const random = () => ((seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0), seed / 4294967296 - 0.5);
  const start = Float64Array.from({ length: rankSize }, (_, i) => (i < n ? 0 : random() * 0.3));
  const active = lists.map((l) => l.rows.map(() => new Float64Array(hidden)));
  return descend(
    rankSize,
    Number(process.env.STEPS ?? 500),
    (w, g) => {
      for (const [li, { rows, wish, weight }] of lists.entries()) {
        const s = rows.map((r, i) => rankScore(w, r, active[li]![i]));
        const top = Math.max(...s);
        const e = s.map((v) => Math.exp(v - top));
        const sum = e.reduce((a, b) => a + b, 0);
        rows.forEach((r, i) => {
          const d = ((e[i]! / sum - wish[i]!) * weight) / total;
          if (Math.abs(d) < 1e-7) return;
          for (let k = 0; k < n; k++) g[k] = g[k]! + d * r[k]!;
          for (let h = 0, at = n; h < hidden; h++, at += n + 2) {
            const out = active[li]![i]![h]!;
            g[at + n + 1] = g[at + n + 1]! + d * out;
            const inner = d * w[at + n + 1]! * (1 - out * out);
            g[at + n] = g[at + n]! + inner;
            for (let k = 0; k < n; k++) g[at + k] = g[at + k]! + inner * r[k]!;
          }
        });
      }
      const decay = Number(process.env.DECAY ?? 0.0015);
      for (let k = 0; k < rankSize; k++) g[k] = g[k]! + decay * w[k]!;
    },
    start,
  );
}

/** What the finder would take in turn: the best, then the best that does not overlap it, and so on. */
function greedy(
  c: Case,
  w: ArrayLike<number>,
  z: (f: readonly number[]) => number[],
): { i: number; score: number; place: number; best: number }[] {
  const scores = c.features.map((f) => rankScore(w, z(f)));
  const order = scores.map((_, i) => i).sort((a, b) => scores[b]! - scores[a]!);
  const taken: { i: number; score: number; place: number; best: number }[] = [];
  for (const i of order) {
    if (taken.some((t) => overlap(c.corners[t.i]!, c.corners[i]!) > 0.1)) continue;
    taken.push({ i, score: scores[i]!, place: taken.length, best: scores[order[0]!]! });
    if (taken.length >= 6) break;
  }
  return taken;
}

/** Acceptance looks at the features, the score, how far the score lies below the best one, and whether it is the first. */
const acceptRow = (z: readonly number[], t: { score: number; place: number; best: number }) => [
  ...z,
  t.score / 4,
  (t.best - t.score) / 4,
  t.place === 0 ? 1 : 0,
  1,
];

function trainAcceptance(cases: readonly Case[], w: ArrayLike<number>, z: (f: readonly number[]) => number[]): Float64Array {
  const rows: { x: number[]; y: number; weight: number }[] = [];
  for (const c of cases)
    for (const t of greedy(c, w, z))
      rows.push({ x: acceptRow(z(c.features[t.i]!), t), y: c.quality[t.i]! > 0.85 ? 1 : 0, weight: weightOf(c.category) });
  const total = rows.reduce((sum, r) => sum + r.weight, 0);
  return descend(n + 4, 800, (a, g) => {
    for (const { x, y, weight } of rows) {
      const d = ((1 / (1 + Math.exp(-dot(a, x))) - y) * weight) / total;
      for (let k = 0; k < x.length; k++) g[k] = g[k]! + d * x[k]!;
    }
    for (let k = 0; k < n; k++) g[k] = g[k]! + 0.002 * a[k]!;
  });
}

const cache = process.env.CACHE;
const cases: Case[] = cache && existsSync(cache) ? JSON.parse(readFileSync(cache, 'utf8')) : await lookAll(process.argv.slice(2));
if (cache && !existsSync(cache)) writeFileSync(cache, JSON.stringify(cases));
const all = standardise(cases.flatMap((c) => c.features));
const z = (f: readonly number[]) =>
  f.map((v, k) => (v === null || Number.isNaN(v) ? 0 : Math.max(-4, Math.min(4, (v - all.mean[k]!) / all.deviation[k]!))));

const found = new Map<string, { ji: number[]; oracle: number[]; right: number; wrong: number; missed: number }>();
const folds = Number(process.env.FOLDS ?? 5);
for (let fold = 0; fold < folds; fold++) {
  // All looks at a photo fall into the same fold.
  const foldOf = (i: number) => Math.floor(i / looks.length) % folds;
  const test = cases.filter((_, i) => foldOf(i) === fold);
  const train = cases.filter((_, i) => foldOf(i) !== fold);
  const w = trainRank(train, z);
  const a = trainAcceptance(train, w, z);
  for (const c of test) {
    const row = found.get(c.category) ?? { ji: [], oracle: [], right: 0, wrong: 0, missed: 0 };
    found.set(c.category, row);
    const taken = greedy(c, w, z);
    const accepted = taken.filter((t) => 1 / (1 + Math.exp(-dot(a, acceptRow(z(c.features[t.i]!), t)))) >= 0.5);
    const right = accepted.filter((t) => c.quality[t.i]! > 0.85).length;
    row.right += right;
    row.wrong += accepted.length - right;
    row.missed += Math.max(0, c.pages - right);
    if (c.pages && taken[0]) row.ji.push(c.quality[taken[0].i]!);
    if (c.pages) row.oracle.push(Math.max(0, ...c.quality));
  }
}
const mean = (v: number[]) => (v.length ? (v.reduce((s, x) => s + x, 0) / v.length).toFixed(3) : '–');
console.log(`category        first JI  best of list  accepted right / wrong / missed (${folds}-fold)`);
for (const [name, r] of found)
  console.log(`${name.padEnd(16)}${mean(r.ji).padEnd(10)}${mean(r.oracle).padEnd(14)}${r.right} / ${r.wrong} / ${r.missed}`);
const every = [...found.values()];
console.log(
  `${'all'.padEnd(16)}${mean(every.flatMap((r) => r.ji)).padEnd(10)}${mean(every.flatMap((r) => r.oracle)).padEnd(14)}${every.reduce((s, r) => s + r.right, 0)} / ${every.reduce((s, r) => s + r.wrong, 0)} / ${every.reduce((s, r) => s + r.missed, 0)}`,
);

const w = trainRank(cases, z);
const a = trainAcceptance(cases, w, z);
const list = (v: ArrayLike<number>) => `[${Array.from(v, (x) => +x.toPrecision(5)).join(', ')}]`;
writeFileSync(
  new URL('../../core/src/find/weights.ts', import.meta.url),
  `// Written by bench/src/train.ts; one number a feature, in the order of featureNames.
export const mean = ${list(all.mean)};
export const deviation = ${list(all.deviation)};
/** A linear part, then for each of ${hidden} hidden units its inputs, its constant and its output. */
export const rankWeights = ${list(w)};
export const hidden = ${hidden};
/** Features, then score / 4, distance to the best score / 4, whether it is the first, constant. */
export const acceptWeights = ${list(a)};
`,
);
