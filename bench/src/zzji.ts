import path from 'node:path';
import { findPages } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';
void (async () => {
  const by = new Map<string, number[]>(); let extra = 0; const bad: string[] = []; let ms = 0, n = 0;
  for (const set of (process.argv[2] ?? 'set,full').split(',')) for (const ph of readTruth('/work/shared/photos/' + set)) {
    const r = await decode(path.join('/work/shared/photos/' + set, ph.file));
    const t = performance.now(); const os = findPages(r, { upright: false }); ms += performance.now() - t; n++;
    extra += Math.max(0, os.length - ph.pages.length);
    for (const p of ph.pages) {
      const ji = Math.max(0, ...os.flatMap((o) => [p.quad, ...(p.alt_quad ? [p.alt_quad] : [])].map((t) => jaccard(t, [...o.quad], p.size_mm))));
      (by.get(ph.category) ?? by.set(ph.category, []).get(ph.category)!).push(ji);
      if (ji < 0.96) bad.push(`${set[0]}${ph.file}:${ji.toFixed(2)}`);
    }
  }
  const all = [...by.values()].flat();
  const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length;
  console.log('JI', mean(all).toFixed(4), '>=.95', (all.filter((v) => v >= 0.95).length / all.length).toFixed(3), 'extra', extra, 'ms', (ms / n).toFixed(0), [...by].map(([c, v]) => `${c} ${mean(v).toFixed(4)}`).join(' '), '\n', bad.join(' '));
})();
