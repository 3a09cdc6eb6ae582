import type { Point, Raster } from '@libretto/core';
import type { Desk } from './desk';
import type { Camera } from './pinhole';

/** How a sheet stands off the desk, as a height in mm over the distance from its middle across it, in mm. */
export type Bend = { kind: 'flat' } | { kind: 'book'; heightMm: number; reachMm: number } | { kind: 'curl'; heightMm: number };

/** A piece of paper on the desk. */
export interface LaidSheet {
  id: string;
  /** The flat page, sRGB. */
  picture: Raster;
  widthMm: number;
  heightMm: number;
  /** Where its middle lies, mm. */
  xMm: number;
  yMm: number;
  /** Degrees clockwise seen from above. */
  angle: number;
  bend: Bend;
  /** How dark its own shadow is at its edge, 0..1; default 0.38. */
  shadow?: number;
  /** Its two halves are pages of their own. */
  spread?: boolean;
}

export interface Lighting {
  /** Even light from all over. */
  ambient: number;
  /** A lamp: where it hangs (mm), how bright. */
  lamp: { x: number; y: number; z: number; power: number };
  /** Red, green, blue of the light. */
  colour: [number, number, number];
  /** The phone's and hand's shadow: a soft-edged rectangle (mm), how dark 0..1. */
  shadow?: { x: number; y: number; width: number; height: number; angle: number; softMm: number; depth: number };
}

export interface Scene {
  desk: Desk;
  sheets: readonly LaidSheet[];
  camera: Camera;
  light: Lighting;
  /** Standard deviation of the sensor's noise at mid grey, 0..255. */
  noise: number;
  seed: number;
}

export interface TruePage {
  id: string;
  /** Corners top-left, top-right, bottom-right, bottom-left of the page in its own sense, photo pixels. */
  quad: Point[];
  /** True outline, clockwise from top-left, 20 points a side. */
  polygon: Point[];
  size_mm: [number, number];
  /** Degrees clockwise by which the text is turned in the photo, to the nearest quarter. */
  rotation: number;
}
