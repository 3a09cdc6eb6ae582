/**
 * Measures quality and speed beside a reference, in one run.
 *
 *     npm run bench -- find --photos DIR       DIR with photographs and their truth.json; default: the demo's own
 *     npm run bench -- blank                   our own empty desks: on how many a page is found (--changes N of them)
 *     npm run bench -- flat                    flattened pages against the clean ones: MS-SSIM and local distortion
 *     npm run bench -- text                    how well Tesseract reads the finished pages (--per-category N, --only a,b, --own: along our own outlines)
 *     npm run bench -- reading                  our reader beside Debian's Tesseract: characters, words, order, time; how often a word is right by how sure it was said to be
 *     npm run bench -- tables                  printed tables, photographed and read: F-measure of neighbouring cells (--per-category N of each kind, --keep DIR what was read)
 *     npm run bench -- cards                   printed business cards of ten layouts, read: F-measure of their fields (--per-category N of each, --keep DIR what was read)
 *     npm run bench -- codes                   codes of seven kinds, three sizes and angles, read beside Debian's zbarimg
 *     npm run bench -- names                   first pages of ten kinds, read: whether title, date and number are suggested (--per-category N of each, --keep DIR)
 *     npm run bench -- binary                  Ink against the clean pages: F-measure and PSNR
 *     npm run bench -- finish                  whiteness and evenness of the finished paper, CIEDE2000 of coloured fields
 *     npm run bench -- colours                 pages full of colour: how far off the print, chroma kept, print turned to bare paper (--per-category N of each, --keep DIR pictures)
 *     npm run bench -- checks                  scripted photographs with and without what each check is to tell
 *     npm run bench -- capture --changes 200   scripted sheets before the live finder and the trigger (--script N begins with script N, --look-ms N looks every N ms)
 *     npm run bench -- shelf                   ten thousand documents beside an empty shelf (--documents N; needs the built app)
 *     npm run bench -- words                   the words of ten thousand pages: having them at hand, keeping one, searching (--documents N)
 *     npm run bench -- load                    bytes and time to a usable shelf, first and second visit, quick and slowed (needs the built app)
 *     npm run bench -- memory                  most memory of the page: a photograph of 48 megapixels, forty of 12 (needs the built app)
 *     npm run bench -- faults                  random work, cut off: kills, closed tabs, full disks, servers that go away (--rounds N; needs the built app)
 *     npm run bench -- formats                 PDFs in time and memory beside pdf-lib, layered letters, Group 4 beside libtiff
 *     npm run bench -- deliveries --runs 1000  deliveries cut off at random: what is lost, doubled, falsely called arrived, in doubt (--servers 3: several on one ledger)
 *     npm run bench -- throughput               fifty files of 5 MB carried into a WebDAV folder, one and eight at once, beside curl and sha256sum
 *     npm run bench -- run                     ten sheets in the browser: stalls, and how soon pages stand in the tray (needs the built app)
 *     npm run bench -- kernels                 SIMD kernels beside their plain twins and OpenCV's WebAssembly build
 *     npm run bench -- pictures                draws the pictures of docs/ from the demo's photographs
 *
 * With `--note` the figures go into docs/figures.md.
 */
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import { benchBinary } from './binary';
import { benchBlank } from './blank';
import { benchCapture } from './capture';
import { benchChecks } from './checks/checks';
import { benchCodes } from './codes';
import { benchColours } from './colours';
import { benchDeliveries } from './deliveries';
import { benchThroughput } from './throughput';
import { benchFind } from './find';
import { benchFinish } from './finish';
import { benchFlat } from './flat';
import { benchFormats } from './formats';
import { benchKernels } from './kernels';
import { Noting } from './noting';
import { benchCards, benchNames } from './fields';
import { benchFaults } from './faults';
import { benchLoad } from './load';
import { benchMemory } from './memory';
import { drawPictures } from './pictures';
import { benchReading } from './reading';
import { benchRun } from './run';
import { benchShelf } from './shelf';
import { benchTables } from './tables';
import { benchText } from './text';
import { benchWords } from './words';

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    photos: { type: 'string' },
    changes: { type: 'string', default: '200' },
    script: { type: 'string', default: '1' },
    'look-ms': { type: 'string', default: '90' },
    'per-category': { type: 'string', default: '99' },
    only: { type: 'string', default: '' },
    documents: { type: 'string', default: '10000' },
    runs: { type: 'string', default: '1000' },
    servers: { type: 'string', default: '1' },
    rounds: { type: 'string', default: '200' },
    own: { type: 'boolean', default: false },
    keep: { type: 'string' },
    note: { type: 'boolean', default: false },
  },
});
const photos = values.photos ?? fileURLToPath(new URL('../../demo/photos', import.meta.url));
const pages = { perCategory: Number(values['per-category']), only: values.only.split(',').filter(Boolean), own: values.own };
const benches: Record<string, (dir: string) => Promise<void>> = {
  find: benchFind,
  blank: () => benchBlank(Number(values.changes)),
  colours: () => benchColours(Math.min(20, Number(values['per-category'])), values.keep),
  checks: benchChecks,
  formats: () => benchFormats(),
  throughput: () => benchThroughput(),
  deliveries: () => benchDeliveries(Number(values.runs), Number(values.servers)),
  binary: (dir) => benchBinary(dir, pages),
  finish: (dir) => benchFinish(dir, pages),
  flat: (dir) => benchFlat(dir, pages),
  text: (dir) => benchText(dir, pages),
  reading: (dir) => benchReading(dir, pages),
  tables: () => benchTables(Math.min(20, Number(values['per-category'])), values.keep),
  cards: () => benchCards(Math.min(10, Number(values['per-category'])), values.keep),
  codes: () => benchCodes(values.keep),
  pictures: drawPictures,
  names: () => benchNames(Math.min(10, Number(values['per-category'])), values.keep),
  capture: () => benchCapture(Number(values.changes), Number(values.script), Number(values['look-ms'])),
  run: benchRun,
  load: benchLoad,
  memory: benchMemory,
  shelf: () => benchShelf(Number(values.documents)),
  words: () => benchWords(Number(values.documents)),
  faults: () => benchFaults(Number(values.rounds), Number(values.script)),
  kernels: benchKernels,
};
const noting = values.note ? new Noting(process.argv.slice(2)) : null;
const chosen = positionals.length ? positionals : Object.keys(benches);
for (const name of chosen) {
  const bench = benches[name];
  if (!bench) {
    console.error(`There is no bench "${name}"; there are ${Object.keys(benches).join(', ')}`);
    process.exit(1);
  }
  console.log(`${name}, ${photos}`);
  noting?.begin(name);
  await bench(photos);
}
