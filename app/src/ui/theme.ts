import { configureFonts, MD3DarkTheme, MD3LightTheme, useTheme } from 'react-native-paper';
import { corner, darkTokens, fonts, lightTokens, type Tokens } from './tokens';

type MD3Theme = typeof MD3LightTheme;

export interface LibrettoTheme extends MD3Theme {
  tokens: Tokens;
}

const heading = (fontSize: number, lineHeight: number) => ({
  fontFamily: fonts.heading,
  fontSize,
  lineHeight,
  letterSpacing: 0,
  fontWeight: '400' as const,
});
const text = (fontSize: number, lineHeight: number, fontFamily: string = fonts.text) => ({
  fontFamily,
  fontSize,
  lineHeight,
  letterSpacing: 0,
  fontWeight: '400' as const,
});

const type = configureFonts({
  config: {
    displayLarge: heading(40, 48), displayMedium: heading(34, 42), displaySmall: heading(28, 36),
    headlineLarge: heading(26, 32), headlineMedium: heading(24, 30), headlineSmall: heading(21, 27),
    titleLarge: heading(21, 26), titleMedium: heading(17, 22), titleSmall: heading(15, 20),
    bodyLarge: text(16, 22), bodyMedium: text(14, 19), bodySmall: text(13, 17),
    labelLarge: text(15, 20, fonts.bold), labelMedium: text(14, 18, fonts.bold), labelSmall: text(12, 16, fonts.bold),
    default: text(14, 19),
  },
}); // prettier-ignore

function build(base: MD3Theme, t: Tokens): LibrettoTheme {
  return {
    ...base,
    tokens: t,
    roundness: corner,
    fonts: type,
    colors: {
      ...base.colors,
      primary: t.wine, onPrimary: t.onWine, primaryContainer: t.well, onPrimaryContainer: t.wine,
      secondary: t.pencil, onSecondary: t.leaf, secondaryContainer: t.well, onSecondaryContainer: t.ink,
      tertiary: t.brass, onTertiary: t.leaf, tertiaryContainer: t.brassWash, onTertiaryContainer: t.brass,
      background: t.paper, onBackground: t.ink, surface: t.leaf, onSurface: t.ink, surfaceVariant: t.well, onSurfaceVariant: t.pencil,
      error: t.rust, onError: t.leaf, errorContainer: t.rustWash, onErrorContainer: t.rust,
      outline: t.hairline, outlineVariant: t.hairline, inverseSurface: t.ink, inverseOnSurface: t.paper, inversePrimary: t === lightTokens ? darkTokens.wine : lightTokens.wine,
      surfaceDisabled: t.well, onSurfaceDisabled: t.pencil, backdrop: 'rgba(38,33,30,0.55)',
      elevation: { level0: 'transparent', level1: t.leaf, level2: t.leaf, level3: t.leaf, level4: t.leaf, level5: t.leaf },
    },
  }; // prettier-ignore
}

export const lightTheme = build(MD3LightTheme, lightTokens);
export const darkTheme = build(MD3DarkTheme, darkTokens);

export function useTokens(): Tokens {
  return useTheme<LibrettoTheme>().tokens;
}
