import { franc } from 'franc-min';
import { languageIds, type Language } from './languages';

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
