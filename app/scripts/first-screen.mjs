// What the code of the first screen names: the files that the frame and the shelf bring along by their own imports, without those that are fetched later.
import { existsSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';

const src = path.join(import.meta.dirname, '../src');

function filesAtFirst() {
  const found = new Set();
  const queue = ['_layout', 'index'].map((route) => path.join(src, 'app', `${route}.tsx`));
  for (let file; (file = queue.pop());) {
    if (found.has(file)) continue;
    found.add(file);
    for (const [, from] of readFileSync(file, 'utf8').matchAll(/^(?:import|export)(?! type)[^;]*? from '(\.[^']+)'/gms)) {
      const at = path.join(path.dirname(file), from);
      const real = ['.ts', '.tsx', '/index.ts']
        .map((ending) => at + ending)
        .find((one) => existsSync(one) && statSync(one).isFile());
      if (real) queue.push(real);
    }
  }
  return [...found].filter((file) => !/[iI]conPaths\.ts$/.test(file));
}

/** Of some names those that stand as words of their own in the first screen's code. */
export function namedAtFirst(names) {
  const text = filesAtFirst().map((file) => readFileSync(file, 'utf8')).join('\n'); // prettier-ignore
  return names.filter((name) => new RegExp(`['"]${name}['"]`).test(text));
}
