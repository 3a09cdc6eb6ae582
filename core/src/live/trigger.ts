import { kinship, otherWords, type Signature } from '../inspect/kinship';
import type { Readiness } from './readiness';

/** How long all four must hold, ms, and in how many looks: a machine that looks seldom has to see as much as one that looks often. */
const holdMs = 450;
const holdLooks = 3;
/** A sheet that differs from one that was taken in a few places only, as the next copy of a form does, has to do so for longer: a hand's shadow goes, a frame that was seen askew comes right. */
const copyHoldMs = 1100;
const copyHoldLooks = 5;
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
  private readyLooks = 0;
  /** Whether something else was seen, or nothing, since the last picture was taken. */
  private gone = false;
  private settled = false;
  /** Where the sheet differed from shots that it is like, in every look since the moment began. */
  private readonly differing = new Map<number, ReadonlySet<number>>();
  /** What each shot's sheet looks like: as it was seen when the shutter went, and as its picture shows it. */
  private readonly shots: Signature[][] = [];

  step(readiness: Readiness, signature: Signature | null, nowMs: number): Moment {
    const last = this.shots[this.shots.length - 1];
    this.gone ||= !signature || !last?.length || last.every((its) => kinship(signature, its) === 'other');
    const least = Math.min(readiness.whole, readiness.close, readiness.light, readiness.still);
    const ready = signature !== null && least >= (this.readySince === null ? 1 : goesOnFrom);
    const again = ready ? this.knownAs(signature) : null;
    // A sheet that has just been taken is known as it lies there calmly, too: the shutter may have gone while it settled.
    if (ready && least >= 1 && again === this.shots.length - 1 && !this.gone && !this.settled) {
      this.settled = true;
      this.shots[again].push(signature);
    }
    if (!ready || again !== null) {
      this.begin();
      return { take: false, again };
    }
    this.readySince ??= nowMs;
    this.readyLooks++;
    const [ms, looks] = this.differing.size ? [copyHoldMs, copyHoldLooks] : [holdMs, holdLooks];
    return { take: nowMs - this.readySince >= ms && this.readyLooks >= looks, again };
  }

  /** A picture was taken, by itself or by hand: this sheet is done. */
  taken(signature: Signature | null): void {
    this.shots.push(signature ? [signature] : []);
    this.begin();
    this.gone = false;
    this.settled = false;
  }

  private begin(): void {
    this.differing.clear();
    this.readySince = null;
    this.readyLooks = 0;
  }

  /** A picture that was taken is to be taken anew: the next sheet in its place may be the same one. */
  forget(shot: number): void {
    this.shots[shot] = [];
  }

  /** What the picture of a shot shows: a sheet that was seen askew when the shutter went is known by it when it lies still. */
  learn(shot: number, signature: Signature): void {
    if (this.shots[shot]?.length) this.shots[shot].push(signature);
  }

  /**
   * The latest shot of this sheet, null where it is none or another copy. What is filled in otherwise differs from every view of the shot, in every look, in the same place:
   * what differs now here and now there is how it was seen. While the last sheet has not gone, what changes on it is a finger that holds it.
   */
  private knownAs(signature: Signature): number | null {
    for (let i = this.shots.length - 1; i >= 0; i--) {
      if (signature.blank && i < this.shots.length - 1) continue;
      let places = this.differing.get(i);
      let isLike = false;
      for (const view of this.shots[i]) {
        const others = otherWords(signature, view);
        if (!others) continue;
        isLike = true;
        places = places ? new Set([...places].filter((place) => others.has(place))) : others;
      }
      if (!isLike || !places) continue;
      if (!places.size || (i === this.shots.length - 1 && !this.gone)) return i;
      this.differing.set(i, places);
    }
    return null;
  }
}
