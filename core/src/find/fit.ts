import type { Point, Quad, Raster } from '../raster/raster';
import type { Candidate } from './candidates';
import type { Sighting } from './findPages';
import type { Outline, SideEvidence } from './outline';
import { offsetAt, pointOn, smoothPath, traceSide, type TracedSide, type TraceOptions } from './refine';
import { labSampler, lightSampler } from './sampler';

/**
 * Fits a candidate's four sides: over a wide band on a smaller copy of the photo, then close on the photo itself where nobody traces them afterwards.
 *
 * @param small the photo, or a copy shrunk to no less than some 1400 px.
 */
export function fitSides(
  photo: Raster,
  small: Raster,
  candidate: Candidate,
  seen: Sighting,
  closely = true,
): Pick<Outline, 'quad' | 'evidence'> {
  const edge = Math.max(photo.width, photo.height);
  const up = 1 / seen.scale;
  const corners = candidate.corners.map(([x, y]): Point => [(x + 0.5) * up - 0.5, (y + 0.5) * up - 0.5]);
  const sides = corners.map((a, i) => {
    const b = corners[(i + 1) % 4];
    const { line: lineNumber, group } = candidate.sides[i];
    const { line } = seen.supports[lineNumber];
    if (line.frame) return null;
    // The chord's right-hand normal points into the page, since corners run clockwise on screen.
    const inward = line.nx * -(b[1] - a[1]) + line.ny * (b[0] - a[0]) > 0 ? 1 : -1;
    const told = { channel: group >> 1, sign: ((group % 2 === 0 ? 1 : -1) * inward) as 1 | -1 };
    const outer = fitWide(photo, small, told, a, b, wideReach);
    // What grows darker inwards may be the sheet's own shadow; then the sheet begins behind it, more clearly.
    const behind = outer && told.channel === 0 && told.sign < 0 ? fitWide(photo, small, { channel: 0, sign: 1 }, ...outer.chord, shadowReach) : null; // prettier-ignore
    const isShadow = behind !== null && behind.agreement > clearAgreement && behind.level > clearer * outer!.level;
    const wide = isShadow ? behind : outer;
    const evidence: Seen = isShadow ? { channel: 0, sign: 1 } : told;
    const close = wide && closely ? fitClose(photo, evidence, ...wide.chord) : null;
    return { ...evidence, fitted: close ?? wide };
  });
  const chords = sides.map((side, i): [Point, Point] => side?.fitted?.chord ?? [corners[i], corners[(i + 1) % 4]]);
  const quad = corners.map((corner, i): Point => {
    const p = meet(chords[(i + 3) % 4], chords[i]);
    return p && Math.hypot(p[0] - corner[0], p[1] - corner[1]) < 0.03 * edge ? p : corner;
  });
  const upright = fromTopLeft(quad);
  const first = quad.indexOf(upright[0]);
  return {
    quad: upright,
    evidence: [0, 1, 2, 3].map((k) => {
      const side = sides[(first + k) % 4];
      return side && { channel: side.channel, sign: side.sign, level: side.fitted?.level ?? 0 };
    }),
  };
}

/** A straight side between two points of the photo. */
interface Fitted {
  chord: [Point, Point];
  level: number;
  agreement: number;
}

const leastAgreement = 0.3;
/** How far from where a side is thought to be it is looked for on the smaller copy, and behind a shadow; shares of the longer side. */
const [wideReach, shadowReach] = [0.008, 0.004];
/** A sheet behind its shadow is seen along most of the side, and so many times as strongly. */
const [clearAgreement, clearer] = [0.6, 3];

function fitWide(photo: Raster, small: Raster, { channel, sign }: Seen, a: Point, b: Point, reach: number): Fitted | null {
  const scale = small.width / photo.width;
  const edge = Math.max(small.width, small.height);
  const [from, to] = [a, b].map(([x, y]): Point => [(x + 0.5) * scale - 0.5, (y + 0.5) * scale - 0.5]);
  const options = { ...straightWithin(reach * edge, from, to, edge, 120), sign };
  const side = fitted(traceSide(labSampler(small, channel, edge / 1400), from, to, options));
  if (!side) return null;
  const chord = side.chord.map(([x, y]): Point => [(x + 0.5) / scale - 0.5, (y + 0.5) / scale - 0.5]);
  return { ...side, chord: chord as [Point, Point] };
}

function fitClose(photo: Raster, evidence: Seen, a: Point, b: Point): Fitted | null {
  const edge = Math.max(photo.width, photo.height);
  return fitted(traceFinely(photo, evidence, a, b, straightWithin(Math.max(2, 0.002 * edge), a, b, edge, 160)));
}

type Seen = Pick<SideEvidence, 'channel' | 'sign'>;

/** @param perEdge samples on a side as long as the picture. */
function straightWithin(reachPx: number, a: Point, b: Point, edge: number, perEdge: number): Omit<TraceOptions, 'sign'> {
  const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
  const samples = Math.max(24, Math.min(0.75 * perEdge, Math.round((length / edge) * perEdge)));
  return { reachPx, samples, degree: 1, agreePx: Math.max(1, reachPx * 0.12) };
}

const fitted = (side: TracedSide | null): Fitted | null =>
  side && side.agreement >= leastAgreement
    ? { chord: [pointOn(side, 0), pointOn(side, 1)], level: side.level, agreement: side.agreement }
    : null;

/** The last pass along a side that was seen in `channel`: in linear light for lightness; colours are blurred by JPEG, so they say where it is only where light does not. */
export function traceFinely(
  photo: Raster,
  { channel, sign }: Seen,
  a: Point,
  b: Point,
  options: Omit<TraceOptions, 'sign'>,
): TracedSide | null {
  const footprint = Math.max(photo.width, photo.height) / 3200;
  const light = lightSampler(photo, footprint);
  if (channel === 0) {
    const fine = traceSide(light, a, b, { ...options, sign });
    if (fine && fine.agreement > 0.6) return fine;
    // Glare and deep shade weigh more in linear light.
    const usual = traceSide(labSampler(photo, channel, footprint), a, b, { ...options, sign });
    return usual && !(fine && fine.agreement >= usual.agreement) ? usual : fine;
  }
  const colour = traceSide(labSampler(photo, channel, footprint), a, b, { ...options, sign });
  if (!colour) return null;
  const along = options.degree > 2 ? smoothPath(colour) : (t: number) => offsetAt(colour, t);
  const narrow = { ...options, around: along, reachPx: Math.min(options.reachPx, 2.5) };
  const best = ([1, -1] as const)
    .map((way) => traceSide(light, a, b, { ...narrow, sign: way }))
    .reduce((p, q) => (q && (!p || q.level * q.agreement > p.level * p.agreement) ? q : p), null);
  return best && best.agreement > colour.agreement - 0.1 ? { ...best, level: colour.level } : colour;
}

export function meet([a, b]: [Point, Point], [c, d]: [Point, Point]): Point | null {
  const rx = b[0] - a[0];
  const ry = b[1] - a[1];
  const sx = d[0] - c[0];
  const sy = d[1] - c[1];
  const det = rx * sy - ry * sx;
  if (Math.abs(det) < 0.1 * Math.hypot(rx, ry) * Math.hypot(sx, sy)) return null;
  const t = ((c[0] - a[0]) * sy - (c[1] - a[1]) * sx) / det;
  return [a[0] + rx * t, a[1] + ry * t];
}

/** Starts a clockwise quad at the end of the left side: the top side is the one that runs most to the right. */
export function fromTopLeft(corners: readonly Point[]): Quad {
  let start = 0;
  let least = Infinity;
  for (let i = 0; i < 4; i++) {
    const a = corners[i];
    const b = corners[(i + 1) % 4];
    const tilt = Math.abs(Math.atan2(b[1] - a[1], b[0] - a[0]));
    if (tilt < least) {
      least = tilt;
      start = i;
    }
  }
  return [0, 1, 2, 3].map((k) => corners[(start + k) % 4]) as unknown as Quad;
}
