import type { Point, Quad } from '../raster/raster';

/** Where a page lies in a photo. */
export interface Outline {
  /** Top-left, top-right, bottom-right, bottom-left of the page in photo pixels; corners may lie outside the photo. */
  quad: Quad;
  /** 0..1, the probability that the outline is right. */
  confidence: number;
  /** Quarter turns clockwise, in degrees, that the page perhaps needs besides: its print does not tell surely enough to turn it. */
  perhapsTurn?: 90 | 180 | 270;
  /** Half of an open book, which of the two. */
  spread?: 'first' | 'second';
  /** The true outline clockwise from top-left, only where an edge is curved. */
  polygon?: Point[];
  /** By what each side (top, right, bottom, left) was seen; null for one that was not. */
  evidence?: (SideEvidence | null)[];
}

export interface SideEvidence {
  /** 0 lightness, 1 and 2 the colour axes. */
  channel: number;
  /** +1: the channel is higher on the page than beside it. */
  sign: 1 | -1;
  /** How much higher or lower, Lab units. */
  level: number;
}
