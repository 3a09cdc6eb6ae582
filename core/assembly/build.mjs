// `npm run kernels -w @libretto/core` compiles kernels.ts into core/src/kernels/module.ts; with `--print` it only says what it would write.
import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import asc from 'assemblyscript/asc';

const here = import.meta.dirname;

const source = await readFile(path.join(here, 'kernels.ts'), 'utf8');
let wasm;
const { error, stderr } = await asc.main(
  ['kernels.ts', '-O3', '--noAssert', '--runtime', 'stub', '--enable', 'simd', '--importMemory', '--outFile', 'kernels.wasm'],
  {
    readFile: (name) => (name === 'kernels.ts' ? source : null),
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
