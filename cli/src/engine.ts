import { createRequire } from 'node:module';
import path from 'node:path';
import type { Engine } from '@libretto/text';
import { tesseract } from '@libretto/text/tesseract';

/** The engine in Node, with the data of its packages. */
export function nodeEngine(): Engine {
  const here = createRequire(import.meta.url);
  return tesseract((language) => ({
    langPath: path.join(path.dirname(here.resolve(`@tesseract.js-data/${language}/package.json`)), '4.0.0_best_int'),
    cacheMethod: 'none',
  }));
}
