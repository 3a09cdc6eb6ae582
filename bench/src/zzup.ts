import path from 'node:path';
import { findPages } from '@libretto/core';
import { jaccard } from './jaccard';
import { decode, readTruth } from './photos';
void (async () => {
  let right = 0, n = 0; const wrong: string[] = []; let doubt = 0;
  for (const set of ['set', 'full']) for (const ph of readTruth('/work/shared/photos/' + set)) {
    if (!ph.pages.length || ['whiteboard'].includes(ph.category)) continue;
    const r = await decode(path.join('/work/shared/photos/' + set, ph.file));
    const os = findPages(r, { traced: false });
    for (const p of ph.pages) {
      const o = os.map((o) => ({ o, ji: jaccard(p.quad, [...o.quad], p.size_mm) })).sort((a, b) => b.ji - a.ji)[0];
      if (!o || o.ji < 0.5) continue;
      n++; const d = [0, 1, 2, 3].map((k) => p.quad.reduce((s, q, j) => s + Math.hypot(q[0] - o.o.quad[(j + k) % 4]![0], q[1] - o.o.quad[(j + k) % 4]![1]), 0));
      if (d.indexOf(Math.min(...d)) === 0) right++; else wrong.push(ph.file + ' ' + p.rotation + ' ' + (o.o.perhapsTurn ?? ''));
      if (o.o.perhapsTurn) doubt++;
    }
  }
  console.log(right, n, doubt, wrong.join(' | '));
})();
