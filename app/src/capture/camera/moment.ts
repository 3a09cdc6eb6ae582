import type { RunningCamera } from './camera';

/** What is known of a still: whether it shows the page that was wanted, and how sharp its print is (1 and more: sharp; null: no print to tell by). */
export interface Judgement {
  same: boolean;
  sharp: number | null;
}

const mostStills = 3;
/** Whoever heard the shutter turns to the next page: after this long, ms, a picture would show a hand, or that page. */
const momentMs = 1200;

/**
 * A better picture of the same moment: if the first is blurred (the hand moved while it was exposed), up to two more are taken while the moment
 * lasts; the sharpest that shows the same page is better.
 *
 * @param beganMs when the shutter went, by `performance.now()`.
 * @returns it, or null where the first is the best.
 */
export async function betterStill(
  camera: Pick<RunningCamera, 'still'>,
  judge: (still: Blob) => Promise<Judgement>,
  first: Blob,
  beganMs: number,
): Promise<Blob | null> {
  const none = { same: true, sharp: null };
  let best: Judgement & { still: Blob | null } = { still: null, ...(await judge(first).catch(() => none)) };
  for (let i = 1; i < mostStills && best.sharp !== null && best.sharp < 1; i++) {
    if (performance.now() - beganMs > momentMs) break;
    const still = await camera.still();
    const { same, sharp } = await judge(still).catch(() => ({ same: false, sharp: null }));
    // The next page may be there already: then the moment is over.
    if (!same) break;
    if (sharp !== null && sharp > best.sharp) best = { still, same, sharp };
  }
  return best.still;
}
