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
 * The picture of a moment: if the first is blurred (the hand moved while it was exposed), up to two more are taken while the moment lasts,
 * and the sharpest that shows the same page is kept.
 */
export async function sharpestStill(camera: RunningCamera, judge: (still: Blob) => Promise<Judgement>): Promise<Blob> {
  const began = performance.now();
  const first = await camera.still();
  let best = { still: first, ...(await judge(first).catch(() => ({ same: true, sharp: null }))) };
  for (let i = 1; i < mostStills && best.sharp !== null && best.sharp < 1; i++) {
    if (performance.now() - began > momentMs) break;
    const still = await camera.still();
    const { same, sharp } = await judge(still).catch(() => ({ same: false, sharp: null }));
    // The next page may be there already: then the moment is over.
    if (!same) break;
    if (sharp !== null && sharp > best.sharp) best = { still, same, sharp };
  }
  return best.still;
}
