import { marksOf } from '../raster/marks';
import type { Raster } from '../raster/raster';
import type { Light } from './light';

/** What is smaller in either direction is an ornament or a stamp, mm; what fills less of its rectangle is none that can be cut out. */
const leastMm = 14;
const leastFilled = 0.6;
/** The areas whose tones are kept reach so far beyond what is printed, mm at most. */
const mostBeyondMm = 7.5;
/** Paper is brighter than this share of the paper's light; a line of a picture is darker at so many of its places. */
const paperFrom = 0.92;
const leastDark = 0.1;
/** Ink is darker than this share. A side that cuts through ink goes outwards to bare paper of this width, mm, for at most such a share of the picture's size. */
const inkBelow = 0.7;
const bareMm = 2;
const mostGrown = 0.35;

/** A rectangle of a page, mm. */
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * Rectangles in which a page's tones are kept, largest first: pictures, and coloured fields, whether anything is written on them or not. None on a dark page, which is one all over.
 *
 * @param page a copy of the page and its light, as `analysePage` has them.
 */
export function pictureAreas(
  { copy, light }: { copy: Raster; light: Pick<Light, 'pictures' | 'paper' | 'dark'> },
  { widthMm, heightMm }: { widthMm: number; heightMm: number },
): Area[] {
  const { pictures, dark } = light;
  if (dark) return [];
  const [across, down] = [widthMm / pictures.width, heightMm / pictures.height];
  const mask = Uint8Array.from(pictures.data, (v) => Number(v > 0.5));
  return (
    marksOf(mask, pictures.width, pictures.height)
      .map(({ x0, y0, x1, y1, area }) => ({ x0, y0, wide: x1 - x0 + 1, high: y1 - y0 + 1, area }))
      .filter(({ wide, high, area }) => wide * across >= leastMm && high * down >= leastMm && area >= leastFilled * wide * high)
      .sort((a, b) => b.area - a.area)
      .map(({ x0, y0, wide, high }) => {
        const [scaleX, scaleY] = [copy.width / pictures.width, copy.height / pictures.height];
        const box = { left: x0 * scaleX, top: y0 * scaleY, right: (x0 + wide) * scaleX, bottom: (y0 + high) * scaleY };
        const [mmX, mmY] = [widthMm / copy.width, heightMm / copy.height];
        const { left, top, right, bottom } = sidesOf(box, copy, light.paper, [1 / mmX, 1 / mmY]);
        return { x: left * mmX, y: top * mmY, width: (right - left) * mmX, height: (bottom - top) * mmY };
      })
      // What another one has taken in is a part of that.
      .filter((area, i, all) => !all.slice(0, i).some((larger) => holdsMiddle(larger, area)))
  );
}

const holdsMiddle = (a: Area, b: Area) => {
  const [x, y] = [b.x + b.width / 2 - a.x, b.y + b.height / 2 - a.y];
  return x > 0 && x < a.width && y > 0 && y < a.height;
};

interface Sides {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * The sides of a picture's box, px: without the bare paper along them, and as far out as what they would cut through goes on (a chart's white sea is paper's white too).
 *
 * @param perMm px across and down.
 */
function sidesOf(
  box: Sides,
  { width, height, channels, data }: Raster,
  paper: Light['paper'],
  perMm: readonly [number, number],
): Sides {
  const brightness = (x: number, y: number) => {
    const p = (y * width + x) * channels;
    const luma = channels < 3 ? data[p] : 0.299 * data[p] + 0.587 * data[p + 1] + 0.114 * data[p + 2];
    return luma / paper.data[Math.floor((y * paper.height) / height) * paper.width + Math.floor((x * paper.width) / width)];
  };
  const out: Sides = { left: Math.round(box.left), top: Math.round(box.top), right: Math.round(box.right), bottom: Math.round(box.bottom) }; // prettier-ignore
  /** How many places of a column or row within the box are darker than a share of the paper. */
  const darker = (upright: boolean, at: number, share: number) => {
    const [from, to] = upright ? [out.top, out.bottom] : [out.left, out.right];
    let dark = 0;
    for (let i = from; i < to; i++) if ((upright ? brightness(at, i) : brightness(i, at)) < share) dark++;
    return dark / (to - from);
  };
  const sides = (['left', 'right', 'top', 'bottom'] as const).map((side) => {
    const upright = side === 'left' || side === 'right';
    const outwards = side === 'left' || side === 'top' ? -1 : 1;
    const [scale, end] = upright ? [perMm[0], width] : [perMm[1], height];
    return {
      upright,
      scale,
      /** How much of the line within the side, so many px further out, is darker than a share of the paper; null beyond the page. */
      darkAt: (by: number, share: number) => {
        const at = out[side] + outwards * by - (outwards > 0 ? 1 : 0);
        return at < 0 || at >= end ? null : darker(upright, at, share);
      },
      move: (by: number) => void (out[side] += outwards * by),
    };
  });
  for (const { scale, darkAt, move } of sides) {
    let by = 0;
    while (by > -mostBeyondMm * scale && (darkAt(by, paperFrom) ?? 0) < leastDark) by--;
    // Nothing but pale: it may be its sky.
    if (by > -mostBeyondMm * scale) move(by);
  }
  for (const { upright, scale, darkAt, move } of sides) {
    const most = mostGrown * (upright ? out.right - out.left : out.bottom - out.top);
    const enough = Math.ceil(bareMm * scale);
    let [by, bare] = [0, 0];
    while (bare < enough && by <= most) {
      const dark = darkAt(++by, inkBelow);
      // A page's end is one too.
      if (dark === null) break;
      bare = dark ? 0 : bare + 1;
    }
    if (by <= most) move(bare < enough ? by - 1 : by - bare);
  }
  return out;
}
