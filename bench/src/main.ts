/**
 * Measures quality and speed beside a reference, in one run.
 *
 *     npm run bench -- find --photos DIR       DIR with photographs and their truth.json; default: the demo's own
 */
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { benchFind } from './find';

const { values, positionals } = parseArgs({ allowPositionals: true, options: { photos: { type: 'string' } } });
const photos = values.photos ?? fileURLToPath(new URL('../../demo/photos', import.meta.url));
const benches: Record<string, (dir: string) => Promise<void>> = { find: benchFind };
const chosen = positionals.length ? positionals : Object.keys(benches);
for (const name of chosen) {
  const bench = benches[name];
  if (!bench) {
    console.error(`There is no bench "${name}"; there are ${Object.keys(benches).join(', ')}`);
    process.exit(1);
  }
  console.log(`${name}, ${photos}`);
  await bench(photos);
}
