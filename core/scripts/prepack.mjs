// Before `npm pack`: builds ES modules and types into dist/ and puts the package's own manifest in place of the workspace's, which postpack.mjs brings back.
import { execFileSync } from 'node:child_process';
import { copyFileSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { build } from 'esbuild';

const root = path.join(import.meta.dirname, '..');
const dist = path.join(root, 'dist');
rmSync(dist, { recursive: true, force: true });
await build({
  entryPoints: { index: path.join(root, 'src/package/index.ts') },
  outdir: dist,
  bundle: true,
  format: 'esm',
  target: 'es2022',
  platform: 'neutral',
  legalComments: 'none',
});
const tsc = createRequire(import.meta.url).resolve('typescript/bin/tsc');
execFileSync(process.execPath, [tsc, '-p', path.join(root, 'tsconfig.package.json')], { stdio: 'inherit' });
// ES modules name their files whole.
for (const file of readdirSync(path.join(dist, 'types'), { recursive: true, withFileTypes: true })) {
  if (!file.isFile()) continue;
  const at = path.join(file.parentPath, file.name);
  writeFileSync(at, readFileSync(at, 'utf8').replace(/(from |import\()(['"])(\.[^'"]+)\2/g, '$1$2$3.js$2'));
}
const manifest = path.join(root, 'package.json');
const { name, version, type } = JSON.parse(readFileSync(manifest, 'utf8'));
copyFileSync(manifest, `${manifest}.workspace`);
copyFileSync(path.join(root, '../LICENSE'), path.join(root, 'LICENSE'));
const { license } = JSON.parse(readFileSync(path.join(root, '../package.json'), 'utf8'));
writeFileSync(
  manifest,
  `${JSON.stringify(
    {
      name,
      version,
      description: 'Finds pages in photographs, flattens them and makes them readable',
      license,
      type,
      sideEffects: false,
      exports: { '.': { types: './dist/types/package/index.d.ts', default: './dist/index.js' } },
      files: ['dist'],
    },
    null,
    2,
  )}\n`,
);
