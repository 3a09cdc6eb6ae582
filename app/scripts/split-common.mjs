// Metro puts every module that two lazy parts share into one file, which a first visit fetches. What the start does not need of it goes into a file of its own here, which bundle/later.js fetches with
// the first lazy part that needs it.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, renameSync, rmSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { slicesOf } from './slices.mjs';

const web = fileURLToPath(new URL('../dist/_expo/static/js/web/', import.meta.url));
const page = fileURLToPath(new URL('../dist/index.html', import.meta.url));
const names = readdirSync(web).filter((name) => name.endsWith('.js'));
const one = (start) => {
  const found = names.filter((name) => name.startsWith(start));
  if (found.length !== 1) throw new Error(`${found.length} files are called ${start}…`);
  return found[0];
};
const common = one('__common-');
const entry = one('entry-');

/** The modules of a file: `__d(factory, id, dependencies)`, one after the other; the dependencies are a list, or by their places with the files of those that come later. */
function modulesOf(name) {
  const text = readFileSync(web + name, 'utf8');
  const starts = [...text.matchAll(/(?:^|\n)(?=__d\()/g)].map((m) => m.index + m[0].length);
  if (!starts.length) throw new Error(`no modules in ${name}`);
  const modules = starts.map((start, i) => {
    const code = text.slice(start, starts[i + 1] ?? text.length).trimEnd();
    const end = /\},(\d+),(\[[\d,null]*\]|\{"[\s\S]*\})\);(\n__r\(\d+\);)*$/.exec(code);
    if (!end) throw new Error(`a module of ${name} that is not understood: …${code.slice(-80)}`);
    const listed = JSON.parse(end[2]);
    const { paths = {}, ...by } = Array.isArray(listed) ? { ...listed } : listed;
    const needs = Object.values(by).filter((id) => id !== null && !(id in paths));
    return {
      id: Number(end[1]),
      code,
      list: listed,
      needs,
      runs: [...code.matchAll(/\n__r\((\d+)\);/g)].map((m) => Number(m[1])),
    };
  });
  return { before: text.slice(0, starts[0]), modules };
}

const { before, modules } = modulesOf(common);
const rest = modulesOf(entry).modules;
const known = new Map([...modules, ...rest].map((m) => [m.id, m]));
const needed = new Set();
const open = rest.flatMap((m) => m.runs);
for (let id; (id = open.pop()) !== undefined;) {
  if (needed.has(id)) continue;
  needed.add(id);
  open.push(...(known.get(id)?.needs ?? []));
}
const write = (name, parts) => {
  const text = parts.join('\n') + '\n';
  const file = `${name}-${createHash('md5').update(text).digest('hex')}.js`;
  writeFileSync(web + file, text);
  return file;
};
const later = modules.filter((m) => !needed.has(m.id));
const start = write('__start', [before.trimEnd(), ...modules.filter((m) => needed.has(m.id)).map((m) => m.code)].filter(Boolean));
const rests = write(
  '__later',
  later.map((m) => m.code),
);
rmSync(web + common);
/** Whether a lazy part can do without the shared file that comes later. */
const laterIds = new Set(later.map((m) => m.id));
function isByItself(name) {
  const own = new Map(modulesOf(name).modules.map((m) => [m.id, m]));
  const seen = new Set();
  const queue = [...own.keys()];
  for (let id; (id = queue.pop()) !== undefined;) {
    if (seen.has(id)) continue;
    seen.add(id);
    if (laterIds.has(id)) return false;
    queue.push(...((own.get(id) ?? known.get(id))?.needs ?? []));
  }
  return true;
}
const at = (name) => `/_expo/static/js/web/${name}`;
const parts = names.filter((name) => name !== common && name !== entry && readFileSync(web + name, 'utf8').includes('__d('));
const without = parts.filter(isByItself);
const html = readFileSync(page, 'utf8').replaceAll(common, start);
const content = JSON.stringify({ file: at(rests), without: without.map(at) });
writeFileSync(`${page}.new`, html.replace('</head>', `<meta name="later" content='${content}'/></head>`));
renameSync(`${page}.new`, page);
console.log(
  `${later.length} of ${modules.length} shared modules come later; ${without.length} of ${parts.length} parts do without them`,
);
// The start in slices: some milliseconds of modules, then whatever a finger wants. The router asks for the frame and the shelf while it draws.
const roots = rest.flatMap((m) => m.runs);
const routes = rest.find((m) => m.code.includes('"./_layout.tsx":{'));
const atStart = [...routes.code.matchAll(/"\.\/(?:_layout|index)\.tsx":\{[^{}]*?\bd\[(\d+)\]/g)].map(
  ([, place]) => routes.list[place],
);
if (atStart.length !== 2) throw new Error('the frame and the shelf are not among the routes');
const ids = slicesOf(known, [...roots, ...atStart], 2000);
const run = (ids) => ids.map((id) => `__r(${id});`).join('\n');
const inSlices = `((ids,pause)=>{const go=()=>{const end=performance.now()+8;while(ids.length){__r(ids.shift());if(performance.now()>end)return pause.port2.postMessage(0)}pause.port1.close();${run(roots).replaceAll('\n', '')}};pause.port1.onmessage=go;go()})(${JSON.stringify(ids)},new MessageChannel);`;
const whole = readFileSync(web + entry, 'utf8');
if (!whole.trimEnd().endsWith(run(roots))) throw new Error('the entry does not end with what it runs');
const sliced = whole.trimEnd().slice(0, -run(roots).length) + inSlices;
// All of what a first visit fetches is run at once: compiled beside the main thread while it comes, rather than function by function as each is called
// (V8's explicit compile hints, Chromium 136 and later; to the others it is a remark).
const hinted = (text) => `//# allFunctionsCalledOnLoad\n${text}`;
writeFileSync(web + start, hinted(readFileSync(web + start, 'utf8')));
writeFileSync(web + entry, hinted(sliced));
