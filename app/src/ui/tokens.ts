/** The look's colours; see the design notes in docs/look.md. */
export interface Tokens {
  paper: string;
  leaf: string;
  well: string;
  ink: string;
  pencil: string;
  hairline: string;
  wine: string;
  onWine: string;
  brass: string;
  brassWash: string;
  moss: string;
  rust: string;
  rustWash: string;
}

export const lightTokens: Tokens = {
  paper: '#FAF6EE',
  leaf: '#FFFDF8',
  well: '#EFE7DA',
  ink: '#26211E',
  pencil: '#6A6059',
  hairline: '#DDD2C1',
  wine: '#6E1F3A',
  onWine: '#FFFDF8',
  brass: '#856013',
  brassWash: '#FBF0DA',
  moss: '#3F6B3A',
  rust: '#A33A1E',
  rustWash: '#FBE9E1',
};

export const darkTokens: Tokens = {
  paper: '#1B1817',
  leaf: '#262120',
  well: '#141211',
  ink: '#F1EADF',
  pencil: '#B3A79B',
  hairline: '#453C38',
  wine: '#E3A0B4',
  onWine: '#3A0F1F',
  brass: '#E0BC6A',
  brassWash: '#3A2F18',
  moss: '#A5CFA0',
  rust: '#F0A48E',
  rustWash: '#43241B',
};

/** Corners of leaves, and the least size of anything that is touched. */
export const corner = 4;
export const touch = 44;
/** From this width on screens stand side by side, and from this height. */
export const widePx = 768;
export const leastWideHeightPx = 560;

/** Each with what stands in for it when it cannot be fetched. */
export const fonts = {
  heading: 'Fraunces_600SemiBold, Georgia, serif',
  text: 'AtkinsonHyperlegible_400Regular, system-ui, sans-serif',
  bold: 'AtkinsonHyperlegible_700Bold, system-ui, sans-serif',
} as const;
