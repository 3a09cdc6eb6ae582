import { labOf, linear, luminance } from '../raster/colour';
import type { Point, Quad, Raster } from '../raster/raster';
import type { Candidate } from './candidates';
import type { Sighting } from './findPages';
import type { Outline, SideEvidence } from './outline';
import { offsetAt, pointOn, smoothPath, traceSide, type Sampler, type TracedSide, type TraceOptions } from './refine';

/** Fits a candidate's four sides on the full-size photo: over a wide band with a coarse footprint, then close where nobody traces them afterwards. */
export function fitSides(
  photo: Raster,
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
    const sign = ((group % 2 === 0 ? 1 : -1) * inward) as 1 | -1;
    return { fitted: fitSide(photo, group >> 1, a, b, sign, edge, closely), channel: group >> 1, sign };
  });
  const chords = sides.map((side, i): [Point, Point] =>
    side?.fitted ? [pointOn(side.fitted, 0), pointOn(side.fitted, 1)] : [corners[i], corners[(i + 1) % 4]],
  );
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

function fitSide(
  photo: Raster,
  channel: number,
  a: Point,
  b: Point,
  sign: 1 | -1,
  edge: number,
  closely: boolean,
): TracedSide | null {
  let side: TracedSide | null = null;
  for (const reach of closely ? [0.008 * edge, Math.max(2, 0.002 * edge)] : [0.008 * edge]) {
    const from: Point = side ? pointOn(side, 0) : a;
    const to: Point = side ? pointOn(side, 1) : b;
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const options = {
      reachPx: reach,
      samples: Math.max(24, Math.min(120, Math.round((length / edge) * 160))),
      degree: 1,
      agreePx: Math.max(1, reach * 0.12),
    };
    const next: TracedSide | null = side
      ? traceFinely(photo, { channel, sign }, from, to, options)
      : traceSide(labSampler(photo, channel, edge / 1400), from, to, { ...options, sign });
    if (!next || next.agreement < 0.3) break;
    side = next;
  }
  return side;
}

/** Mean of one Lab channel over three spots of 3×3 points, `footprint` px apart; NaN where the middle one lies outside. */
export function labSampler(photo: Raster, channel: number, footprint: number): Sampler {
  return sampler(photo, footprint, asStored, (r, g, b) => labOf(r, g, b, channel));
}

/** Luminance in linear light: for the last pass, which says where exactly an edge lies. */
export function lightSampler(photo: Raster, footprint: number): Sampler {
  return sampler(photo, footprint, linear, (r, g, b) => 100 * luminance(r, g, b));
}

/** The last pass along a side that was seen in `channel`: in linear light for lightness; colours are blurred by JPEG, so they say where it is only where light does not. */
export function traceFinely(
  photo: Raster,
  { channel, sign }: Pick<SideEvidence, 'channel' | 'sign'>,
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

const asStored = Float32Array.from({ length: 256 }, (_, i) => i);

function sampler(
  photo: Raster,
  footprint: number,
  value: Float32Array,
  channelOf: (r: number, g: number, b: number) => number,
): Sampler {
  const { width, height, channels, data } = photo;
  const gap = Math.max(1, Math.round(footprint));
  const green = channels === 1 ? 0 : 1;
  const blue = channels === 1 ? 0 : 2;
  const row = gap * width * channels;
  const column = gap * channels;
  return (x, y, alongX, alongY) => {
    if (!(x > -0.5 && y > -0.5 && x < width - 0.5 && y < height - 0.5)) return NaN;
    let r = 0;
    let g = 0;
    let b = 0;
    let n = 0;
    for (let spot = -1; spot <= 1; spot++) {
      const cx = Math.round(x + spot * alongX);
      const cy = Math.round(y + spot * alongY);
      if (cx >= gap && cy >= gap && cx < width - gap && cy < height - gap) {
        const start = (cy * width + cx) * channels - row - column;
        for (let q = start; q <= start + 2 * row; q += row)
          for (let p = q; p <= q + 2 * column; p += column) {
            r += value[data[p]];
            g += value[data[p + green]];
            b += value[data[p + blue]];
          }
        n += 9;
        continue;
      }
      for (let py = cy - gap; py <= cy + gap; py += gap)
        for (let px = cx - gap; px <= cx + gap; px += gap) {
          if (px < 0 || py < 0 || px >= width || py >= height) continue;
          const p = (py * width + px) * channels;
          r += value[data[p]];
          g += value[data[p + green]];
          b += value[data[p + blue]];
          n++;
        }
    }
    return channelOf(r / n, g / n, b / n);
  };
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
