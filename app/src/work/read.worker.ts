import * as Comlink from 'comlink';
import type { Raster } from '@libretto/core';
import { readPage, type PageText, type ReadOptions } from '@libretto/text';
import { tesseract } from '@libretto/text/tesseract';

// Bundled by scripts/build-text.mjs beside the engine and its languages.
declare const __ENGINE__: string;
declare const __LANGUAGES__: string;
const at = (name: string) => new URL(`./${name}`, self.location.href).href;

const engine = tesseract(() => ({
  workerPath: at(`${__ENGINE__}/worker.min.js`),
  corePath: at(__ENGINE__),
  langPath: at(__LANGUAGES__),
  workerBlobURL: false,
  // The service worker keeps them.
  cacheMethod: 'none',
}));

const api = {
  /** Reads a finished grey page. */
  read: (page: Raster, options: ReadOptions): Promise<PageText> => readPage(page, engine, options),

  /** Lets the engine go. */
  rest: () => engine.end(),
};

export type ReadApi = typeof api;
Comlink.expose(api);
