// The fonts as woff2 with the letters that European languages are written in, without hints for coarse screens: a sixth of their size.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import subsetFont from 'subset-font';

const require = createRequire(import.meta.url);
const out = fileURLToPath(new URL('../public/fonts/', import.meta.url));
/** Basic Latin to Latin Extended-A, Romanian, the punctuation and signs that our words use, and what stands in for what is missing. */
const ranges = [[0x20, 0x7e], [0xa0, 0x17f], [0x218, 0x21b], [0x2010, 0x2027], [0x202f, 0x203a], [0x2044, 0x2044], [0x20ac, 0x20ac], [0x2122, 0x2122], [0x2190, 0x2193], [0x2212, 0x2212], [0xfffd, 0xfffd]]; // prettier-ignore
const letters = ranges
  .flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i)))
  .join('');
const fonts = {
  'atkinson-hyperlegible-400': '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf',
  'atkinson-hyperlegible-700': '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf',
  'fraunces-600': '@expo-google-fonts/fraunces/600SemiBold/Fraunces_600SemiBold.ttf',
};
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });
for (const [name, file] of Object.entries(fonts)) {
  const font = await subsetFont(readFileSync(require.resolve(file)), letters, { targetFormat: 'woff2', noHinting: true });
  writeFileSync(`${out}${name}.woff2`, font);
  console.log(`${name}: ${(font.length / 1000).toFixed(1)} kB`);
}
