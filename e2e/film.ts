import { filmedPile } from '@libretto/demo/reel/acts';
import { makeFilm } from '@libretto/demo/reel/film';

/** The sheets that the fake camera shows in turn: six, before a hand-held phone. */
export const filmed = filmedPile.acts.map((a) => a.sheet);

export default (): Promise<void> => makeFilm(filmedPile, process.env.E2E_FILM!);
