// The readers of PDFs and TIFFs, apart from the app's own bundle: it is heavy, rarely wanted, and fetches parts of itself by name.
import { cpSync, mkdirSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const app = fileURLToPath(new URL('../', import.meta.url));
const out = path.join(app, 'public/pdf');
const library = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });
await build({
  entryPoints: { pages: path.join(app, 'src/work/pdf.worker.ts'), tiff: path.join(app, 'src/work/tiff.worker.ts') },
  outdir: out,
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
});
cpSync(path.join(library, 'build/pdf.worker.min.mjs'), path.join(out, 'pdf.worker.min.mjs'));
for (const folder of ['cmaps', 'standard_fonts', 'wasm', 'iccs'])
  cpSync(path.join(library, folder), path.join(out, folder), { recursive: true });
