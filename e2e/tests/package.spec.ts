import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import sharp from 'sharp';
import { smallPhoto } from './walk';

const root = path.join(import.meta.dirname, '../..');

/** Packs a copy of the core, since packing puts another manifest in place for a while, and installs it: no network, no TypeScript, no workspace. */
function installed(dir: string): { home: string; readme: string } {
  const copy = path.join(dir, 'copy');
  mkdirSync(copy, { recursive: true });
  for (const name of ['core', 'LICENSE', 'package.json'])
    cpSync(path.join(root, name), path.join(copy, name), { recursive: true });
  symlinkSync(path.join(root, 'node_modules'), path.join(copy, 'node_modules'));
  execFileSync('npm', ['pack', '--pack-destination', dir], { cwd: path.join(copy, 'core'), stdio: 'pipe' });
  const home = path.join(dir, 'home');
  const own = path.join(home, 'node_modules/@libretto/core');
  mkdirSync(own, { recursive: true });
  execFileSync('tar', ['xzf', path.join(dir, 'libretto-core-0.1.0.tgz'), '--strip-components=1', '-C', own]);
  return { home, readme: readFileSync(path.join(own, 'README.md'), 'utf8') };
}

const block = (readme: string, language: string) => readme.split(`\`\`\`${language}\n`)[1]!.split('```')[0]!;

test('the packed core: its README’s lines run in Node and in a browser page, and its types hold', async ({ page }, testInfo) => {
  const { home, readme } = installed(testInfo.outputPath('packed'));
  const modules = path.join(home, 'node_modules');
  const photo = smallPhoto('timber-docket');

  // In Node. The sample reads and writes pictures by a package of its own.
  writeFileSync(path.join(home, 'pages.mjs'), block(readme, 'js'));
  symlinkSync(path.join(root, 'node_modules/sharp'), path.join(modules, 'sharp'));
  const said = execFileSync(process.execPath, ['pages.mjs', photo], { cwd: home, encoding: 'utf8' });
  expect(said).toMatch(/^page 1: 297 × 210 mm, even-light\n$/);
  const { width = 0, height = 0 } = await sharp(path.join(home, 'page-1.png')).metadata();
  expect(width / height).toBeGreaterThan(1.3);

  // Types, as a project sees them that resolves modules as Node does.
  writeFileSync(
    path.join(home, 'types.mts'),
    "import { findPages, render, type Raster } from '@libretto/core';\nconst photo: Raster = { width: 30, height: 30, channels: 1, data: new Uint8Array(900) };\nconst { quad } = findPages(photo, { most: 1 })[0]!;\nexport const dpi: number = render(photo, { quad, turn: 0, filter: 'auto' }).dpi;\n// @ts-expect-error there is no such filter\nrender(photo, { quad, turn: 0, filter: 'nice' });\n",
  );
  const compilerOptions = { noEmit: true, strict: true, module: 'nodenext', target: 'es2022', types: [] };
  writeFileSync(path.join(home, 'tsconfig.json'), JSON.stringify({ compilerOptions, files: ['types.mts'] }));
  const tsc = createRequire(import.meta.url).resolve('typescript/bin/tsc');
  execFileSync(process.execPath, [tsc, '-p', home], { stdio: 'inherit' });

  // In a browser page: an import map, and nothing built.
  await page.route('**/core-page/**', (route) => {
    const name = new URL(route.request().url()).pathname.replace('/core-page/', '');
    if (name === 'index.js')
      return route.fulfill({
        contentType: 'text/javascript',
        body: readFileSync(path.join(modules, '@libretto/core/dist/index.js')),
      });
    const map = '<script type="importmap">{"imports":{"@libretto/core":"/core-page/index.js"}}</script>';
    return route.fulfill({ contentType: 'text/html', body: `<!doctype html>${map}${block(readme, 'html')}` });
  });
  await page.goto('/core-page/');
  await page.locator('input').setInputFiles(photo);
  const canvas = page.locator('canvas');
  await expect.poll(() => canvas.evaluate((c) => (c as HTMLCanvasElement).width)).toBeGreaterThan(600);
  const paper = await canvas.evaluate((c) => [...(c as HTMLCanvasElement).getContext('2d')!.getImageData(12, 12, 1, 1).data]);
  expect(paper.slice(0, 3).every((v) => v > 180)).toBe(true);
});
