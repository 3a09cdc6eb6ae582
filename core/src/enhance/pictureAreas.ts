import { marksOf } from '../raster/marks';
import type { Raster } from '../raster/raster';
import type { Light } from './light';

/** What is smaller in either direction is an ornament or a stamp, mm; what fills less of its rectangle is none that can be cut out. */
const leastMm = 14;
const leastFilled = 0.6;
/** The areas whose tones are kept reach so far beyond what is printed, mm at most. */
const mostBeyondMm = 7.5;
/** Paper is brighter than this share of the paper's light; a row of a picture is darker at so many of its places. */
const paperFrom = 0.92;
const leastDark = 0.1;

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
  return marksOf(mask, pictures.width, pictures.height)
    .map(({ x0, y0, x1, y1, area }) => ({ x0, y0, wide: x1 - x0 + 1, high: y1 - y0 + 1, area }))
    .filter(({ wide, high, area }) => wide * across >= leastMm && high * down >= leastMm && area >= leastFilled * wide * high)
    .sort((a, b) => b.area - a.area)
    .map(({ x0, y0, wide, high }) => {
      const scale = [copy.width / pictures.width, copy.height / pictures.height] as const;
      const box = [x0 * scale[0], y0 * scale[1], (x0 + wide) * scale[0], (y0 + high) * scale[1]].map(Math.round) as [number, number, number, number]; // prettier-ignore
      const [mmX, mmY] = [widthMm / copy.width, heightMm / copy.height];
      const [left, top, right, bottom] = withoutPaper(box, copy, light.paper, [mostBeyondMm / mmX, mostBeyondMm / mmY]);
      return { x: left * mmX, y: top * mmY, width: (right - left) * mmX, height: (bottom - top) * mmY };
    });
}

/** A box without the bare paper along its sides, but for at most so much of it, px across and down. */
function withoutPaper(
  [x0, y0, x1, y1]: readonly [number, number, number, number],
  { width, height, channels, data }: Raster,
  paper: Light['paper'],
  [across, down]: readonly [number, number],
): [number, number, number, number] {
  const isDark = (x: number, y: number) => {
    const p = (y * width + x) * channels;
    const luma = channels < 3 ? data[p] : 0.299 * data[p] + 0.587 * data[p + 1] + 0.114 * data[p + 2];
    const [i, j] = [Math.floor((x * paper.width) / width), Math.floor((y * paper.height) / height)];
    return luma < paperFrom * paper.data[j * paper.width + i];
  };
  const column = (x: number) => {
    let dark = 0;
    for (let y = y0; y < y1; y++) if (isDark(x, y)) dark++;
    return dark >= leastDark * (y1 - y0);
  };
  const row = (y: number) => {
    let dark = 0;
    for (let x = x0; x < x1; x++) if (isDark(x, y)) dark++;
    return dark >= leastDark * (x1 - x0);
  };
  let [left, top, right, bottom] = [x0, y0, x1, y1];
  while (left < x0 + across && !column(left)) left++;
  while (right > x1 - across && !column(right - 1)) right--;
  while (top < y0 + down && !row(top)) top++;
  while (bottom > y1 - down && !row(bottom - 1)) bottom--;
  return [left, top, right, bottom];
}
