/** Languages that ship, by their codes of ISO 639-3 (as the engine and the detector name them) and BCP 47 (as files name them). */
export const languages = { eng: 'en', deu: 'de', fra: 'fr', spa: 'es', ita: 'it', nld: 'nl', por: 'pt' } as const;
export type Language = keyof typeof languages;
export const languageIds = Object.keys(languages) as Language[];
