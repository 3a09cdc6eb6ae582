import { franc } from 'franc-min';

/** Languages that ship, by their codes of ISO 639-3 (as the engine and the detector name them) and BCP 47 (as files name them). */
export const languages = { eng: 'en', deu: 'de', fra: 'fr', spa: 'es', ita: 'it', nld: 'nl', por: 'pt' } as const;
export type Language = keyof typeof languages;
export const languageIds = Object.keys(languages) as Language[];

/** Fewer letters than this say too little: titles and cards. */
const leastLetters = 100;

/** The language of a text, by its trigrams; null where it is too short to tell, or none of ours. */
export function languageOf(text: string): Language | null {
  const letters = text
    .replace(/[^\p{L}\s]/gu, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  if (letters.length < leastLetters) return null;
  const told = franc(letters, { only: languageIds });
  return languageIds.find((id) => id === told) ?? null;
}
