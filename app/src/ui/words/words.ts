import { useEffect, useState } from 'react';
import { createInstance, type TOptions } from 'i18next';
import { initReactI18next, useTranslation } from 'react-i18next';
import { en } from './en';
import type { enMore } from './enMore';

type Leaves<T, P extends string = ''> = {
  [K in keyof T & (string | number)]: T[K] extends string
    ? `${P}${K}` extends `${infer Stem}_${'one' | 'other'}`
      ? Stem
      : `${P}${K}`
    : T[K] extends readonly unknown[]
      ? never
      : Leaves<T[K], `${P}${K}.`>;
}[keyof T & (string | number)];

type Like<T> = {
  [K in keyof T]: T[K] extends string ? string : T[K] extends readonly unknown[] ? readonly [string, string] : Like<T[K]>;
};
/** Every word of the app in some language. */
export type Catalogue = Like<typeof en & typeof enMore>;

/** A key of the catalogue, without its plural form. */
export type WordKey = Leaves<typeof en & typeof enMore>;
export type Values = Record<string, string | number>;
export type Say = (key: WordKey, values?: Values) => string;

const browserLanguage = typeof navigator === 'undefined' ? 'en-GB' : navigator.language;
export const appLanguages = ['en', 'de'] as const;
export type AppLanguage = (typeof appLanguages)[number];
const languageKey = 'libretto-language';

/** As it was chosen on this device, else as the browser is set. */
function wantedLanguage(): AppLanguage {
  let chosen: string | null = null;
  try {
    chosen = localStorage.getItem(languageKey);
  } catch {
    // Nothing can be kept here.
  }
  return appLanguages.find((id) => id === chosen) ?? (/^de\b/.test(browserLanguage) ? 'de' : 'en');
}
export const language = wantedLanguage();
if (typeof document !== 'undefined') document.documentElement.lang = language;

/** Takes effect when the app begins anew. */
export function chooseLanguage(next: AppLanguage): void {
  localStorage.setItem(languageKey, next);
  window.location.reload();
}

/** How dates and numbers are written: as the browser says, within the language that the words are in. */
export const locale = new RegExp(`^${language}\\b`).test(browserLanguage) && browserLanguage !== 'en-US@posix' ? browserLanguage : { en: 'en-GB', de: 'de-DE' }[language]; // prettier-ignore

const words = createInstance();
void words.use(initReactI18next).init({
  lng: language,
  fallbackLng: 'en',
  resources: { en: { translation: en } },
  // Advice and file names hold colons.
  nsSeparator: false,
  // React escapes what it shows.
  interpolation: { escapeValue: false },
  initAsync: false,
  showSupportNotice: false,
} as Parameters<typeof words.init>[0]);

/** Adds words to those that are there. */
export const addWords = (more: object, to: AppLanguage = 'en'): void => void words.addResourceBundle(to, 'translation', more, true, true); // prettier-ignore

let more: Promise<void> | null = null;
let allThere = false;
/** The words of all screens but the first, and all of them in another language; asked for again where they did not come. */
export const moreWords = (): Promise<void> =>
  (more ??= (
    language === 'de'
      ? import('./de').then(({ de }) => addWords(de, 'de'))
      : import('./enMore').then(({ enMore: rest }) => addWords(rest))
  ).then(
    () => {
      allThere = true;
    },
    (error: unknown) => {
      more = null;
      throw error;
    },
  ));

/** Whether they are there; asks for them. */
export function useMoreWords(): boolean {
  const [there, setThere] = useState(allThere);
  useEffect(() => {
    if (there) return;
    let timer: ReturnType<typeof setTimeout>;
    const ask = () =>
      moreWords().then(
        () => setThere(true),
        () => (timer = setTimeout(ask, retryMs)),
      );
    void ask();
    return () => clearTimeout(timer);
  }, [there]);
  return there;
}
const retryMs = 3000;

/** A list of the catalogue, as it stands there. */
export const sayList = (key: string): Record<string, readonly [string, string]> => words.t(key, { returnObjects: true }) as never;

export const say: Say = (key, values) => words.t(key, values as TOptions) as string;

/** Words for a component, which follow the language. */
export function useSay(): Say {
  const { t } = useTranslation(undefined, { i18n: words });
  return t as unknown as Say;
}

/** Words by a code that was stored, where a key cannot be known beforehand; without an entry, what the other side said. */
export function sayCode(
  say_: Say,
  group: string,
  { code, values, said }: { code: string; values?: Values | undefined; said?: string | undefined },
): string {
  const key = `${group}.${code}`;
  const all: Values = { ...values, ...(said !== undefined && { said }) };
  return words.exists(key, all as TOptions) || (all.count !== undefined && words.exists(`${key}_other`))
    ? say_(key as WordKey, all)
    : (said ?? code);
}
