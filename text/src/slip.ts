import type { Raster } from '@libretto/core';
import { slipSheet, type Slip, type Tick } from '@libretto/model/slip';
import type { Code } from './codes';

/** The code's middle may lie this far from where it was printed, share of the sheet's width: an outline is a little off. */
const mostOff = 0.08;
/** A box is looked for this far round its place, mm, in such steps. */
const [reachMm, stepMm] = [5, 0.25];
/** The frame takes this much of a box on each side, mm. */
const frameMm = 1.3;
/** Darker than this share of the paper round it is ink. */
const inkBelow = 0.75;
/** A pen's stroke of 0.5 mm through a box covers a tenth of it, dust and a frame that reaches in less than the first; what is blacked out may be a tick taken back. */
const [mostDust, leastTick, mostTick] = [0.012, 0.035, 0.7];
/** The frame has to be so much darker than what lies within and around it, levels. */
const leastFrame = 25;

/**
 * What is ticked on a cover slip, by how much of each box is ink (as optical mark readers do, common practice).
 *
 * @param page the finished sheet, whole, either way up.
 * @param code the slip's code on it.
 * @returns for each place what its box says; unclear where none is found.
 */
export function ticksOn(page: Raster, code: Code, { places }: Slip): Tick[] {
  const upright = turned(page, code);
  if (!upright) return places.map(() => 'unclear');
  const { level, perMm, x0, y0 } = upright;
  return places.map((_, i) => {
    const box = [x0 + slipSheet.box.x, y0 + slipSheet.boxY(i)] as const;
    const found = frameNear(level, box[0], box[1]);
    return found ? tickIn(level, found, perMm) : 'unclear';
  });
}

/** Luma at a place in mm of the upright sheet; 255 outside. */
type Level = (x: number, y: number) => number;

/** The sheet with its code where it was printed, and by how much the code lies off that, mm. */
function turned(page: Raster, { box }: Code): { level: Level; perMm: number; x0: number; y0: number } | null {
  const { widthMm, heightMm, code } = slipSheet;
  const [cx, cy] = [(box.x + box.width / 2) / page.width, (box.y + box.height / 2) / page.height];
  const [wantedX, wantedY] = [(code.x + code.side / 2) / widthMm, (code.y + code.side / 2) / heightMm];
  const off = (x: number, y: number) => Math.hypot(x - wantedX, ((y - wantedY) * heightMm) / widthMm);
  const [here, over] = [off(cx, cy), off(1 - cx, 1 - cy)];
  if (page.width > page.height || Math.min(here, over) > mostOff) return null;
  const half = over < here;
  const [kx, ky] = [page.width / widthMm, page.height / heightMm];
  const green = page.channels > 1 ? 1 : 0;
  const level: Level = (x, y) => {
    let [px, py] = [Math.round(x * kx), Math.round(y * ky)];
    if (px < 0 || py < 0 || px >= page.width || py >= page.height) return 255;
    if (half) [px, py] = [page.width - 1 - px, page.height - 1 - py];
    return page.data[(py * page.width + px) * page.channels + green]!;
  };
  const [x, y] = half ? [1 - cx, 1 - cy] : [cx, cy];
  return { level, perMm: (kx + ky) / 2, x0: (x - wantedX) * widthMm, y0: (y - wantedY) * heightMm };
}

/** Where near a place a box's frame lies: dark all round, and lighter just outside. */
function frameNear(level: Level, x: number, y: number): readonly [number, number] | null {
  let best: readonly [number, number] | null = null;
  let most = leastFrame;
  for (let dy = -reachMm; dy <= reachMm; dy += stepMm)
    for (let dx = -reachMm; dx <= reachMm; dx += stepMm) {
      const contrast = round(level, x + dx, y + dy, -1) - round(level, x + dx, y + dy, 0);
      if (contrast > most) [most, best] = [contrast, [x + dx, y + dy]];
    }
  return best;
}

/** The mean along a square as far within a box's frame (outside it, where negative), mm; of its four sides the lightest. */
function round(level: Level, x: number, y: number, within: number): number {
  const side = slipSheet.box.side - 2 * within;
  const sums = [0, 0, 0, 0];
  const n = 24;
  for (let i = 0; i < n; i++) {
    const at = ((i + 0.5) / n) * side;
    sums[0]! += level(x + within + at, y + within);
    sums[1]! += level(x + within + at, y + within + side);
    sums[2]! += level(x + within, y + within + at);
    sums[3]! += level(x + within + side, y + within + at);
  }
  return (within < 0 ? Math.min(...sums) : Math.max(...sums)) / n;
}

function tickIn(level: Level, [x, y]: readonly [number, number], perMm: number): Tick {
  const paper = round(level, x, y, -1);
  const side = slipSheet.box.side - 2 * frameMm;
  const n = Math.max(20, Math.round(side * perMm));
  let ink = 0;
  for (let j = 0; j < n; j++)
    for (let i = 0; i < n; i++)
      ink += Number(level(x + frameMm + ((i + 0.5) / n) * side, y + frameMm + ((j + 0.5) / n) * side) < inkBelow * paper);
  const share = ink / (n * n);
  if (share <= mostDust) return 'empty';
  return share >= leastTick && share <= mostTick ? 'ticked' : 'unclear';
}
