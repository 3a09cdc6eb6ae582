import { execFileSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { iconPaths as first } from './iconPaths';
import { moreIconPaths } from './moreIconPaths';

const iconPaths = { ...first, ...moreIconPaths };

const mdi = jest.requireActual<Record<string, string>>('@mdi/js');

const keyOf = (name: string) => `mdi${name.replace(/(^|-)\w/g, (m) => m.at(-1)!.toUpperCase())}`;

test('the outlines are those of Material Design Icons', () => {
  for (const [name, outline] of Object.entries(iconPaths)) expect([name, outline]).toEqual([name, mdi[keyOf(name)]]);
});

test('every icon that a screen names is there, and none that no screen does', () => {
  const source = path.join(__dirname, '..');
  const text = readdirSync(source, { recursive: true, encoding: 'utf8' })
    .filter((file) => /\.tsx?$/.test(file) && !/test|[iI]conPaths/.test(file))
    .map((file) => readFileSync(path.join(source, file), 'utf8'))
    .join('\n');
  const named = [...text.matchAll(/(?:icon|source)(?:="([^"]*)"|=\{([^}]*)\}|: ([^,\n}]*))/g)]
    .flatMap(
      ([, plain, chosen = '', given = '']) => plain ?? [...`${chosen} ${given}`.matchAll(/'([a-z-]+)'/g)].map((m) => m[1]!),
    )
    .filter((name) => keyOf(name) in mdi);
  expect(named.filter((name) => !iconPaths[name])).toEqual([]);
  const byPaper = ['checkbox-blank-outline', 'checkbox-marked', 'check', 'minus-box'];
  const all = new Set([...text.matchAll(/['"]([a-z]+(?:-[a-z]+)*)['"]/g)].map((m) => m[1]!));
  expect(Object.keys(iconPaths).filter((name) => !all.has(name) && !byPaper.includes(name))).toEqual([]);
});

test('those that the code of the first screen names come with it, the others later', () => {
  const script =
    "import { namedAtFirst } from './first-screen.mjs'; console.log(JSON.stringify(namedAtFirst(JSON.parse(process.argv[1]))))";
  const said = execFileSync(process.execPath, ['--input-type=module', '-e', script, JSON.stringify(Object.keys(iconPaths))], { cwd: path.join(__dirname, '../../scripts'), encoding: 'utf8' }); // prettier-ignore
  expect(new Set(Object.keys(first))).toEqual(new Set(JSON.parse(said)));
});
