import path from 'node:path';
import { findPages, type Raster } from '@libretto/core';
import { decode, readTruth } from './photos';
import { shrinkToEdge, resizeArea } from '../../core/src/raster/resize';
import { labPlanes } from '../../core/src/raster/colour';
import { gaussian } from '../../core/src/raster/blur';
import { gradient, edgels } from '../../core/src/find/gradient';
import { houghLines, sameLine, frameLines, type Line } from '../../core/src/find/lines';
import { supportAlong } from '../../core/src/find/support';
import { candidates } from '../../core/src/find/candidates';
import { describe } from '../../core/src/find/features';
import { uprightPages } from '../../core/src/find/uprightPages';
import { traceOutline } from '../../core/src/find/trace';
void (async () => {
  const T: Record<string, number[]> = {};
  const time = <R>(n: string, f: () => R): R => { let best = Infinity; let r: R; for (let k = 0; k < 3; k++) { const a = performance.now(); r = f(); best = Math.min(best, performance.now() - a); } (T[n] ??= []).push(best); return r!; };
  const edge = +(process.argv[2] ?? 600), lpc = +(process.argv[3] ?? 40);
  for (const ph of readTruth('/work/shared/photos/full')) {
    if (!ph.pages.length) continue;
    const rgb = await decode(path.join('/work/shared/photos/full', ph.file));
    const d = new Uint8ClampedArray(rgb.width * rgb.height * 4); for (let i = 0, j = 0; j < d.length; i += 3, j += 4) { d[j] = rgb.data[i]!; d[j + 1] = rgb.data[i + 1]!; d[j + 2] = rgb.data[i + 2]!; d[j + 3] = 255; }
    const photo: Raster = { width: rgb.width, height: rgb.height, channels: 4, data: d };
    const mid = time('middling', () => resizeArea(photo, photo.width / 2, photo.height / 2));
    const small = time('small', () => shrinkToEdge(mid, edge));
    const lab0 = time('lab', () => labPlanes(small));
    const lab = time('gauss', () => lab0.map((p) => gaussian(p, 1)));
    const gr = time('gradient', () => lab.map((p) => gradient(p, 9, 0.12)));
    const ed = time('edgels', () => gr.map((g) => edgels(g)));
    const hl = time('hough', () => ed.map((e) => houghLines(e, small.width, small.height, lpc)));
    const lines: Line[] = [];
    time('same', () => { lines.length = 0; for (const l of hl) for (const line of l) if (!lines.some((k) => sameLine(k, line, 0.03, 2.5, small.width, small.height, true))) lines.push(line); lines.push(...frameLines(small.width, small.height)); });
    const sup = time('support', () => lines.map((l) => supportAlong(l, gr)));
    const cs = time('candidates', () => candidates(sup, small.width, small.height));
    time('describe', () => cs.map((c) => describe(c, sup, lab)));
    const os = time('find all', () => findPages(photo));
    time('find untraced, not upright', () => findPages(photo, { traced: false, upright: false }));
    time('trace', () => os.map((o) => traceOutline(photo, o.quad, o.evidence)));
    time('upright', () => uprightPages(mid, os, 0.5));
    (T['lines'] ??= []).push(lines.length);
  }
  for (const [n, v] of Object.entries(T)) console.log(n.padEnd(28), (v.reduce((a, b) => a + b, 0) / v.length).toFixed(1), v.sort((a, b) => a - b)[v.length >> 1]!.toFixed(1));
})();
