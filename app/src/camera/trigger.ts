import { likeness, type Readiness, type Signature } from '@libretto/core';

/** How long all four must hold, ms. */
const holdMs = 450;
/** At and above this likeness it is the sheet that was taken last. */
const sameFrom = 0.8;
/** Frames in a row that must show something else before the next page is taken. */
const changedFrames = 3;

/** Decides when the page takes itself: all four full for a moment, and never the same sheet twice. */
export class Trigger {
  private readySince: number | null = null;
  private last: Signature | null = null;
  private changed = 0;

  /** @returns whether to take the picture now. */
  step(readiness: Readiness, signature: Signature | null, nowMs: number): boolean {
    if (this.last) {
      const same = signature !== null && likeness(signature, this.last) >= sameFrom;
      this.changed = same ? 0 : this.changed + 1;
      if (this.changed >= changedFrames) this.last = null;
    }
    const ready =
      signature !== null && !this.last && Math.min(readiness.whole, readiness.close, readiness.light, readiness.still) >= 1;
    if (!ready) {
      this.readySince = null;
      return false;
    }
    this.readySince ??= nowMs;
    return nowMs - this.readySince >= holdMs;
  }

  /** A picture was taken, by itself or by hand: this sheet is done. */
  taken(signature: Signature | null): void {
    this.last = signature;
    this.changed = 0;
    this.readySince = null;
  }
}
