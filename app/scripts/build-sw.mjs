import { fileURLToPath } from 'node:url';
import { build } from 'esbuild';
import { generateSW } from 'workbox-build';

const dist = fileURLToPath(new URL('../dist/', import.meta.url));
await build({
  entryPoints: [fileURLToPath(new URL('../src/sending/background.worker.ts', import.meta.url))],
  outfile: `${dist}background.js`,
  bundle: true,
  format: 'iife',
  target: 'es2022',
  minify: true,
  logLevel: 'warning',
});
const { count, size, warnings } = await generateSW({
  globDirectory: dist,
  globPatterns: ['**/*.{html,js,mjs,css,json,ico,png,ttf,pfb,bcmap,icc,woff2,wasm,webmanifest}'],
  // What reads PDFs comes when the first PDF does, what reads text when the first page is read.
  globIgnores: ['pdf/**', 'text/**', 'sw.js', 'share-target.js', 'background.js', 'workbox-*.js', 'metadata.json', '**/*.map'],
  maximumFileSizeToCacheInBytes: 12 * 1024 * 1024,
  swDest: `${dist}sw.js`,
  sourcemap: false,
  inlineWorkboxRuntime: true,
  dontCacheBustURLsMatching: /\/_expo\/static\/|\.[0-9a-f]{32}\./,
  navigateFallback: '/index.html',
  navigateFallbackDenylist: [/^\/(api|stand-ins|demo|pair)\//, /^\/(sign-in|authority\.crt)$/],
  runtimeCaching: [
    { urlPattern: /\/(pdf|text)\/[^/]*$|\/pdf\//, handler: 'StaleWhileRevalidate', options: { cacheName: 'libretto-pdf' } },
    // Under their versions: they never change.
    { urlPattern: /\/text\/[^/]+\//, handler: 'CacheFirst', options: { cacheName: 'libretto-text' } },
  ],
  clientsClaim: true,
  // A new version waits until it is asked for: it is never swapped under an open tab.
  skipWaiting: false,
  importScripts: ['share-target.js', 'background.js'],
});
console.log(`offline copy: ${count} files, ${(size / 1e6).toFixed(1)} MB`);
for (const warning of warnings) console.warn(warning);
