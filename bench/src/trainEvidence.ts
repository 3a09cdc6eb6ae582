/**
 * Trains what judges an accepted outline by all evidence (`core/src/find/evidence.ts`) and writes its weights: logistic regression with a small hidden layer, on what the ranker and its acceptance
 * would take. What is printed comes from five-fold cross-validation over photos.
 *
 *     tsx bench/src/trainEvidence.ts DIR...      each DIR with photographs and their truth.json
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { looks, sight, type Point } from '@libretto/core';
import { choose, leastEvidence } from '@libretto/core/find/findPages';
import { evidenceNames } from '@libretto/core/find/evidence';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';

interface Row {
  photo: number;
  category: string;
  evidence: number[];
  page: boolean;
}

const n = evidenceNames.length;
const hidden = 16;
const size = n + hidden * (n + 2) + 1;
const right = 0.85;

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

/** Adam (Kingma and Ba, ICLR 2015) on the mean log loss. */
function train(rows: readonly { z: number[]; page: boolean }[], steps = 2000): Float64Array {
  const w = new Float64Array(size);
  let state = 9;
  const roll = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 4294967296 - 0.5;
  for (let i = n; i < size - 1; i++) w[i] = 0.5 * roll();
  const [m, v] = [new Float64Array(size), new Float64Array(size)];
  for (let step = 1; step <= steps; step++) {
    const g = new Float64Array(size);
    for (const { z, page } of rows) {
      const active: number[] = [];
      const d = (probability(w, z, active) - Number(page)) / rows.length;
      for (let i = 0; i < n; i++) g[i]! += d * z[i]!;
      for (let h = 0, at = n; h < hidden; h++, at += n + 2) {
        g[at + n + 1]! += d * active[h]!;
        const inner = d * w[at + n + 1]! * (1 - active[h]! ** 2);
        g[at + n]! += inner;
        for (let i = 0; i < n; i++) g[at + i]! += inner * z[i]!;
      }
      g[size - 1]! += d;
    }
    for (let i = 0; i < size; i++) {
      const slope = g[i]! + (i < size - 1 ? 0.001 * w[i]! : 0);
      m[i] = 0.9 * m[i]! + 0.1 * slope;
      v[i] = 0.999 * v[i]! + 0.001 * slope * slope;
      w[i]! -= (0.02 * (m[i]! / (1 - 0.9 ** step))) / (Math.sqrt(v[i]! / (1 - 0.999 ** step)) + 1e-8);
    }
  }
  return w;
}

function probability(w: Float64Array, z: readonly number[], active: number[] = []): number {
  let sum = w[size - 1]!;
  for (let i = 0; i < n; i++) sum += w[i]! * z[i]!;
  for (let h = 0, at = n; h < hidden; h++, at += n + 2) {
    let inner = w[at + n]!;
    for (let i = 0; i < n; i++) inner += w[at + i]! * z[i]!;
    active[h] = Math.tanh(inner);
    sum += w[at + n + 1]! * active[h]!;
  }
  return 1 / (1 + Math.exp(-sum));
}

const cache = process.env.CACHE;
const rows: Row[] =
  cache && existsSync(cache) ? (JSON.parse(readFileSync(cache, 'utf8')) as Row[]) : await lookAll(process.argv.slice(2));
if (cache && !existsSync(cache)) writeFileSync(cache, JSON.stringify(rows));
const mean = evidenceNames.map((_, k) => rows.reduce((s, r) => s + r.evidence[k]!, 0) / rows.length);
const deviation = evidenceNames.map((_, k) => Math.sqrt(rows.reduce((s, r) => s + (r.evidence[k]! - mean[k]!) ** 2, 0) / rows.length) || 1); // prettier-ignore
const standard = rows.map((r) => ({
  ...r,
  z: r.evidence.map((v, k) => Math.max(-4, Math.min(4, (v - mean[k]!) / deviation[k]!))),
}));
const found = new Map<string, { right: number; kept: number; wrong: number; let: number }>();
for (let fold = 0; fold < 5; fold++) {
  const w = train(standard.filter((r) => r.photo % 5 !== fold));
  for (const r of standard.filter((x) => x.photo % 5 === fold)) {
    const at = found.get(r.category) ?? { right: 0, kept: 0, wrong: 0, let: 0 };
    found.set(r.category, at);
    const before = 1 / (1 + Math.exp(-r.evidence[0]!)) >= 0.65;
    const after = before && probability(w, r.z) >= leastEvidence;
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
const w = train(standard);
const list = (v: ArrayLike<number>) => `[${Array.from(v, (x) => +x.toPrecision(5)).join(', ')}]`;
writeFileSync(
  new URL('../../core/src/find/evidenceWeights.ts', import.meta.url),
  `// Written by bench/src/trainEvidence.ts; in the order of evidenceNames.
export const mean = ${list(mean)};
export const deviation = ${list(deviation)};
/** A linear part, then for each hidden unit its inputs, its constant and its output. */
export const weights = ${list(w.subarray(0, size - 1))};
export const bias = ${+w[size - 1]!.toPrecision(5)};
export const hidden = ${hidden};
`,
);
