// The reader of text, apart from the app's own bundle: its engine and languages are heavy, and are fetched when first needed.
import { cpSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const app = fileURLToPath(new URL('../', import.meta.url));
const out = path.join(app, 'public/text');
const require = createRequire(fileURLToPath(new URL('../../text/package.json', import.meta.url)));
const folderOf = (name) => path.dirname(require.resolve(`${name}/package.json`));
const versionOf = (name) => JSON.parse(readFileSync(path.join(folderOf(name), 'package.json'), 'utf8')).version;

// Under their versions, so that what was fetched once need never be asked for again.
const engine = `tesseract-${versionOf('tesseract.js')}`;
const data = 'languages-4.0.0';
const codes = `codes-${JSON.parse(readFileSync(new URL('../../text/package.json', import.meta.url), 'utf8')).dependencies['zxing-wasm']}.wasm`;
rmSync(out, { recursive: true, force: true });
mkdirSync(path.join(out, engine), { recursive: true });
mkdirSync(path.join(out, data), { recursive: true });
await build({
  entryPoints: { read: path.join(app, 'src/work/read.worker.ts'), words: path.join(app, 'src/work/words.worker.ts') },
  outdir: out,
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
  define: { __ENGINE__: JSON.stringify(engine), __LANGUAGES__: JSON.stringify(data), __CODES__: JSON.stringify(codes) },
});
cpSync(require.resolve('zxing-wasm/reader/zxing_reader.wasm'), path.join(out, codes));
cpSync(path.join(folderOf('tesseract.js'), 'dist/worker.min.js'), path.join(out, engine, 'worker.min.js'));
for (const kind of ['', '-simd', '-relaxedsimd'])
  cpSync(path.join(folderOf('tesseract.js-core'), `tesseract-core${kind}-lstm.wasm.js`), path.join(out, engine, `tesseract-core${kind}-lstm.wasm.js`)); // prettier-ignore
const names = Object.keys(JSON.parse(readFileSync(new URL('../../text/package.json', import.meta.url), 'utf8')).dependencies);
for (const name of names.filter((each) => each.startsWith('@tesseract.js-data/'))) {
  const file = `${name.split('/')[1]}.traineddata.gz`;
  cpSync(path.join(folderOf(name), '4.0.0_best_int', file), path.join(out, data, file));
}
