import * as Comlink from 'comlink';
import type { Raster } from '@libretto/core';
import { codesIn, prepareCodes, readPage, type Code, type PageText, type ReadOptions } from '@libretto/text';
import { tesseract } from '@libretto/text/tesseract';

// Bundled by scripts/build-text.mjs beside the engine and its languages.
declare const __ENGINE__: string;
declare const __LANGUAGES__: string;
declare const __CODES__: string;
const at = (name: string) => new URL(`./${name}`, self.location.href).href;

const engine = tesseract(() => ({
  workerPath: at(`${__ENGINE__}/worker.min.js`),
  corePath: at(__ENGINE__),
  langPath: at(__LANGUAGES__),
  workerBlobURL: false,
  // The service worker keeps them.
  cacheMethod: 'none',
}));

prepareCodes({ url: at(__CODES__) });

const api = {
  /** Reads a finished grey page, and its codes. */
  async read(page: Raster, options: ReadOptions): Promise<PageText & { codes: Code[] }> {
    const text = await readPage(page, engine, options);
    return { ...text, codes: await codesIn(page).catch(() => []) };
  },

  /** Lets the engine go. */
  rest: () => engine.end(),
};

export type ReadApi = typeof api;
Comlink.expose(api);
