import { homography, project } from '@libretto/core/rectify/homography';
import type { Point, Raster } from '@libretto/core';
import type { LaidSheet, TruePage } from '@libretto/demo/scene/scene';
import { colourKinds, colourPaper } from './colourPapers';
import { below, inventedDesk, noPage, paleDesk } from './desks';
import { families as grounds, groundPicture } from './grounds';
import { inventedPaper } from './paper';
import type { Roll } from './roll';

/** Ways to lie in which a page's outline is hard to tell. */
export const hardKinds = ['pile', 'white', 'sleeve', 'far', 'ground', 'low', 'colour'] as const;
export type HardKind = (typeof hardKinds)[number];

export interface HardScene {
  sheets: LaidSheet[];
  /** The camera's distance as a multiple of the page's longer side, and its tilt in degrees. */
  distance: [number, number];
  tilt: [number, number];
  /** Paints over the photograph what lies on the page. */
  over?: (photo: Raster, page: TruePage) => void;
}

const flat = { kind: 'flat' } as const;
const sizes: readonly [number, number][] = [[210, 297], [210, 297], [215.9, 279.4], [148, 210], [297, 210]]; // prettier-ignore

export async function hardScene(kind: HardKind, roll: Roll): Promise<HardScene> {
  const [widthMm, heightMm] = sizes[Math.floor(roll(0, sizes.length - 1e-6))]!;
  const sheet = (more: Partial<LaidSheet> = {}): LaidSheet => ({ id: kind, picture: inventedPaper(widthMm, heightMm, roll), widthMm, heightMm, xMm: roll(-12, 12), yMm: roll(-12, 12), angle: roll(-180, 180), bend: flat, shadow: roll(0.12, 0.4), ...more }); // prettier-ignore
  const desk = () => below(inventedDesk(roll), roll(-180, 180));
  const near: Pick<HardScene, 'distance' | 'tilt'> = { distance: [1.05, 1.9], tilt: [0, 32] };
  switch (kind) {
    case 'pile': {
      // Sheets of one size, none of them quite on the others.
      const page = sheet();
      const under = Array.from({ length: Math.floor(roll(2, 8.99)) }, () =>
        sheet({ id: noPage, xMm: page.xMm + roll(-9, 9), yMm: page.yMm + roll(-9, 9), angle: page.angle + roll(-5, 5) }),
      );
      return { sheets: [desk(), ...under, page], ...near };
    }
    case 'white':
      return { sheets: [below(paleDesk(roll), roll(-180, 180)), sheet({ shadow: roll(0.03, 0.16) })], ...near };
    case 'sleeve': {
      const look = sleeve(roll);
      return { sheets: [desk(), sheet()], ...near, over: look };
    }
    case 'far':
      return { sheets: [below(await groundPicture(pick(roll, grounds), roll), roll(-25, 25)), sheet({ xMm: roll(-120, 120), yMm: roll(60, 260) })], distance: [2.2, 3.6], tilt: [10, 45] }; // prettier-ignore
    case 'ground':
      return { sheets: [below(await groundPicture(pick(roll, grounds), roll), roll(-180, 180)), sheet()], ...near };
    case 'low':
      return { sheets: [desk(), sheet()], distance: [1.2, 2], tilt: [38, 58] };
    case 'colour': {
      const paper = await colourPaper(pick(roll, colourKinds.slice(0, 9)), roll);
      return { sheets: [desk(), sheet(paper)], ...near };
    }
  }
}

const pick = <T>(roll: Roll, list: readonly T[]): T => list[Math.floor(roll(0, list.length - 1e-6))]!;

/** A clear sleeve round the page: a little larger, its edges and welds caught by the light, a strip with holes, a veil and streaks of glare. */
function sleeve(roll: Roll) {
  const [side, top, strip] = [roll(3, 9), roll(2, 12), roll(8, 16)];
  const [veil, edge, dark] = [roll(0.02, 0.1), roll(0.08, 0.4), roll(0, 1) < 0.4];
  const streaks = Array.from({ length: Math.floor(roll(0, 3.99)) }, () => ({ at: roll(-0.2, 1.2), lean: roll(-0.5, 0.5), wide: roll(0.01, 0.07), bright: roll(0.15, 0.8) })); // prettier-ignore
  return (photo: Raster, { quad, size_mm: [w, h] }: TruePage): void => {
    const toMm = homography([...quad], [[0, 0], [w, 0], [w, h], [0, h]]); // prettier-ignore
    const pxPerMm = Math.hypot(quad[1]![0] - quad[0]![0], quad[1]![1] - quad[0]![1]) / w;
    const line = Math.max(0.5, 1 / pxPerMm);
    const [x0, x1, y0, y1] = [-side - strip, w + side, -top, h + side];
    for (let y = 0, p = 0; y < photo.height; y++)
      for (let x = 0; x < photo.width; x++, p += 3) {
        const [u, v] = project(toMm, [x, y]) as Point;
        const inside = Math.min(u - x0, x1 - u, v - y0, y1 - v);
        if (inside < -line) continue;
        const weld = Math.min(Math.abs(inside), Math.abs(u + side));
        const hole = u < -side - 2 && Math.hypot(u + side + strip / 2, ((v + 400) % 80) - 40) < 2.8;
        let gain = inside > 0 && !hole ? veil : 0;
        if (inside > 0) for (const s of streaks) gain += s.bright * Math.exp(-(((u / w + (v / h) * s.lean - s.at) / s.wide) ** 2)) * 0.6; // prettier-ignore
        const rim = weld < line ? edge * (1 - weld / line) : 0;
        for (let c = 0; c < 3; c++) {
          const value = photo.data[p + c]!;
          photo.data[p + c] = value + (255 - value) * Math.min(1, gain) + (dark ? -value : 255 - value) * rim;
        }
      }
  };
}
