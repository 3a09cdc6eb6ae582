/**
 * Trains what judges an accepted outline by all evidence (`core/src/find/evidence.ts`) and writes its weights: boosted trees on what the ranker and its
 * acceptance would take. What is printed comes from five-fold cross-validation over photos.
 *
 *     tsx bench/src/trainEvidence.ts DIR...      each DIR with photographs and their truth.json; with CACHE=FILE what was seen is kept there, and the next run trains on it
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { looks, sight, type Point } from '@libretto/core';
import { choose, leastEvidence } from '@libretto/core/find/findPages';
import { probability, train, writeTrees } from './boosting';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';

interface Row {
  photo: number;
  category: string;
  evidence: number[];
  page: boolean;
}

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

const cache = process.env.CACHE;
const rows: Row[] =
  cache && existsSync(cache) ? (JSON.parse(readFileSync(cache, 'utf8')) as Row[]) : await lookAll(process.argv.slice(2));
if (cache && !existsSync(cache)) {
  writeFileSync(cache, JSON.stringify(rows));
  process.exit();
}
const asked = (of: readonly Row[]) => of.map(({ evidence, page }) => ({ numbers: evidence, yes: page }));
const found = new Map<string, { right: number; kept: number; wrong: number; let: number }>();
for (let fold = 0; fold < 5; fold++) {
  const w = train(asked(rows.filter((r) => r.photo % 5 !== fold)));
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
writeTrees(train(asked(rows)), 'find/evidenceWeights', 'trainEvidence', 'evidenceNames');
