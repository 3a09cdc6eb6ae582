import type { Point, Quad, Raster } from '../raster/raster';
import { curvedFrom } from '../rectify/surfaceOf';
import { meet, traceFinely } from './fit';
import type { Outline, SideEvidence } from './outline';
import { offsetAt, pointOn, smoothPath, traceSide, type TracedSide, type TraceOptions } from './refine';
import { labSampler } from './sampler';

/** Points of an outline on each side. */
export const pointsPerSide = 16;

/** Share of a side's samples on its line from which it is an edge, and not noise or print, that was followed near corners that were given. */
const surelySeen = 0.6;

/** How far a traced side may end beside a corner that was given, share of the photo's longer side. */
const givenEnds = 0.008;

/** How far a curved side may lie beside its chord, share of the chord. */
const curveReach = 0.075;

/** A side that was traced; a curved one follows what was seen rather than its polynomial. */
type Traced = TracedSide & { curve?: (t: number) => number };

interface Side {
  straight: Traced | null;
  /** How strongly the side was seen when it was found, Lab units; 0 where it was not. */
  level: number;
  /** Followed when it is asked for: most sides are straight beyond doubt. */
  curved: () => Traced | null;
}

function once<T>(make: () => T): () => T {
  let made: { value: T } | undefined;
  return () => (made ??= { value: make() }).value;
}

/**
 * Traces an outline's sides on the full-size photo: slightly bent ones, as the lens bends straight edges, and curved ones, where two opposite sides
 * of a curled sheet or a book's page are.
 *
 * @param evidence by what each side was seen; without it the strongest edge near the side counts.
 * @returns the corners where the traced sides meet, and the polygon; null where too little is seen.
 */
export function traceOutline(
  photo: Raster,
  quad: Quad,
  evidence?: Outline['evidence'],
): Pick<Outline, 'quad' | 'polygon'> | null {
  const first = traceOnce(photo, quad, evidence, 0.035);
  // A straight line through a curved side ends beside the corner: once that is known, the sides are traced between true corners.
  const { quad: corners, polygon } = (first?.curved && traceOnce(photo, first.quad, evidence, 0.012)) || first || {};
  return corners && polygon ? { quad: corners, polygon } : null;
}

/**
 * A quad's sides as they are seen, null for those that are not.
 *
 * @param ends how far a curved side may end beside its corner, share of the photo's longer side.
 * @param passes whether a side may be what was looked for.
 */
function sidesOnce(
  photo: Raster,
  quad: Quad,
  evidence: Outline['evidence'],
  ends: number,
  passes: (side: Traced) => boolean = () => true,
): { sides: (Traced | null)[]; curved: boolean } {
  const edge = Math.max(photo.width, photo.height);
  const sides = quad.map((a, i): Side => {
    const b = quad[(i + 1) % 4];
    const seen = evidence ? evidence[i] : strongest(photo, a, b, edge);
    if (!seen) return { straight: null, level: 0, curved: () => null };
    const passed = (side: Traced | null) => (side && passes(side) ? side : null);
    return {
      straight: passed(traceStraight(photo, a, b, seen, edge)),
      level: seen.level,
      curved: once(() => passed(traceCurve(photo, a, b, seen, edge, ends * edge))),
    };
  });
  const across = isBent(sides[0], sides[2]);
  const along = isBent(sides[1], sides[3]);
  return {
    sides: sides.map(({ straight, curved }, i) => ((i % 2 ? along : across) ? curved() : straight)),
    curved: across || along,
  };
}

function traceOnce(
  photo: Raster,
  quad: Quad,
  evidence: Outline['evidence'],
  ends: number,
): { quad: Quad; polygon: Point[]; curved: boolean } | null {
  const { sides: chosen, curved } = sidesOnce(photo, quad, evidence, ends);
  if (chosen.filter(Boolean).length < 2) return null;
  const most = (curved ? 0.1 : 0.02) * Math.max(photo.width, photo.height);
  const corners = quad.map((corner, i): Point => {
    const p = meetCurves(chosen[(i + 3) % 4] ?? chord(quad, (i + 3) % 4), chosen[i] ?? chord(quad, i));
    return p && Math.hypot(p[0] - corner[0], p[1] - corner[1]) < most ? p : corner;
  });
  const polygon = corners.flatMap((corner, i) => {
    const side = chosen[i];
    const next = corners[(i + 1) % 4];
    const points: Point[] = [corner];
    const from = side ? shareOf(side, corner) : 0;
    const to = side ? shareOf(side, next) : 1;
    for (let k = 1; k < pointsPerSide; k++) {
      const t = k / pointsPerSide;
      points.push(
        side
          ? pointOn(side, from + (to - from) * t)
          : [corner[0] + (next[0] - corner[0]) * t, corner[1] + (next[1] - corner[1]) * t],
      );
    }
    return points;
  });
  return { quad: corners as unknown as Quad, polygon, curved };
}

/** Share of a side's samples on a nearly straight line from which it is no curve. */
const surelyStraight = 0.8;

/** A straight line across which less of a step is seen than this share of the curve's is the noise beside it. */
const faintShare = 0.4;

/**
 * Whether two opposite sides are curved. Seen at a slant one of them may look straight, so one that is clearly curved and by no means
 * straight will do, if the other one can be followed.
 */
function isBent(a: Side, b: Side): boolean {
  const clearly = ({ straight, level, curved }: Side) => {
    if (straight && straight.agreement >= surelyStraight && level > 0 && straight.level >= faintShare * level) return false;
    const side = curved();
    const straightness = straight && side && straight.level >= faintShare * side.level ? straight.agreement : 0;
    return (
      straightness < surelyStraight &&
      side !== null &&
      side.bow > curvedFrom &&
      side.agreement > 0.6 &&
      straightness < side.agreement - 0.05
    );
  };
  const followed = ({ curved }: Side) => (curved()?.agreement ?? 0) > 0.5;
  return (clearly(a) && followed(b)) || (clearly(b) && followed(a));
}

function traceStraight(photo: Raster, a: Point, b: Point, { channel, sign }: SideEvidence, edge: number): TracedSide | null {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const reachPx = Math.max(3, 0.004 * edge);
  const side = traceFinely(photo, { channel, sign }, a, b, {
    reachPx,
    samples: Math.max(24, Math.min(140, Math.round((length / edge) * 180))),
    degree: 2,
    agreePx: Math.max(1, reachPx * 0.15),
  });
  // More than a lens does is something else: a folded corner, another sheet.
  return side && side.agreement > 0.35 && side.bow < curvedFrom ? side : null;
}

function traceCurve(
  photo: Raster,
  a: Point,
  b: Point,
  { channel, sign }: SideEvidence,
  edge: number,
  endsPx: number,
): Traced | null {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  let side: Traced | null = null;
  for (const { reachPx, footprint, degree, samples } of [
    { reachPx: curveReach * length, footprint: edge / 1400, degree: 4, samples: 140 },
    { reachPx: 0.012 * edge, footprint: edge / 1800, degree: 5, samples: 140 },
    { reachPx: Math.max(3, 0.004 * edge), footprint: null, degree: 5, samples: 110 },
  ]) {
    const agreePx = Math.max(1, Math.min(0.0025 * edge, reachPx * 0.15));
    const options: Omit<TraceOptions, 'sign'> = {
      reachPx,
      samples,
      degree,
      agreePx,
      ...(side?.curve ? { around: side.curve } : { endsPx }),
    };
    const next: TracedSide | null = footprint
      ? traceSide(labSampler(photo, channel, footprint), a, b, { ...options, sign })
      : traceFinely(photo, { channel, sign }, a, b, options);
    if (!next || next.path.length < 0.4 * samples) return side;
    const curve = smoothPath(next);
    const near = next.path.filter(({ t, o }) => Math.abs(o - curve(t)) < agreePx).length;
    side = { ...next, curve, agreement: near / samples, bow: bowOf(curve) / length };
  }
  return side;
}

/** The channel and sign by which an edge near a side is seen best, straight or curved. */
function strongest(photo: Raster, a: Point, b: Point, edge: number): SideEvidence | null {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  let best: (SideEvidence & { value: number }) | null = null;
  for (const channel of [0, 1, 2])
    for (const sign of [1, -1] as const) {
      const side = traceSide(labSampler(photo, channel, edge / 1400), a, b, {
        reachPx: curveReach * length,
        samples: 80,
        degree: 4,
        agreePx: 0.0025 * edge,
        sign,
        endsPx: 0.008 * edge,
      });
      if (!side) continue;
      const value = side.agreement * Math.min(12, side.level);
      if (!best || value > best.value) best = { channel, sign, level: side.level, value };
    }
  return best;
}

const chord = (quad: Quad, i: number): Traced => ({
  a: quad[i],
  b: quad[(i + 1) % 4],
  coefficients: [0],
  path: [],
  level: 0,
  agreement: 0,
  bow: 0,
});

/** Where the end of one side meets the beginning of the next: tangents are crossed, twice. */
function meetCurves(before: Traced, after: Traced): Point | null {
  let s = 1;
  let t = 0;
  let p: Point | null = null;
  for (let k = 0; k < 3; k++) {
    p = meet([pointOn(before, s - 0.03), pointOn(before, s)], [pointOn(after, t), pointOn(after, t + 0.03)]);
    if (!p) return null;
    s = Math.max(0.9, Math.min(1.1, shareOf(before, p)));
    t = Math.max(-0.1, Math.min(0.1, shareOf(after, p)));
  }
  return p;
}

/** Largest distance of a curve from the line through its ends. */
function bowOf(curve: (t: number) => number): number {
  const start = curve(0);
  const end = curve(1);
  let bow = 0;
  for (let t = 0.05; t < 1; t += 0.05) bow = Math.max(bow, Math.abs(curve(t) - start - (end - start) * t));
  return bow;
}

/** Where along a side's chord a point lies. */
function shareOf({ a, b }: TracedSide, p: Point): number {
  const dx = b[0] - a[0];
  const dy = b[1] - a[1];
  return ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy);
}

/** A curved side loses its edge near the ends only: in a book's gutter, under a curled corner. Share of the side. */
const lostEnds = 0.06;

/** How far a traced side runs beside its corners, px, and what of it all of the side shares. */
function endsOf(side: Traced): { first: number; last: number; common: number } {
  const [first, last] = [offsetAt(side, 0), offsetAt(side, 1)];
  const common = first * last > 0 ? Math.sign(first) * Math.min(Math.abs(first), Math.abs(last)) : 0;
  return { first, last, common };
}

/** How far a side misses the corners that were given, px: a curved one may be lost for a while before it reaches them. */
function misses(side: Traced): number {
  const { first, last, common } = endsOf(side);
  const most = Math.max(Math.abs(first), Math.abs(last));
  return side.curve ? Math.max(Math.abs(common), (most - Math.abs(common)) / 3) : most;
}

/**
 * A traced side moved so that it runs through both corners. Where it misses both on the same side another sheet's parallel edge was followed, and all of it moves; what
 * is left is put right evenly along a straight side, and near its end on a curved one.
 */
function throughCorners(side: Traced): (t: number) => number {
  const { first, last, common } = endsOf(side);
  if (!side.curve) return (t) => offsetAt(side, t) - first * (1 - t) - last * t;
  const near = (t: number) => Math.max(0, 1 - t / lostEnds);
  return (t) => offsetAt(side, t) - common - (first - common) * near(t) - (last - common) * near(1 - t);
}

/**
 * The outline between corners that somebody gave: they stay where they are, what is seen of the sides between them tells how these are bent. Undefined
 * where too little is seen, or where what is seen belongs to something else: a part of a page that somebody wants stays as it is.
 */
export function sidesNear(photo: Raster, quad: Quad): Outline['polygon'] {
  const near = givenEnds * Math.max(photo.width, photo.height);
  const { sides } = sidesOnce(photo, quad, undefined, givenEnds, (side) => side.agreement > surelySeen && misses(side) < near);
  if (sides.filter(Boolean).length < 2) return undefined;
  return quad.flatMap((corner, i) => {
    const side = sides[i] ?? chord(quad, i);
    const through = { ...side, curve: throughCorners(side) };
    return Array.from({ length: pointsPerSide }, (_, k) => (k ? pointOn(through, k / pointsPerSide) : corner));
  });
}
