import type { Raster } from '@libretto/core';
import type { Way } from './layout';
import type { Language } from './languages';
import type { Recognised } from './words';

/** What recognises words in a picture. */
export interface Engine {
  /**
   * @param picture grey; @param dpi its resolution on paper.
   * @returns words by blocks in the engine's reading order.
   */
  recognise: (picture: Raster, way: Way, language: Language, dpi: number) => Promise<Recognised[][]>;
  end: () => Promise<void>;
}
