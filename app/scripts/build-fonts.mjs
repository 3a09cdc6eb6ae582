// The fonts as woff2 with the letters that European languages are written in, without hints for coarse screens: a sixth of their size.
import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { fileURLToPath } from 'node:url';
import subsetFont from 'subset-font';

const require = createRequire(import.meta.url);
const out = fileURLToPath(new URL('../public/fonts/', import.meta.url));
/** What western languages are written in, with the punctuation and signs that our words use and what stands in for what is missing; and the letters of the others, fetched when one of them is first shown (unicode-range, CSS Fonts 4). The style sheet in public/index.html and the notes' font name the second's range. */
const parts = {
  '': [[0x20, 0x7e], [0xa0, 0xff], [0x152, 0x153], [0x2010, 0x2027], [0x202f, 0x203a], [0x20ac, 0x20ac], [0x2190, 0x2193], [0x2212, 0x2212], [0xfffd, 0xfffd]],
  '-more': [[0x100, 0x151], [0x154, 0x17f], [0x218, 0x21b], [0x2044, 0x2044], [0x2122, 0x2122]],
}; // prettier-ignore
const lettersOf = (ranges) =>
  ranges.flatMap(([from, to]) => Array.from({ length: to - from + 1 }, (_, i) => String.fromCodePoint(from + i))).join('');
const fonts = {
  'atkinson-hyperlegible-400': '@expo-google-fonts/atkinson-hyperlegible/400Regular/AtkinsonHyperlegible_400Regular.ttf',
  'atkinson-hyperlegible-700': '@expo-google-fonts/atkinson-hyperlegible/700Bold/AtkinsonHyperlegible_700Bold.ttf',
  'fraunces-600': '@expo-google-fonts/fraunces/600SemiBold/Fraunces_600SemiBold.ttf',
};
rmSync(out, { recursive: true, force: true });
mkdirSync(out, { recursive: true });
for (const [name, file] of Object.entries(fonts))
  for (const [part, ranges] of Object.entries(parts)) {
    const options = { targetFormat: 'woff2', noHinting: true };
    const font = await subsetFont(readFileSync(require.resolve(file)), lettersOf(ranges), options);
    writeFileSync(`${out}${name}${part}.woff2`, font);
    console.log(`${name}${part}: ${(font.length / 1000).toFixed(1)} kB`);
  }
