/** How a flattened page is finished. */
export type Filter = 'original' | 'even-light' | 'grey' | 'ink' | 'board' | 'picture';

/** What a filter makes of a page. */
export interface Look {
  /** kept: as photographed; levels: stretched to black and white, as of a photograph; evened: the light on it is taken out, paper becomes white. */
  tones: 'kept' | 'levels' | 'evened';
  /** Whether it is one of black and white only. */
  twoLevel: boolean;
  /** Whether colours stay, as far as the page has them. */
  colour: boolean;
  saturation: number;
  /** Whether pictures and tints on it stay as they are, and broken rules are drawn whole: not where all there is are strokes of pens. */
  printed: boolean;
  /** The brightest that is still a stroke, share of the paper. */
  mostThreshold: number;
}

const print: Look = { tones: 'evened', twoLevel: false, colour: true, saturation: 1, printed: true, mostThreshold: 0.84 };

export const filters: Readonly<Record<Filter, Look>> = {
  original: { ...print, tones: 'kept' },
  'even-light': print,
  grey: { ...print, colour: false },
  ink: { ...print, colour: false, twoLevel: true },
  // A board has no pictures to keep, and its pens are paler than ink.
  board: { ...print, printed: false, saturation: 1.2, mostThreshold: 0.9 },
  picture: { ...print, tones: 'levels' },
};

/** Looks that look at a page in the same way share what is told of it: this names the way. */
export const wayOfLooking = ({ tones, twoLevel, printed }: Look, dark: boolean): string =>
  tones !== 'evened' ? tones : `${printed ? 'print' : 'strokes'}${dark && twoLevel ? ' of a dark page' : ''}`;
