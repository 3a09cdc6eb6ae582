export type { Engine } from './engine';
export { calibrated } from './confidence';
export { languageIds, languageOf, languages, type Language } from './language';
export { layoutOf, unreadShare, type Layout, type Way } from './layout';
export { linesOf, textOf } from './order';
export { readPage, type PageText, type ReadOptions } from './read';
export { around, type Line, type Recognised, type Rect, type Word } from './words';
