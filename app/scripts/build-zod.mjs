// What our schemas use of Zod, tree-shaken: Metro would take all of it (200 kB).
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const app = fileURLToPath(new URL('../', import.meta.url));
const text = ['../model/src', 'src']
  .flatMap((folder) => readdirSync(path.join(app, folder), { recursive: true }).map((file) => path.join(app, folder, file)))
  .filter((file) => /\.tsx?$/.test(file) && !/\.test\./.test(file))
  .map((file) => readFileSync(file, 'utf8'))
  .filter((source) => source.includes("from 'zod/mini'"))
  .join('\n');
const types = new Set(['infer', 'input', 'output', 'ZodMiniType']);
const names = [...new Set([...text.matchAll(/\bz\.(\w+)/g)].map((m) => m[1]))].filter((name) => !types.has(name)).sort();
await build({
  stdin: { contents: `export { ${names.join(', ')} } from 'zod/mini';`, resolveDir: app },
  outfile: path.join(app, 'bundle/built/zod.js'),
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
});
