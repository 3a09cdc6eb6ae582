import { boxMean, gaussian } from '../raster/blur';
import { lumaPlane } from '../raster/colour';
import { createPlane, type Plane, type Raster } from '../raster/raster';
import { shrinkToEdge } from '../raster/resize';
import { darknessOf, type Darkness } from './darkPage';
import { fill } from './fill';
import { closing, dilate, wideAsInk } from './morphology';
import { median, percentiles } from './levels';
import { squareUp, texturedAreas } from './pictures';
import { offPaper, printedPlaces } from './printed';
import { groundOf, lampLine, type Ground } from './paperColour';
import { tintsOn } from './tints';

/** The light that fell on a page, from what is paper on it. */
export interface Light {
  /** Paper luma 0..255 over the page, on a small grid. */
  paper: Plane;
  /** Factors for red, green and blue that make the paper neutral; mean about 1. */
  balance: [number, number, number];
  /** The paper's own colour in balanced light, red, green and blue over its luma; 1 each where it is white. */
  own: [number, number, number];
  /** How much the paper's strongest channel lies above its luma, for tinted paper; else 1. */
  tint: number;
  /** How bright the paper's strongest channel is beside white: 1, less on strongly coloured paper. */
  level: number;
  /** Of a page that is mostly dark (a slide, a printed card). */
  dark: Darkness | null;
  /** Share of the page covered by strongly coloured areas. */
  coloured: number;
  /** 0..1 on a small grid: where pictures, coloured fields and dark blocks are, whose tones are kept. */
  pictures: Plane;
  /** 1 where rows and boxes have a pale tint, on a finer grid; null where none have. */
  tints: Plane | null;
}

/** A page with no plain paper at all; where there is a little, it tells what is white. */
const pictureShare = 0.985;
/** Whether a page is a picture all over, with no margin to be tidied. */
export const isAllPicture = ({ pictures: { data } }: Light): boolean =>
  data.reduce((sum, v) => sum + v, 0) > pictureShare * data.length;

/** Long side of the copy on which paper is looked for, px. */
export const lightEdgePx = 400;

/** A plane of a copy of that size, smoothed before, with what is as narrow as ink filled from around. */
export const withoutInk = (smooth: Plane): Plane => closing(smooth, wideAsInk(smooth));

/** A page is dark when most of it is darker than this share of its brightest places. */
const darkBelow = 0.55;
/** In glare it is not, and is no paper either (its middle lies below this share of its brightest places); then its writing tells, looked at within this share of the page's longer side. */
const greyBelow = 0.78;
const roundWriting = 0.04;
/** Bright writing makes the skewness of what differs from its surroundings positive: 1.7 on a glaring dark card, −1.7 to 0.1 on pages of paper. And so much has to differ, levels. */
const leastSkewness = 0.8;
const leastSpread = 4;

function isDark(luma: Plane, smooth: Plane): boolean {
  const [middle, most, all] = percentiles(luma.data, [0.5, 0.97, 0.995]);
  if (middle < darkBelow * most) return true;
  if (middle > greyBelow * all) return false;
  const around = boxMean(smooth, Math.round(roundWriting * Math.max(smooth.width, smooth.height))).data;
  let [square, cube] = [0, 0];
  for (let i = 0; i < around.length; i++) {
    const apart = smooth.data[i] - around[i];
    const squared = apart * apart;
    square += squared;
    cube += squared * apart;
  }
  const spread = Math.sqrt(square / around.length);
  return spread > leastSpread && cube / around.length > leastSkewness * spread ** 3;
}

/**
 * Estimates a page's light at 400 px: a closing takes away the ink, coloured areas are masked before, masked cells are filled by normalised
 * convolution with growing width, and the result is smoothed. One luminance background and one white balance for all: dividing each
 * channel by its own background takes the colour out of large coloured areas.
 */
export function estimateLight(page: Raster): Light {
  const small = shrinkToEdge(page, lightEdgePx);
  const { width, height, channels, data } = small;
  const n = width * height;
  const luma = lumaPlane(small);
  const smooth = gaussian(luma, 1.2);
  const top = withoutInk(smooth);
  const dark = isDark(luma, smooth) ? darknessOf(small, smooth) : null;
  const ground = groundOf(small);
  const mask = printedAreas(small, smooth, top, ground);
  const coloured = mask.reduce((sum, printed, i) => sum + Number(printed && offPaper(ground, i) > inColour), 0);
  const filledIn = fill(top, mask);
  const [redShare, blueShare] = ground.paper.map(Math.exp);
  // Nothing reflects more than white: what is brighter under a picture than the paper around says how bright it is there.
  const whiteLuma = (0.299 * redShare + 0.587 + 0.114 * blueShare) / Math.max(redShare, 1, blueShare);
  const atLeast: Plane = { width, height, data: ground.level.data.map((v, i) => (mask[i] ? v * whiteLuma : 0)) };
  const paper = channels === 1 ? filledIn : noDarker(filledIn, atLeast);

  const reds = new Float32Array(n);
  const blues = new Float32Array(n);
  let plain = 0;
  if (channels !== 1) {
    for (let i = 0, p = 0; i < n; i++, p += channels) {
      if (mask[i] || luma.data[i] < 0.93 * paper.data[i]) continue;
      const green = Math.max(leastLevel, data[p + 1]);
      reds[plain] = Math.max(leastLevel, data[p]) / green;
      blues[plain++] = Math.max(leastLevel, data[p + 2]) / green;
    }
  }
  const paperRed = median(reds.subarray(0, plain)) ?? 1;
  const paperBlue = median(blues.subarray(0, plain)) ?? 1;
  const [red, blue] = lightColour(paperRed, paperBlue);
  // Balanced white has the luma it had before.
  const luminance = 0.299 * red + 0.587 + 0.114 * blue;
  const balance: Light['balance'] = dark ? [1, 1, 1] : [luminance / red, luminance, luminance / blue];
  const left = [paperRed / red, 1, paperBlue / blue];
  const tinted = !dark && (left[0] !== 1 || left[2] !== 1);
  const leftLuma = 0.299 * left[0] + 0.587 + 0.114 * left[2];
  const own: Light['own'] = tinted ? [left[0] / leftLuma, 1 / leftLuma, left[2] / leftLuma] : [1, 1, 1];
  const tint = Math.max(...own);
  const level = tinted ? levelOf(own, ground.level, mask) : 1;
  const pictures = createPlane(width, height);
  for (let i = 0; i < n; i++) pictures.data[i] = dark ? 1 : mask[i];
  const light: Light = {
    paper,
    balance,
    own,
    tint,
    level,
    dark,
    coloured: coloured / n,
    pictures: dark ? pictures : gaussian(pictures, 1.5),
    tints: null,
  };
  const tints = dark ? null : tintsOn(page, light, smooth);
  if (!tints) return light;
  return {
    ...light,
    paper: fill(paper, maskUnder(tints.areas, paper)),
    coloured: light.coloured + tints.coloured,
    tints: tints.areas,
  };
}

/** A plane raised where another one is above it, smoothly. */
function noDarker(plane: Plane, least: Plane): Plane {
  if (!least.data.some((v, i) => v > plane.data[i])) return plane;
  return gaussian({ ...plane, data: plane.data.map((v, i) => Math.max(v, least.data[i])) }, 6);
}

/** Papers of less colour than the first (a channel's lack beside the strongest) are as bright as white; of those of more than the second it is not known: halfway, in ratios, between white and what the photograph has. */
const strongColour = [0.22, 0.45];

function levelOf(own: Light['own'], level: Plane, mask: Uint8Array): number {
  const lack = 1 - Math.min(...own) / Math.max(...own);
  const share = Math.max(0, Math.min(1, (lack - strongColour[0]) / (strongColour[1] - strongColour[0])));
  const [seen] = percentiles(
    level.data.filter((_, i) => !mask[i]),
    [0.8],
  );
  return (Math.max(60, Math.min(250, seen)) / 250) ** (share / 2);
}

/** What a channel counts for at least: below it saturated paper is clipped, and its colour is known no more. */
const leastLevel = 12;

/** Tints draw the paper's light down as far as this around them, px of its grid. */
const drawn = 4;

function maskUnder(tints: Plane, { width, height }: Plane): Uint8Array {
  const on = createPlane(width, height);
  // The tints' grid is the finer one: their middles are enough to go by.
  const [sx, sy] = [tints.width / width, tints.height / height];
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++)
      on.data[i] = tints.data[Math.floor((y + 0.5) * sy) * tints.width + Math.floor((x + 0.5) * sx)];
  return new Uint8Array(dilate(on, drawn).data);
}

/** The light with the paper under what is masked (1, on any grid that is no coarser) taken from around it. */
export const lightAround = (light: Light, masked: Plane): Light => ({
  ...light,
  paper: fill(light.paper, maskUnder(masked, light.paper)),
});

/** How bright the paper is in each channel of a page at 400 px. */
export const paperOf = (small: Raster): Plane[] => topsOf(small).map((top) => gaussian(top, 3));

/** The same under what is masked and under pictures and coloured fields, from the paper around. */
export function paperAround(small: Raster, masked: Uint8Array): Plane[] {
  const luma = lumaPlane(small);
  const smooth = gaussian(luma, 1.2);
  const mask = isDark(luma, smooth) ? masked.slice() : printedAreas(small, smooth, withoutInk(smooth), groundOf(small));
  for (let i = 0; i < mask.length; i++) if (masked[i]) mask[i] = 1;
  return topsOf(small).map((top) => fill(top, mask));
}

/** Each channel without its ink. */
function topsOf({ width, height, channels, data }: Raster): Plane[] {
  return Array.from({ length: channels === 1 ? 1 : 3 }, (_, c) => {
    const plane = createPlane(width, height);
    for (let i = 0; i < plane.data.length; i++) plane.data[i] = data[i * channels + c];
    return withoutInk(gaussian(plane, 1.2));
  });
}

/** 1 where pictures, coloured fields and dark blocks are: what is told place by place, and what only its texture or its shape tells, grey pictures and glare in one. */
function printedAreas(small: Raster, smooth: Plane, top: Plane, ground: Ground): Uint8Array {
  const mask = printedPlaces(smooth, top, ground);
  texturedAreas(top, mask);
  squareUp(small, smooth, top, mask);
  return mask;
}

/** Printed areas are in colour where the ground's is so far off the paper's, log ratios. */
const inColour = 0.08;

/** How far off the line of lamps, in log ratios, light on white paper is still taken for light: 7 of 8 of the development photographs' odd lamps lie up to 0.13 off, pastel papers from 0.15 on. */
const mostLampOff = 0.14;

/** Pastel paper lies along the line of lamps too, pink by 0.55 of how far it lies off; what is within this share is the paper's, what is beyond is the lamp's. */
const ownAlong = 0.55;
/** Cameras balance what they take: of 57 papers of the development photographs none was as colourful as the first of these (log ratios), a kraft envelope is beyond the second. From the one on less and less is the lamp's, from the other on nothing. */
const mostLamp = [0.285, 0.385];

/**
 * The part of the paper's colour (red / green, blue / green) that light can account for. Lamps and daylight differ between orange and blue; what
 * lies far off that line, pink or green, is the paper's own colour and stays.
 */
function lightColour(red: number, blue: number): [number, number] {
  const r = Math.log(red);
  const b = Math.log(blue);
  const [dr, db] = lampLine;
  const along = r * dr + b * db;
  const off = r * -db + b * dr;
  const share = Math.max(0, Math.min(1, (mostLamp[1] - Math.hypot(r, b)) / (mostLamp[1] - mostLamp[0])));
  if (Math.abs(off) < mostLampOff) return [Math.exp(share * r), Math.exp(share * b)];
  const own = Math.max(-ownAlong * Math.abs(off), Math.min(ownAlong * Math.abs(off), along));
  const lamp = share * (along - own);
  return [Math.exp(lamp * dr), Math.exp(lamp * db)];
}
