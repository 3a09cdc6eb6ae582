import { darkTokens, lightTokens, type Tokens } from './tokens';

/** Contrast ratio of two colours (WCAG 2.2, relative luminance and contrast ratio). */
function contrast(a: string, b: string): number {
  const luminance = (hex: string) => {
    const [r, g, blue] = [1, 3, 5].map((at) => {
      const v = parseInt(hex.slice(at, at + 2), 16) / 255;
      return v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * blue!;
  };
  const [lighter, darker] = [luminance(a), luminance(b)].sort((x, y) => y - x);
  return (lighter! + 0.05) / (darker! + 0.05);
}

const texts = ['ink', 'pencil', 'wine', 'brass', 'moss', 'rust'] as const;
// The well lies under chosen rows.
const grounds = ['paper', 'leaf', 'well'] as const;
const pairs: (readonly [keyof Tokens, keyof Tokens])[] = [
  ...texts.flatMap((text) => grounds.map((ground) => [text, ground] as const)),
  ['ink', 'brassWash'], ['brass', 'brassWash'], ['ink', 'rustWash'], ['rust', 'rustWash'], ['onWine', 'wine'],
]; // prettier-ignore

test('contrast of the formula’s own ends is 21 and 1', () => {
  expect([contrast('#000000', '#ffffff'), contrast('#777777', '#777777')]).toEqual([21, 1]);
});

test.each([
  ['light', lightTokens],
  ['dark', darkTokens],
])('%s: words can be read on whatever they stand on (WCAG 2.2, 1.4.3: 4.5 to 1)', (_, tokens) => {
  const poor = pairs.flatMap(([text, ground]) => {
    const ratio = contrast(tokens[text], tokens[ground]);
    return ratio < 4.5 ? [`${text} on ${ground}: ${ratio.toFixed(2)}`] : [];
  });
  expect(poor).toEqual([]);
});
