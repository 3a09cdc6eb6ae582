export type { Engine } from './engine';
export { calibrated } from './confidence';
export { languageOf } from './language';
export { languageIds, languages, type Language } from './languages';
export { layoutOf, unreadShare, type Layout, type Way } from './layout';
export { linesOf, textOf } from './order';
export { readPage, type PageText, type ReadOptions } from './read';
export { around, type Line, type Recognised, type Rect, type Word } from './words';
export { datesIn, suggestionsOf, type Suggestion } from './suggest';
