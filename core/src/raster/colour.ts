import { createPlane, type Plane, type Raster } from './raster';

/** Linear light 0..1 of the 256 values of sRGB (IEC 61966-2-1). */
export const linear = new Float32Array(256);
for (let i = 0; i < 256; i++) {
  const v = i / 255;
  linear[i] = v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4;
}

const cubeRootSteps = 4096;
const labCurve = new Float32Array(cubeRootSteps + 2);
for (let i = 0; i < labCurve.length; i++) {
  const t = i / cubeRootSteps;
  labCurve[i] = t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116;
}

function curve(t: number): number {
  const p = t * cubeRootSteps;
  const i = p < 0 ? 0 : p > cubeRootSteps ? cubeRootSteps : p | 0;
  return labCurve[i] + (labCurve[i + 1] - labCurve[i]) * (p - i);
}

/** CIE L*a*b* (D65, 2°) of an sRGB raster: L 0..100, a and b about −100..100. IEC 61966-2-1 and CIE 15. */
export function labPlanes(raster: Raster): [L: Plane, a: Plane, b: Plane] {
  const { width, height, channels, data } = raster;
  const planes: [Plane, Plane, Plane] = [createPlane(width, height), createPlane(width, height), createPlane(width, height)];
  const [L, A, B] = planes;
  for (let i = 0, p = 0; i < width * height; i++, p += channels) {
    const r = linear[data[p]];
    const g = linear[data[channels === 1 ? p : p + 1]];
    const b = linear[data[channels === 1 ? p : p + 2]];
    const fx = curve((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047);
    const fy = curve(0.2126729 * r + 0.7151522 * g + 0.072175 * b);
    const fz = curve((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883);
    L.data[i] = 116 * fy - 16;
    A.data[i] = 500 * (fx - fy);
    B.data[i] = 200 * (fy - fz);
  }
  return planes;
}

function linearAt(v: number): number {
  const i = v | 0;
  return i > 254 ? linear[255] : linear[i] + (linear[i + 1] - linear[i]) * (v - i);
}

/** One channel (0 L*, 1 a*, 2 b*) of the CIE L*a*b* colour of an sRGB value, 0..255 each, fractions allowed. */
export function labOf(red: number, green: number, blue: number, channel: number): number {
  const r = linearAt(red);
  const g = linearAt(green);
  const b = linearAt(blue);
  const fy = curve(0.2126729 * r + 0.7151522 * g + 0.072175 * b);
  if (channel === 0) return 116 * fy - 16;
  if (channel === 1) return 500 * (curve((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047) - fy);
  return 200 * (fy - curve((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883));
}

/** Luma 0..255 by ITU-R BT.601 weights (0.299, 0.587, 0.114). */
export function lumaPlane(raster: Raster): Plane {
  const { width, height, channels, data } = raster;
  const plane = createPlane(width, height);
  for (let i = 0, p = 0; i < width * height; i++, p += channels)
    plane.data[i] = channels === 1 ? data[p] : 0.299 * data[p] + 0.587 * data[p + 1] + 0.114 * data[p + 2];
  return plane;
}
