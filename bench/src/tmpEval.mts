import path from 'node:path';
import { findPages, type Point } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';
const worst: [number, string][] = [];
for (const dir of process.argv.slice(2)) {
  const cats = new Map<string, { ji: number[]; found: number; hits: number; blanks: number; bad: number; ms: number[] }>();
  for (const photo of readTruth(dir)) {
    const raster = await decode(path.join(dir, photo.file), true);
    const t = performance.now();
    const found = findPages(raster);
    const ms = performance.now() - t;
    for (const name of [photo.category, 'all']) {
      const s = cats.get(name) ?? { ji: [], found: 0, hits: 0, blanks: 0, bad: 0, ms: [] };
      cats.set(name, s);
      s.ms.push(ms);
      if (!photo.pages.length) { s.blanks++; s.bad += +(found.length > 0); continue; }
      s.found += found.length;
      for (const page of photo.pages) {
        const ji = Math.max(0, ...found.flatMap((o) => (page.alt_quad ? [page.quad, page.alt_quad] : [page.quad]).map((t) => jaccard(t, [...o.quad], page.size_mm))));
        s.ji.push(ji); s.hits += +(ji >= 0.5);
        if (name === 'all') worst.push([ji, `${photo.file} ${found.length} ${found.map((f) => f.confidence.toFixed(2))}`]);
      }
    }
  }
  console.log(dir);
  const mean = (v: number[]) => v.reduce((a, b) => a + b, 0) / v.length;
  for (const [name, s] of cats)
    console.log(name.padEnd(16), s.ms.length, s.ji.length ? `JI ${mean(s.ji).toFixed(4)} ≥.95 ${mean(s.ji.map((v) => +(v >= 0.95))).toFixed(2)} prec ${(s.hits / s.found).toFixed(3)} rec ${(s.hits / s.ji.length).toFixed(3)}` : '', s.blanks ? `blank with page ${s.bad}/${s.blanks}` : '', `ms ${mean(s.ms).toFixed(0)}`);
}
worst.sort((a, b) => a[0] - b[0]);
if (process.env.WORST) for (const w of worst.slice(0, +process.env.WORST)) console.log(w[0].toFixed(3), w[1]);
