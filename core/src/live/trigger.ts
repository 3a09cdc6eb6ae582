import { isSameSheet, type Signature } from '../inspect/signature';
import type { Readiness } from './readiness';

/** How long all four must hold, ms. */
const holdMs = 450;
/** A moment begins when all four are full, and goes on while none falls below this: the hand of nobody is quite still. */
const goesOnFrom = 0.6;

/** What is before the camera, as far as the shutter is concerned. */
export interface Moment {
  /** Take the picture now. */
  take: boolean;
  /** All four are full, but this sheet was taken before: which of those handed to `taken`, counted from 0. */
  again: number | null;
}

/**
 * Decides when the page takes itself: all four full for a moment, and never a sheet that was taken already, however long it lies there, whatever
 * passes over it, and even when it turns up again later. Blank sheets all look alike: they are compared with the last one only.
 */
export class Trigger {
  private readySince: number | null = null;
  private readonly shots: (Signature | null)[] = [];

  step(readiness: Readiness, signature: Signature | null, nowMs: number): Moment {
    const least = Math.min(readiness.whole, readiness.close, readiness.light, readiness.still);
    const ready = signature !== null && least >= (this.readySince === null ? 1 : goesOnFrom);
    const again = ready ? this.known(signature) : null;
    if (!ready || again !== null) {
      this.readySince = null;
      return { take: false, again };
    }
    this.readySince ??= nowMs;
    return { take: nowMs - this.readySince >= holdMs, again };
  }

  /** A picture was taken, by itself or by hand: this sheet is done. */
  taken(signature: Signature | null): void {
    this.shots.push(signature);
    this.readySince = null;
  }

  /** A picture that was taken is to be taken anew: the next sheet in its place may be the same one. */
  forget(shot: number): void {
    this.shots[shot] = null;
  }

  private known(signature: Signature): number | null {
    for (let i = this.shots.length - 1; i >= 0; i--) {
      const shot = this.shots[i];
      if (!shot || (signature.blank && i < this.shots.length - 1)) continue;
      if (isSameSheet(signature, shot)) return i;
    }
    return null;
  }
}
