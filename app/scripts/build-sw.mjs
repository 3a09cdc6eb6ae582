import { fileURLToPath } from 'node:url';
import { generateSW } from 'workbox-build';

const dist = fileURLToPath(new URL('../dist/', import.meta.url));
const { count, size, warnings } = await generateSW({
  globDirectory: dist,
  globPatterns: ['**/*.{html,js,mjs,css,json,ico,png,ttf,pfb,bcmap,icc,woff2,wasm,webmanifest}'],
  // What reads PDFs comes when the first PDF does, what reads text when the first page is read.
  globIgnores: ['pdf/**', 'text/**', 'sw.js', 'share-target.js', 'workbox-*.js', 'metadata.json', '**/*.map'],
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
  importScripts: ['share-target.js'],
});
console.log(`offline copy: ${count} files, ${(size / 1e6).toFixed(1)} MB`);
for (const warning of warnings) console.warn(warning);
