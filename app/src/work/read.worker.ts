import * as Comlink from 'comlink';
import type { Raster } from '@libretto/core';
import { parseSlip, type Slip, type Tick } from '@libretto/model/slip';
import { codesIn, prepareCodes, readPage, type Code, type PageText, type ReadOptions } from '@libretto/text';
import { ticksOn } from '@libretto/text/slip';
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

/** A cover slip, and what is ticked on it. */
export interface SeenSlip {
  slip: Slip;
  ticks: Tick[];
}

const api = {
  /** Reads a finished grey page, and its codes. */
  async read(page: Raster, options: ReadOptions): Promise<PageText & { codes: Code[]; slip?: SeenSlip }> {
    const text = await readPage(page, engine, options);
    const codes = await codesIn(page).catch(() => []);
    for (const code of codes) {
      const slip = parseSlip(code.text);
      if (slip) return { ...text, codes, slip: { slip, ticks: ticksOn(page, code, slip) } };
    }
    return { ...text, codes };
  },

  /** Lets the engine go. */
  rest: () => engine.end(),
};

export type ReadApi = typeof api;
Comlink.expose(api);
