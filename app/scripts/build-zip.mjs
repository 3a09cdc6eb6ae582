// What we use of zip.js in one piece: it loads one part of itself from another, which Metro would put with what is always fetched.
import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';

const app = fileURLToPath(new URL('../', import.meta.url));
await build({
  stdin: {
    contents: `export { BlobReader, configure, TextReader, Uint8ArrayWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';`,
    resolveDir: app,
  },
  outfile: `${app}bundle/built/zip.js`,
  bundle: true,
  format: 'esm',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
  plugins: [
    {
      // Methods of compression that somebody would bring along: nobody does, and Metro takes no address that is only known later.
      name: 'no-codecs',
      setup: (bundle) =>
        bundle.onLoad({ filter: /codec-registry\.js$/ }, ({ path }) => ({
          contents: readFileSync(path, 'utf8').replace(/\bimport\((?=\/\*)/, 'Promise.reject('),
        })),
    },
  ],
});
