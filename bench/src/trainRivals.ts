/**
 * Trains what picks the top sheet's outline among those that nearly coincide with a chosen one (`core/src/find/rivals.ts`) and writes its weights: boosted trees. What is printed comes from five-fold
 * cross-validation over photos: JI of the first choice, of the picked one, and of the best that was there.
 *
 *     tsx bench/src/trainRivals.ts DIR...      each DIR with photographs and their truth.json; with CACHE=FILE what was seen is kept there, and the next run trains on it
 */
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { labPlanes } from '@libretto/core/raster/colour';
import { gaussian } from '@libretto/core/raster/blur';
import { shrinkToEdge } from '@libretto/core/raster/resize';
import { looks, sight, type Point } from '@libretto/core';
import { choose } from '@libretto/core/find/findPages';
import { fitSides } from '@libretto/core/find/fit';
import { rank } from '@libretto/core/find/rank';
import { describeRivals, pickLead, rivalEdgePx, rivalsOf } from '@libretto/core/find/rivals';
import { sumOfTrees } from '@libretto/core/find/trees';
import { train, writeTrees } from './boosting';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';

interface Group {
  photo: number;
  category: string;
  rivals: { numbers: number[]; ji: number }[];
}

/** Outlines as good as the best, less this, are right; where the best is worse than that there is nothing to learn. */
const [close, worth] = [0.006, 0.9];

async function lookAll(dirs: readonly string[]): Promise<Group[]> {
  const groups: Group[] = [];
  let number = 0;
  for (const dir of dirs)
    for (const photo of readTruth(dir)) {
      number++;
      if (!photo.pages.length || photo.category === 'book') continue;
      const raster = await decode(path.join(dir, photo.file));
      const fine = shrinkToEdge(raster, rivalEdgePx);
      const lab = labPlanes(fine).map((plane) => gaussian(plane, 0.8));
      for (const look of looks) {
        const seen = sight(raster, look);
        const scores = seen.features.map(rank);
        const up = fine.width / seen.lab[0]!.width;
        for (const { candidate } of choose(raster, seen, { leastConfidence: 0.65 }).chosen) {
          const rivals = rivalsOf(candidate, seen, scores);
          if (rivals.length < 2) continue;
          const corners = rivals.map((r) =>
            r.candidate.corners.map(([x, y]): Point => [(x + 0.5) * up - 0.5, (y + 0.5) * up - 0.5]),
          );
          const numbers = describeRivals(rivals.map(({ score }, i) => ({ corners: corners[i]!, score })), lab); // prettier-ignore
          const ji = rivals.map((r) => {
            const { quad } = fitSides(raster, raster, r.candidate, seen, false);
            return Math.max(0, ...photo.pages.flatMap((p) => [p.quad, p.alt_quad].flatMap((t) => (t ? [jaccard(t, [...quad], p.size_mm)] : [])))); // prettier-ignore
          });
          groups.push({ photo: number, category: photo.category, rivals: rivals.map((_, i) => ({ numbers: [...numbers[i]!].map((v) => +v.toFixed(4)), ji: +ji[i]!.toFixed(4) })) }); // prettier-ignore
        }
      }
    }
  return groups;
}

const cache = process.env.CACHE;
const dirs = process.argv.slice(2);
const groups = cache && existsSync(cache) ? (JSON.parse(readFileSync(cache, 'utf8')) as Group[]) : await lookAll(dirs);
if (cache && !existsSync(cache)) {
  writeFileSync(cache, JSON.stringify(groups));
  process.exit();
}
const best = ({ rivals }: Group) => Math.max(...rivals.map((r) => r.ji));
/** Where much is at stake it counts more: the others of most groups are as good. */
const stake = ({ rivals }: Group) => 0.1 + Math.min(1, (Math.max(...rivals.map((r) => r.ji)) - rivals[0]!.ji) / 0.03);
const rows = (of: readonly Group[]) =>
  of
    .filter((g) => best(g) >= worth)
    .flatMap((g) => g.rivals.map(({ numbers, ji }) => ({ numbers, yes: ji >= best(g) - close, weight: stake(g) })));
const boosting = { trees: 120, penalty: 4 };
const sums = new Map<string, number[]>();
for (let fold = 0; fold < 5; fold++) {
  const trees = train(rows(groups.filter((g) => g.photo % 5 !== fold)), boosting);
  for (const g of groups.filter((x) => x.photo % 5 === fold && best(x) >= 0.5)) {
    const picked = pickLead(g.rivals.map(({ numbers }) => sumOfTrees(trees, numbers)));
    for (const name of [g.category, 'all']) {
      const sum = sums.get(name) ?? sums.set(name, [0, 0, 0, 0, 0]).get(name)!;
      [1, g.rivals[0]!.ji, g.rivals[picked]!.ji, best(g), Number(picked > 0)].forEach((v, i) => (sum[i]! += v));
    }
  }
}
console.log('category            groups  first    picked   best     moved');
for (const [name, [n, first, picked, top, moved]] of sums)
  console.log(
    `${name.padEnd(20)}${String(n).padEnd(8)}${[first!, picked!, top!].map((v) => (v / n!).toFixed(4)).join('   ')}   ${moved}`,
  );
if (dirs.length || cache) writeTrees(train(rows(groups), boosting), 'find/rivalWeights', 'trainRivals', 'rivalNames');
