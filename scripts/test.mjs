// `npm test`: everything, on a machine with only Node. `npm test -- lint types unit e2e` runs a part.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { build, checkNode, debian, install, root, run } from './setup.mjs';

checkNode();
const parts = process.argv.slice(2);
const wanted = (part) => !parts.length || parts.includes(part);
// Packages by themselves, as what each may use differs; what only runs on a developer's machine in one go.
const programs = ['core', 'model', 'formats', 'text', 'server', 'tsconfig.tools.json', 'app', 'app/tsconfig.worker.json'];

const tools = {
  chromium: '/usr/bin/chromium',
  'firefox-esr': '/usr/bin/firefox-esr',
  'webkit2gtk-driver': '/usr/bin/WebKitWebDriver',
  xvfb: '/usr/bin/Xvfb',
  'python3-gi': '/usr/lib/python3/dist-packages/gi',
  'gir1.2-webkit2-4.1': '/usr/share/doc/gir1.2-webkit2-4.1/copyright',
  openssl: '/usr/bin/openssl',
  'poppler-utils': '/usr/bin/pdfinfo',
  qpdf: '/usr/bin/qpdf',
  'apache2-bin': '/usr/sbin/apache2',
  'libtiff-tools': '/usr/bin/tiffinfo',
  postgresql: '/usr/lib/postgresql',
  'exim4-daemon-light': '/usr/sbin/exim4',
  'swift-account': '/usr/bin/swift-account-server',
  'swift-container': '/usr/bin/swift-container-server',
  'swift-object': '/usr/bin/swift-object-server',
  'swift-proxy': '/usr/bin/swift-proxy-server',
  unzip: '/usr/bin/unzip',
};
/** A part of this script beside the rest. */
const beside = (part) =>
  new Promise((resolve) => spawn(process.execPath, [process.argv[1], part], { cwd: root, stdio: 'inherit' }).on('exit', resolve));
const endedWell = async (work) => {
  if (work && (await work) !== 0) process.exit(1);
};
if (parts.includes('debian')) {
  debian(tools);
  process.exit();
}
// Debian's packages come beside npm's, and the build, which takes one core for two minutes, runs beside lint and types.
const installing = parts.includes('build') ? null : beside('debian');
install();
if (parts.includes('build')) build();
const building = wanted('e2e') ? beside('build') : null;
const tool = (file, ...args) => run(process.execPath, [path.join(root, 'node_modules', file), ...args]);
if (wanted('lint')) run('npm', ['run', '-s', 'lint']);
if (wanted('types')) for (const program of programs) tool('typescript/bin/tsc', '-p', program);
await endedWell(installing);
// Left to itself Jest leaves a core free.
if (wanted('unit')) tool('jest/bin/jest.js', '--ci', '--maxWorkers=100%');
if (building) {
  await endedWell(building);
  run('npm', ['run', '-s', 'e2e']);
}
