import path from 'node:path';
import { findPages, type Point } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth, type TruePhoto } from './photos';
import { findTimes } from './findTimes';
import { median } from './median';
import { loadOpenCv, textbookFind } from './textbook';

interface Score {
  ji: number[];
  found: number;
  /** Outlines of which at least half lies right. */
  hits: number;
  blanks: number;
  blanksWithPage: number;
  ms: number[];
}

const empty = (): Score => ({ ji: [], found: 0, hits: 0, blanks: 0, blanksWithPage: 0, ms: [] });

/** Each true page with the outline that fits it best; an outline serves one page. */
function add(score: Score, photo: TruePhoto, quads: readonly Point[][], ms: number): void {
  score.ms.push(ms);
  score.found += photo.pages.length ? quads.length : 0;
  if (!photo.pages.length) {
    score.blanks++;
    if (quads.length) score.blanksWithPage++;
  }
  const pairs = photo.pages.flatMap((page, i) =>
    quads.map((quad, j) => ({
      i,
      j,
      ji: Math.max(...(page.alt_quad ? [page.quad, page.alt_quad] : [page.quad]).map((t) => jaccard(t, quad, page.size_mm))),
    })),
  );
  pairs.sort((a, b) => b.ji - a.ji);
  const best = new Map<number, number>();
  const used = new Set<number>();
  for (const { i, j, ji } of pairs) {
    if (best.has(i) || used.has(j)) continue;
    best.set(i, ji);
    used.add(j);
  }
  photo.pages.forEach((_, i) => {
    score.ji.push(best.get(i) ?? 0);
    if ((best.get(i) ?? 0) >= 0.5) score.hits++;
  });
}

const mean = (v: readonly number[]) => (v.length ? v.reduce((s, x) => s + x, 0) / v.length : NaN);
const show = (v: number, digits: number) => (Number.isFinite(v) ? v.toFixed(digits) : '–');

/**
 * Finds the pages of every photo with our finder and with the textbook's, in one run, and prints both by category. Times are taken in Chromium; their ratio is the median of the
 * photos' own.
 */
export async function benchFind(dir: string): Promise<void> {
  const { cv } = await loadOpenCv();
  const ours = new Map<string, Score>();
  const theirs = new Map<string, Score>();
  const sure: { confidence: number; right: boolean }[] = [];
  const of = (map: Map<string, Score>, name: string) => map.get(name) ?? map.set(name, empty()).get(name)!;
  const photos = readTruth(dir);
  const times = await findTimes(dir, photos.map((photo) => photo.file)); // prettier-ignore
  for (const [i, photo] of photos.entries()) {
    const raster = await decode(path.join(dir, photo.file), true);
    const outlines = findPages(raster);
    const quads = textbookFind(cv, raster);
    const { ours: ms, theirs: bookMs } = times[i]!;
    for (const name of [photo.category, 'all']) {
      add(of(ours, name), photo, outlines.map((o) => [...o.quad]), ms); // prettier-ignore
      add(of(theirs, name), photo, quads, bookMs);
    }
    for (const o of outlines)
      sure.push({
        confidence: o.confidence,
        right: photo.pages.some((p) => [p.quad, p.alt_quad].some((t) => t && jaccard(t, o.quad, p.size_mm) >= 0.95)),
      });
  }
  console.log(`category       photos  JI      ≥0.95  precision recall  ms    | textbook JI  ≥0.95  ms    time ratio`);
  const names = [...ours.keys()].filter((n) => n !== 'all').concat('all');
  for (const name of names) {
    const s = ours.get(name)!;
    const t = theirs.get(name)!;
    const share = (x: Score) => mean(x.ji.map((v) => +(v >= 0.95)));
    console.log(
      `${name.padEnd(15)}${String(s.ms.length).padEnd(8)}${show(mean(s.ji), 4).padEnd(8)}${show(share(s), 2).padEnd(7)}${show(s.hits / s.found, 2).padEnd(10)}${show(s.hits / s.ji.length, 2).padEnd(8)}${show(median(s.ms), 0).padEnd(6)}| ${show(mean(t.ji), 4).padEnd(13)}${show(share(t), 2).padEnd(7)}${show(median(t.ms), 0).padEnd(6)}${show(median(s.ms.map((ms, i) => ms / t.ms[i]!)), 2)}`,
    );
  }
  const all = ours.get('all')!;
  const book = theirs.get('all')!;
  if (all.blanks)
    console.log(
      `photos without a page that got one: ${all.blanksWithPage} of ${all.blanks}; textbook ${book.blanksWithPage} of ${book.blanks}`,
    );
  console.log('confidence said, outlines, share with JI ≥ 0.95:');
  for (const [from, to] of [[0.5, 0.7], [0.7, 0.8], [0.8, 0.9], [0.9, 0.97], [0.97, 1.01]] as const) {
    const within = sure.filter((s) => s.confidence >= from && s.confidence < to);
    console.log(`  ${from.toFixed(2)}–${Math.min(1, to).toFixed(2)}  ${String(within.length).padEnd(5)} ${show(mean(within.map((s) => +s.right)), 2)}`);
  } // prettier-ignore
}
