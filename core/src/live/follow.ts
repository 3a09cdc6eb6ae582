import type { Point, Quad, Raster } from '../raster/raster';
import { findPages, type FindOptions } from '../find/findPages';
import { meet } from '../find/fit';
import type { Outline, SideEvidence } from '../find/outline';
import { pointOn, traceSide } from '../find/refine';
import { labSampler } from '../find/sampler';

/** How far a side may have gone between two frames, share of the frame's longer side. */
const reachShare = 0.03;
/** A side must be seen along this share of it, and this strong against when it was found. */
const leastAgreement = 0.55;
const leastLevel = 0.45;
/** Rows of pixels about a place beside a side: in one row the noise of a live picture passes for a side that has gone. */
const quietRows = 3;
/** Corners this near (share of the longer side) are the same outline. */
const nearShare = 0.02;

/**
 * Follows a page's outline from one live frame to the next: each side is traced in a band about where it was, which costs a small part of
 * finding it anew.
 *
 * @param before with its sides' strengths as following measures them (see `LiveFinder`).
 * @returns the outline in this frame, or null when a side is not there any more.
 */
export function followPage(frame: Raster, before: Outline): Outline | null {
  const { quad, evidence } = before;
  if (!evidence || evidence.some((e) => !e)) return null;
  const edge = Math.max(frame.width, frame.height);
  const reachPx = reachShare * edge;
  const sides: [Point, Point][] = [];
  const levels: number[] = [];
  for (let i = 0; i < 4; i++) {
    const { channel, sign, level } = evidence[i]!;
    const side = traceSide(labSampler(frame, channel, 1, quietRows), quad[i], quad[(i + 1) % 4], {
      reachPx,
      samples: 36,
      degree: 1,
      agreePx: Math.max(1.2, reachPx * 0.1),
      sign,
    });
    if (!side || side.agreement < leastAgreement || side.level < leastLevel * level) return null;
    sides.push([pointOn(side, 0), pointOn(side, 1)]);
    levels.push(side.level);
  }
  const corners = sides.map((side, i) => meet(sides[(i + 3) % 4], side));
  if (corners.some((c, i) => !c || Math.hypot(c[0] - quad[i][0], c[1] - quad[i][1]) > 2.5 * reachPx)) return null;
  return {
    ...before,
    quad: corners as unknown as Quad,
    // A slow change of light is no reason to lose a side; one that is gone is noticed all the same.
    evidence: evidence.map((e, i): SideEvidence => ({ ...e!, level: 0.9 * e!.level + 0.1 * levels[i] })),
  };
}

export interface LiveOptions extends FindOptions {
  /** A followed outline is looked for anew after this many frames; default 12. */
  followedFrames?: number;
}

/** The outline of the page before a running camera: found now and then, followed in between. */
export class LiveFinder {
  private outline: Outline | null = null;
  private followed = 0;
  private rival: Quad | null = null;

  constructor(private readonly options: LiveOptions = {}) {}

  /** @returns the outline in the frame's pixels; null where no page is seen. */
  next(frame: Raster): Outline | null {
    const { followedFrames = 12, ...find } = this.options;
    const going = this.outline && followPage(frame, this.outline);
    if (going && this.followed < followedFrames) {
      this.followed++;
      return (this.outline = going);
    }
    const [found = null] = findPages(frame, {
      workingEdgePx: 360,
      linesPerChannel: 24,
      thorough: false,
      ...find,
      most: 1,
      spreads: false,
      traced: false,
      upright: false,
    });
    const edge = Math.max(frame.width, frame.height);
    const isNear = (quad: Quad | null) => found && quad && apart(found.quad, quad) < nearShare * edge;
    // What is followed well stays until another outline has been found twice in the same place.
    if (going && !isNear(going.quad) && !isNear(this.rival)) {
      this.rival = found?.quad ?? null;
      return (this.outline = going);
    }
    this.rival = null;
    this.followed = 0;
    return (this.outline = going && isNear(going.quad) ? going : found && withLiveEvidence(frame, found));
  }
}

/** Side strengths as following measures them: finding looks at other scales. */
function withLiveEvidence(frame: Raster, found: Outline): Outline {
  const weak = found.evidence?.map((e) => e && { ...e, level: 0 });
  const seen = weak && followPage(frame, { ...found, evidence: weak });
  return seen?.evidence ? { ...seen, evidence: seen.evidence.map((e) => e && { ...e, level: e.level * 10 }) } : found;
}

function apart(a: Quad, b: Quad): number {
  return Math.max(...a.map((p, i) => Math.hypot(p[0] - b[i][0], p[1] - b[i][1])));
}
