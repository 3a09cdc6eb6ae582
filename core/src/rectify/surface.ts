import type { Point, Quad } from '../raster/raster';
import { homography, project } from './homography';
import { levenbergMarquardt } from './leastSquares';
import { trueRatio, usualFocal, type View } from './proportions';

/** A page as it lies in space, seen by a camera: takes page coordinates to photo pixels. */
export interface Surface {
  /** True width / height of the flat page. */
  ratio: number;
  /** Where a point of the page is seen; u and v are shares of its width and height. */
  toPhoto: (u: number, v: number) => Point;
  /** Root mean square distance of the model's outline from the one given, photo px. */
  rmsPx: number;
  focalPx: number;
  /** Radial distortion of the lens, relative to the half diagonal. */
  lens: number;
  /** How the page is bent: not at all, along its width (top and bottom edge curved), or along its height. */
  bend: Bend;
}

export type Bend = 'flat' | 'width' | 'height';

/** How far focal lengths lie from the usual one, log scale. */
const focalSpread = 0.22;
const lensSpread = 0.004;
const mostLens = 0.015;
/** Terms of the bending angle along the page: polynomials of degree 1 to 5 without constant. */
const terms = 5;
const termSpread = [1.2, 2, 4, 8, 14];
/** Sheets rarely curl square to their edges: the angle between the direction of the bend and the page's width, radians. */
const obliqueSpread = 0.5;
const mostOblique = 1;
const bendStarts = [0.3, -0.3].flatMap((bow) => [0, 0.4, -0.4].map((oblique) => [bow, oblique]));
/** Residuals are measured in this share of the photo's longer side, and weighed down from there on (Cauchy). */
const unit = 0.0006;

/**
 * Fits a generalised cylinder, its pose, the focal length and one radial distortion term to a page's outline: the page is a plane that is
 * bent along one direction only, so that lines across the bend stay straight in space. After Cao, Ding and Liu, ICCV 2003, and Liang, DeMenthon and
 * Doermann, PAMI 30(4), 2008, with the profile as an angle along the arc, so that lengths on the paper are kept.
 *
 * @param sides the outline's four sides from corner to corner, clockwise from the top-left, each with the same number of points (at least 5).
 */
export function fitSurface(sides: readonly (readonly Point[])[], view: View, bend: Bend): Surface {
  if (bend !== 'height') return fitAcross(sides, view, bend);
  // Bent along its height: looked at turned by a quarter, so that its right side is the top.
  const turned = [sides[1], sides[2], sides[3], sides[0]];
  const surface = fitAcross(turned, view, 'width');
  return { ...surface, bend, ratio: 1 / surface.ratio, toPhoto: (u, v) => surface.toPhoto(v, 1 - u) };
}

function fitAcross(sides: readonly (readonly Point[])[], view: View, bend: 'flat' | 'width'): Surface {
  const quad = sides.map((s) => s[0]) as unknown as Quad;
  const longer = Math.max(view.width, view.height);
  const centre: Point = [(view.width - 1) / 2, (view.height - 1) / 2];
  const half = Math.hypot(view.width, view.height) / 2;
  const focal = view.focalPx ?? usualFocal * longer;
  const ratio = trueRatio(quad, { ...view, focalPx: focal });
  const pose = startingPose(quad, ratio, focal, centre);
  const scale = unit * longer;
  const bent = bend === 'width';
  const count = bent ? 10 + terms : 9;
  const knownFocal = view.focalPx !== undefined;

  const residuals = (p: Float64Array): Float64Array => {
    const see = seer(p, bent, longer, half, centre);
    const out: number[] = [];
    for (let i = 0; i < 4; i++) {
      const side = sides[i];
      const steps = side.length - 1;
      for (let k = 0; k <= steps; k++) {
        const t = k / steps;
        const at = i === 0 ? see(t, 0) : i === 1 ? see(1, t) : i === 2 ? see(1 - t, 1) : see(0, 1 - t);
        if (k === 0) {
          // Corners hold both coordinates; that they are the ends of two sides doubles their weight.
          out.push(soft((at[0] - side[0][0]) / scale), soft((at[1] - side[0][1]) / scale));
          continue;
        }
        if (k < steps) out.push(soft(distanceTo(side, at, t) / scale));
      }
    }
    out.push((Math.log(p[0]) - Math.log(focal / longer)) / (knownFocal ? 0.03 : focalSpread), p[1] / lensSpread);
    for (let j = 0; bent && j < terms; j++) out.push((0.5 * p[9 + j]) / termSpread[j]);
    if (bent) out.push(p[9 + terms] / obliqueSpread);
    return Float64Array.from(out);
  };
  const clamp = (p: Float64Array) => {
    p[0] = Math.max(0.35, Math.min(3, p[0]));
    p[1] = Math.max(-mostLens, Math.min(mostLens, p[1]));
    p[8] = Math.max(-2.5, Math.min(2.5, p[8]));
    if (bent) p[9 + terms] = Math.max(-mostOblique, Math.min(mostOblique, p[9 + terms]));
  };

  const fit = (start: Float64Array, iterations: number) => levenbergMarquardt(residuals, start, { iterations, constrain: clamp });
  const flat = new Float64Array(count);
  flat.set([focal / longer, 0, ...pose, Math.log(1 / ratio)]);
  // Towards or away from the camera, square or oblique: at first these look alike, and the wrong one does not find the way to the right one.
  const starts = bent
    ? bendStarts.map(([bow, oblique]) => flat.map((v, i) => (i === 9 ? bow : i === 9 + terms ? oblique : v)))
    : [flat];
  const tried = starts.map((start) => fit(start, bent ? 10 : 20));
  const likeliest = tried.sort((p, q) => p.cost - q.cost).slice(0, bent ? 2 : 0);
  const best = [...tried.slice(0, 1), ...likeliest.map(({ params }) => fit(params, 30))].sort((p, q) => p.cost - q.cost)[0];
  const { params } = best;
  const toPhoto = seer(params, bent, longer, half, centre);
  let square = 0;
  let n = 0;
  sides.forEach((side, i) =>
    side.forEach((_, k) => {
      const t = k / (side.length - 1);
      const at = i === 0 ? toPhoto(t, 0) : i === 1 ? toPhoto(1, t) : i === 2 ? toPhoto(1 - t, 1) : toPhoto(0, 1 - t);
      square += distanceTo(side, at, t) ** 2;
      n++;
    }),
  );
  return {
    ratio: 1 / Math.exp(params[8]),
    toPhoto,
    rmsPx: Math.sqrt(square / n),
    focalPx: params[0] * longer,
    lens: params[1],
    bend,
  };
}

/** Cauchy's loss log(1 + r²) as a square. */
const soft = (r: number) => Math.sign(r) * Math.sqrt(Math.log1p(r * r));

/** Distance of a point from a side near its share `t`, signed: to the right of the way is positive. */
function distanceTo(side: readonly Point[], at: Point, t: number): number {
  const n = side.length - 1;
  let best = Infinity;
  let signed = 0;
  const near = Math.round(t * n);
  for (let k = Math.max(0, near - 4); k < Math.min(n, near + 4); k++) {
    const [ax, ay] = side[k];
    const dx = side[k + 1][0] - ax;
    const dy = side[k + 1][1] - ay;
    const length = Math.hypot(dx, dy) || 1e-9;
    const along = ((at[0] - ax) * dx + (at[1] - ay) * dy) / (length * length);
    // The first and last stretch go on beyond the corners.
    const s = Math.max(k === 0 ? -1 : 0, Math.min(k === n - 1 ? 2 : 1, along));
    const off = Math.hypot(at[0] - ax - s * dx, at[1] - ay - s * dy);
    if (off >= best) continue;
    best = off;
    signed = (dx * (at[1] - ay) - dy * (at[0] - ax)) / length;
  }
  return signed;
}

const tableSteps = 48;

/**
 * The camera of a parameter vector: focal length / longer side, lens, rotation vector (3), translation (3), log(height / width), and the terms of
 * the bending angle along it and its direction. The page is 1 wide.
 */
function seer(p: Float64Array, bent: boolean, longer: number, half: number, centre: Point): (u: number, v: number) => Point {
  const f = p[0] * longer;
  const k = p[1];
  const [r0, r1, r2, r3, r4, r5, r6, r7, r8] = rotation(p[2], p[3], p[4]);
  const h = Math.exp(p[8]);
  // The page in the axes of its bend: s along it, t along the lines that stay straight.
  const co = bent ? Math.cos(p[9 + terms]) : 1;
  const si = bent ? Math.sin(p[9 + terms]) : 0;
  const reach = 0.5 * co + 0.5 * h * Math.abs(si);
  const xs = new Float64Array(tableSteps + 1);
  const zs = new Float64Array(tableSteps + 1);
  if (bent) {
    const step = (2 * reach) / tableSteps;
    for (let i = 1; i <= tableSteps; i++) {
      const s = (i - 0.5) * step - reach;
      const angle = s * (p[9] + s * (p[10] + s * (p[11] + s * (p[12] + s * p[13]))));
      xs[i] = xs[i - 1] + Math.cos(angle) * step;
      zs[i] = zs[i - 1] + Math.sin(angle) * step;
    }
    const mx = xs[tableSteps >> 1];
    const mz = zs[tableSteps >> 1];
    for (let i = 0; i <= tableSteps; i++) {
      xs[i] -= mx;
      zs[i] -= mz;
    }
  }
  return (u, v) => {
    let x = u - 0.5;
    let y = (v - 0.5) * h;
    let z = 0;
    if (bent) {
      const s = co * x + si * y;
      const t = co * y - si * x;
      const at = Math.max(0, Math.min(tableSteps, ((s / reach + 1) * tableSteps) / 2));
      const i = Math.min(tableSteps - 1, at | 0);
      const e = xs[i] + (xs[i + 1] - xs[i]) * (at - i);
      z = zs[i] + (zs[i + 1] - zs[i]) * (at - i);
      x = co * e - si * t;
      y = si * e + co * t;
    }
    const depth = Math.max(1e-3, r6 * x + r7 * y + r8 * z + p[7]);
    const px = (f * (r0 * x + r1 * y + r2 * z + p[5])) / depth;
    const py = (f * (r3 * x + r4 * y + r5 * z + p[6])) / depth;
    const bow = 1 + (k * (px * px + py * py)) / (half * half);
    return [centre[0] + px * bow, centre[1] + py * bow];
  };
}

/** Rotation matrix of a rotation vector (Rodrigues). */
function rotation(x: number, y: number, z: number): number[] {
  const angle = Math.hypot(x, y, z);
  const a = angle < 1e-9 ? 1 : Math.sin(angle) / angle;
  const b = angle < 1e-9 ? 0.5 : (1 - Math.cos(angle)) / (angle * angle);
  return [
    1 - b * (y * y + z * z), b * x * y - a * z, b * x * z + a * y,
    b * x * y + a * z, 1 - b * (x * x + z * z), b * y * z - a * x,
    b * x * z - a * y, b * y * z + a * x, 1 - b * (x * x + y * y),
  ]; // prettier-ignore
}

/** Rotation vector and translation of a flat page 1 wide from its corners (Hartley and Zisserman, 2nd ed., section 8.1.1: columns of K⁻¹H). */
function startingPose(quad: Quad, ratio: number, focal: number, centre: Point): number[] {
  const h = 1 / ratio;
  const page: Point[] = [[-0.5, -h / 2], [0.5, -h / 2], [0.5, h / 2], [-0.5, h / 2]]; // prettier-ignore
  const m = homography(page, quad.map(([x, y]): Point => [(x - centre[0]) / focal, (y - centre[1]) / focal])); // prettier-ignore
  const n = 2 / (Math.hypot(m[0], m[3], m[6]) + Math.hypot(m[1], m[4], m[7]));
  const s = m[8] * n > 0 ? n : -n;
  const unitOf = (v: number[]) => {
    const l = Math.hypot(...v);
    return v.map((c) => c / l);
  };
  const a = unitOf([m[0] * s, m[3] * s, m[6] * s]);
  const raw = [m[1] * s, m[4] * s, m[7] * s];
  const dot = a[0] * raw[0] + a[1] * raw[1] + a[2] * raw[2];
  const b = unitOf(raw.map((v, i) => v - dot * a[i]));
  const c = [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
  const cosine = Math.max(-1, Math.min(1, (a[0] + b[1] + c[2] - 1) / 2));
  const angle = Math.acos(cosine);
  const axis = [b[2] - c[1], c[0] - a[2], a[1] - b[0]];
  const size = Math.hypot(...axis);
  if (size < 1e-6) {
    // Half a turn, or none: about the picture's own axis.
    return [0, 0, angle > 1 ? Math.PI : 0, m[2] * s, m[5] * s, m[8] * s];
  }
  return [...axis.map((v) => (v / size) * angle), m[2] * s, m[5] * s, m[8] * s];
}

/** For tests: where a plain homography takes the same page. */
export const flatSurface = (quad: Quad): ((u: number, v: number) => Point) => {
  const h = homography([[0, 0], [1, 0], [1, 1], [0, 1]], quad); // prettier-ignore
  return (u, v) => project(h, [u, v]);
};
