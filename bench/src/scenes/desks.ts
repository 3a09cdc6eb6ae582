import { createRaster, type Raster } from '@libretto/core';
import { noise } from '@libretto/demo/scene/noise';
import type { LaidSheet } from '@libretto/demo/scene/scene';
import type { Roll } from './roll';

/** The id of what lies in a scene and is no page. */
export const noPage = 'no page';
/** Size of an invented desk and its resolution. */
export const deskMm = 1300;
const pxPerMm = 1.6;

/** A picture of a desk as large as one, under all else in a scene. */
export const below = (picture: Raster, angle: number): LaidSheet => ({ id: noPage, picture, widthMm: deskMm, heightMm: deskMm, xMm: 0, yMm: 0, angle, bend: { kind: 'flat' } }); // prettier-ignore

type Colour = readonly [number, number, number];
/** Colour (sRGB 0..255) at a point in mm. */
type Surface = (x: number, y: number) => Colour;

const times = (c: Colour, k: number): Colour => [c[0] * k, c[1] * k, c[2] * k];

function wood(roll: Roll): Surface {
  const base: Colour = [roll(90, 215), roll(60, 175), roll(35, 130)];
  const plank = roll(50, 260);
  const [long, across] = [roll(40, 160), roll(0.8, 4)];
  const seed = Math.floor(roll(1, 1e6));
  const depth = roll(0.15, 0.5);
  return (x, y) => {
    const board = Math.floor(y / plank);
    const grain = noise(x / long + board * 13, y / across, seed) - 0.5;
    const seam = Math.abs(y - Math.round(y / plank) * plank) < 0.9 ? 0.6 : 1;
    return times(base, (1 + depth * grain + 0.2 * (noise(board, 0.5, seed + 1) - 0.5)) * seam);
  };
}

function stone(roll: Roll): Surface {
  const grey = roll(60, 225);
  const base: Colour = [grey * roll(0.9, 1.1), grey, grey * roll(0.88, 1.1)];
  const seed = Math.floor(roll(1, 1e6));
  const [cloud, speck, depth] = [roll(20, 120), roll(0.8, 3), roll(0.1, 0.5)];
  return (x, y) =>
    times(base, 1 + depth * (noise(x / cloud, y / cloud, seed) - 0.5) + depth * (noise(x / speck, y / speck, seed + 1) - 0.5));
}

/** Stripes, or checks where both ways have them. */
function cloth(roll: Roll): Surface {
  const a: Colour = [roll(20, 235), roll(20, 235), roll(20, 235)];
  const b: Colour = [roll(20, 235), roll(20, 235), roll(20, 235)];
  const [period, share] = [roll(6, 70), roll(0.25, 0.75)];
  const both = roll(0, 1) < 0.6;
  const seed = Math.floor(roll(1, 1e6));
  const strength = roll(0.15, 1);
  const within = (v: number) => (((v / period) % 1) + 1) % 1 < share;
  return (x, y) => {
    const k = ((within(x) ? 1 : 0) + (both && within(y) ? 1 : 0)) / (both ? 2 : 1);
    const weave = 0.92 + 0.16 * noise(x / 0.9, y / 0.9, seed);
    return [0, 1, 2].map((c) => (a[c]! + (b[c]! - a[c]!) * k * strength) * weave) as unknown as Colour;
  };
}

function tiles(roll: Roll): Surface {
  const size = roll(40, 320);
  const base: Colour = [roll(90, 240), roll(90, 235), roll(85, 230)];
  const groove = times(base, roll(0.55, 0.9));
  const width = roll(1.5, 5);
  const seed = Math.floor(roll(1, 1e6));
  return (x, y) => {
    const [u, v] = [((x % size) + size) % size, ((y % size) + size) % size];
    if (u < width || v < width) return groove;
    const own = noise(Math.floor(x / size) + 0.5, Math.floor(y / size) + 0.5, seed) - 0.5;
    return times(base, 1 + 0.1 * own + 0.06 * (noise(x / 30, y / 30, seed + 1) - 0.5));
  };
}

/** Painted or coated: one colour, often that of paper. */
function coated(roll: Roll, pale = roll(0, 1) < 0.7): Surface {
  const base: Colour = pale ? [roll(205, 252), roll(205, 250), roll(195, 248)] : [roll(20, 200), roll(20, 200), roll(20, 200)];
  const seed = Math.floor(roll(1, 1e6));
  const depth = roll(0.01, 0.06);
  return (x, y) =>
    times(base, 1 + depth * (noise(x / 90, y / 90, seed) - 0.5) + depth * (noise(x / 1.5, y / 1.5, seed + 1) - 0.5));
}

function pile(roll: Roll): Surface {
  const base: Colour = [roll(40, 200), roll(40, 190), roll(35, 180)];
  const seed = Math.floor(roll(1, 1e6));
  const size = roll(0.8, 4);
  const depth = roll(0.25, 0.7);
  return (x, y) => times(base, 1 + depth * (noise(x / size, y / size, seed) * noise(x / 11, y / 7, seed + 1) * 2 - 0.5));
}

const surfaces: readonly ((roll: Roll) => Surface)[] = [
  wood,
  wood,
  stone,
  cloth,
  tiles,
  (roll) => coated(roll),
  (roll) => coated(roll),
  pile,
];

/** A desk that nobody has: a kind of surface with its colours and sizes at random. */
export const inventedDesk = (roll: Roll): Raster => painted(surfaces[Math.floor(roll(0, surfaces.length - 1e-6))]!(roll));

/** A desk about as bright as paper. */
export const paleDesk = (roll: Roll): Raster => painted(coated(roll, true));

function painted(surface: Surface): Raster {
  const size = Math.round(deskMm * pxPerMm);
  const desk = createRaster(size, size, 3);
  for (let y = 0, p = 0; y < size; y++)
    for (let x = 0; x < size; x++, p += 3) {
      const colour = surface(x / pxPerMm, y / pxPerMm);
      // The paper's reflectance is below that of full white; a desk's may not be.
      for (let c = 0; c < 3; c++) desk.data[p + c] = colour[c]!;
    }
  return desk;
}
