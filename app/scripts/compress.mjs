// Every text file of the build beside itself as .br and .gz: the server hands out what a browser takes. Fails when what a first visit fetches has grown too large.
import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { availableParallelism } from 'node:os';
import { promisify } from 'node:util';
import { brotliCompress, constants, gzip } from 'node:zlib';

/** What the shelf's first visit may weigh, with brotli: what it has come to (the aim is 350). */
const budgetKb = 350;
const dist = fileURLToPath(new URL('../dist/', import.meta.url));
const files = readdirSync(dist, { recursive: true })
  .filter((file) => /\.(html|m?js|css|json|svg|wasm|webmanifest|ico|bcmap|icc)$/.test(file))
  .filter((file) => statSync(dist + file).size > 800);
const [pack, zip] = [promisify(brotliCompress), promisify(gzip)];
const sizes = new Map();
const queue = [...files];
await Promise.all(
  Array.from({ length: availableParallelism() }, async () => {
    for (let file; (file = queue.pop());) {
      const bytes = readFileSync(dist + file);
      // The readers of PDFs and of text have megabytes that are fetched once: less effort for them.
      const quality = /^(pdf|text)\//.test(file) ? 6 : 11;
      const [br, gz] = await Promise.all([
        pack(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: quality, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length } }),
        zip(bytes, { level: 9 }),
      ]);
      writeFileSync(`${dist}${file}.br`, br);
      writeFileSync(`${dist}${file}.gz`, gz);
      sizes.set(file, { raw: bytes.length, br: br.length, gz: gz.length });
    }
  }),
);

// A first visit to the shelf: the page itself, its scripts, and the fonts that its words are set in.
const html = readFileSync(`${dist}index.html`, 'utf8');
const scripts = [...html.matchAll(/<script src="\/([^"]+)"/g)].map((m) => m[1]);
const fonts = readdirSync(`${dist}fonts`).flatMap((file) => (/-more\./.test(file) ? [] : `fonts/${file}`));
const first = ['index.html', ...scripts];
const kb = (of) => first.reduce((sum, file) => sum + (sizes.get(file)?.[of] ?? statSync(dist + file).size), 0) / 1000;
const fontsKb = fonts.reduce((sum, file) => sum + statSync(dist + file).size, 0) / 1000;
const total = kb('br') + fontsKb;
console.log(
  `first visit: ${Math.round(total)} kB with brotli (${Math.round(kb('gz') + fontsKb)} kB gzipped), ${Math.round(fontsKb)} kB of it fonts; the largest:`,
);
for (const [file, { raw, br, gz }] of [...sizes].filter(([f]) => f.endsWith('.js') && !/^(pdf|text)\//.test(f)).sort((a, b) => b[1].gz - a[1].gz).slice(0, 10)) // prettier-ignore
  console.log(`  ${String(Math.round(gz / 1000)).padStart(5)} gz ${String(Math.round(br / 1000)).padStart(5)} br ${String(Math.round(raw / 1000)).padStart(6)} kB  ${file.replace(/^.*\//, '')}${first.includes(file) ? '  (first visit)' : ''}`); // prettier-ignore
if (total > budgetKb) {
  console.error(`The first visit weighs ${Math.round(total)} kB, more than ${budgetKb}`);
  process.exitCode = 1;
}
