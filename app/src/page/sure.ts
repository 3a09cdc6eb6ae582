/** Surer than this a word is shown without a mark. */
export const sure = 0.85;
