import path from 'node:path';
import { findPages } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';
for (const dir of process.argv.slice(2)) {
  const by = new Map<string, number[]>();
  for (const photo of readTruth(dir)) {
    const found = findPages(await decode(path.join(dir, photo.file)));
    const at = by.get(photo.category) ?? [0, 0, 0, 0, 0];
    by.set(photo.category, at);
    at[0]!++;
    if (found.length) at[1]!++;
    at[2]! += found.length;
    at[3]! += photo.pages.length;
    at[4]! += photo.pages.filter((p) => found.some((f) => [0, 1, 2, 3].some((k) => [p.quad, ...(p.alt_quad ? [p.alt_quad] : [])].some((q) => jaccard([...q], [...f.quad.slice(k), ...f.quad.slice(0, k)] as never, p.size_mm) > 0.85)))).length;
  }
  console.log(dir, 'category: photos, with a page, outlines, true, right');
  for (const [c, v] of by) console.log(' ', c.padEnd(18), v.join(' '));
}
