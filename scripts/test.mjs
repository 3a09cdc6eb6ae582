// `npm test`: everything, on a machine with only Node. `npm test -- lint types unit e2e` runs a part.
import { existsSync } from 'node:fs';
import path from 'node:path';
import { build, checkNode, debian, install, root, run } from './setup.mjs';

checkNode();
const parts = process.argv.slice(2);
const wanted = (part) => !parts.length || parts.includes(part);
const workspaces = [
  'core',
  'model',
  'formats',
  'server',
  'cli',
  'demo',
  'bench',
  'e2e',
  'app',
  'app/tsconfig.worker.json',
  'tsconfig.tests.json',
];

install();
debian({
  chromium: '/usr/bin/chromium',
  'poppler-utils': '/usr/bin/pdfinfo',
  qpdf: '/usr/bin/qpdf',
  'apache2-bin': '/usr/sbin/apache2',
  'libtiff-tools': '/usr/bin/tiffinfo',
});
const tool = (file, ...args) => run(process.execPath, [path.join(root, 'node_modules', file), ...args]);
if (wanted('lint')) run('npm', ['run', '-s', 'lint']);
if (wanted('types'))
  for (const workspace of workspaces) if (existsSync(path.join(root, workspace))) tool('typescript/bin/tsc', '-p', workspace);
if (wanted('unit')) tool('jest/bin/jest.js', '--ci');
if (wanted('e2e')) {
  build();
  run('npm', ['run', '-s', 'e2e']);
}
