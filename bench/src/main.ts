/**
 * Measures quality and speed beside a reference, in one run.
 *
 *     npm run bench -- find --photos DIR       DIR with photographs and their truth.json; default: the demo's own
 *     npm run bench -- capture --changes 200   scripted sheets before the live finder and the trigger (--script N begins with script N)
 *     npm run bench -- run                     ten sheets in the browser: stalls, and how soon pages stand in the tray (needs the built app)
 */
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { benchCapture } from './capture';
import { benchFind } from './find';
import { benchRun } from './run';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: { photos: { type: 'string' }, changes: { type: 'string', default: '200' }, script: { type: 'string', default: '1' } },
});
const photos = values.photos ?? fileURLToPath(new URL('../../demo/photos', import.meta.url));
const benches: Record<string, (dir: string) => Promise<void>> = {
  find: benchFind,
  capture: () => benchCapture(Number(values.changes), Number(values.script)),
  run: benchRun,
};
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
