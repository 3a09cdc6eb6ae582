// `npm run kernels -w @libretto/core` compiles kernels.ts into core/src/kernels/module.ts; with `--print` it only says what it would write.
import { existsSync, readFileSync } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import asc from 'assemblyscript/asc';

const here = import.meta.dirname;

const source = (name) => (existsSync(path.join(here, name)) ? readFileSync(path.join(here, name), 'utf8') : null);
let wasm;
const { error, stderr } = await asc.main(
  ['kernels.ts', '-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory', '--outFile', 'kernels.wasm'],
  {
    readFile: source,
    writeFile: (name, contents) => {
      if (name === 'kernels.wasm') wasm = contents;
    },
  },
);
if (error) throw new Error(stderr.toString());
const base64 = Buffer.from(wasm).toString('base64');
if (process.argv.includes('--print')) console.log(base64);
else {
  const file = path.join(here, '../src/kernels/module.ts');
  await writeFile(file, `// Written by core/assembly/build.mjs from kernels.ts.\nexport const kernelModule =\n  '${base64}';\n`);
  console.log(`${file}: ${wasm.length} bytes`);
}
