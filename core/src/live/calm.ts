import type { Readiness } from './readiness';

/** New advice must hold this long before it replaces the shown one, ms; what has been shown stays this long. */
const holdMs = 350;
const stayMs = 900;
/** A bar that was full stays full down to this. */
const stillFull = 0.8;

/** Readiness as people see it: one advice at a time that stays long enough to be read, bars that do not flicker. */
export class CalmReadiness {
  private shown: Readiness | null = null;
  private sinceMs = 0;
  private rival: { advice: string; sinceMs: number } | null = null;

  next(seen: Readiness, nowMs: number): Readiness {
    const was = this.shown;
    if (!was) {
      this.sinceMs = nowMs;
      return (this.shown = seen);
    }
    let { advice } = was;
    if (seen.advice === advice) this.rival = null;
    else {
      if (this.rival?.advice !== seen.advice) this.rival = { advice: seen.advice, sinceMs: nowMs };
      const waited = nowMs - this.rival.sinceMs;
      // Nothing left to say is never held back for long.
      if (waited >= holdMs && (seen.advice === '' || nowMs - this.sinceMs >= stayMs)) {
        advice = seen.advice;
        this.sinceMs = nowMs;
        this.rival = null;
      }
    }
    const bar = (now: number, before: number) => (before >= 1 && now >= stillFull ? 1 : now >= 1 ? 1 : (now + before) / 2);
    return (this.shown = {
      whole: bar(seen.whole, was.whole),
      close: bar(seen.close, was.close),
      light: bar(seen.light, was.light),
      still: bar(seen.still, was.still),
      advice,
    });
  }
}
