import path from 'node:path';
import { decode, readTruth } from './photos';
import { shrinkToEdge } from '../../core/src/raster/resize';
import { labPlanes } from '../../core/src/raster/colour';
import { gaussian } from '../../core/src/raster/blur';
import { gradient, edgels } from '../../core/src/find/gradient';
void (async () => {
  for (const ph of readTruth('/work/shared/photos/full')) {
    const r = await decode(path.join('/work/shared/photos/full', ph.file));
    const s = shrinkToEdge(r, 420);
    const out = labPlanes(s).map((p) => { const e = edgels(gradient(gaussian(p, 1), 9, 0.12)); const w = [...e.weight].sort((a, b) => a - b); return `${e.count} q10 ${w[Math.floor(w.length * 0.1)]?.toFixed(2)} q30 ${w[Math.floor(w.length * 0.3)]?.toFixed(2)} q50 ${w[Math.floor(w.length * 0.5)]?.toFixed(2)}`; });
    console.log(ph.category, out.join(' | '));
  }
})();
