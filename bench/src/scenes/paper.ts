import { createRaster, type Raster } from '@libretto/core';
import type { Roll } from './roll';

/** A sheet that nobody wrote: paper, perhaps a band along an edge, rules, lines of strokes, a picture; `bare`: nothing but the paper. 4 px a mm. */
export function inventedPaper(widthMm: number, heightMm: number, roll: Roll, bare = false): Raster {
  const [width, height] = [Math.round(widthMm * 4), Math.round(heightMm * 4)];
  const page = createRaster(width, height, 3);
  const dark = roll(0, 1) < (widthMm < 100 ? 0.35 : 0.06);
  const tint = () => [roll(0, 60), roll(0, 70), roll(10, 110)];
  const paper = dark ? tint() : [roll(232, 254), roll(228, 252), roll(190, 250)];
  const ink = dark ? [230, 225, 210] : [30, 30, 36];
  const box = (x0: number, y0: number, x1: number, y1: number, colour: readonly number[]) => {
    for (let y = Math.max(0, Math.round(y0)); y < Math.min(height, y1); y++)
      for (let x = Math.max(0, Math.round(x0)); x < Math.min(width, x1); x++)
        for (let c = 0; c < 3; c++) page.data[(y * width + x) * 3 + c] = colour[c]!;
  };
  box(0, 0, width, height, bare && roll(0, 1) < 0.25 ? [roll(60, 250), roll(60, 250), roll(60, 250)] : paper);
  if (bare) return page;
  const bright = [roll(20, 220), roll(20, 200), roll(20, 220)];
  const band = roll(0, 1);
  if (band < 0.25) box(0, 0, width, height * roll(0.05, 0.22), bright);
  else if (band < 0.33) box(0, height * roll(0.8, 0.94), width, height, bright);
  else if (band < 0.4) box(0, 0, width * roll(0.04, 0.2), height, bright);
  if (roll(0, 1) < 0.2) {
    const [top, bottom] = [height * roll(0, 0.3), height * roll(0.35, 0.7)];
    for (let y = Math.round(top); y < bottom; y += 6)
      for (let x = 0; x < width; x += 6) box(x, y, x + 6, y + 6, [roll(30, 200), roll(40, 190), roll(20, 160)]);
  }
  const margin = width * roll(0.06, 0.14);
  if (roll(0, 1) < 0.25) {
    const gap = roll(24, 40);
    for (let y = gap; y < height; y += gap) box(0, y, width, y + 1.5, [150, 170, 205]);
    box(margin, 0, margin + 2, height, [215, 120, 120]);
  }
  if (roll(0, 1) < 0.2) box(margin, height * 0.12, width - margin, height * 0.12 + 3, ink);
  const line = roll(14, 26);
  const from = height * roll(0.14, 0.4);
  const to = height * roll(0.5, 0.95);
  for (let y = from; y < to; y += line)
    for (let x = margin, end = width - margin - roll(0, 0.4) * width; x < end; x += roll(6, 14)) {
      const word = roll(10, 50);
      for (let k = x; k < Math.min(end, x + word); k += 7) box(k, y + roll(0, 3), k + roll(2, 5), y + line * 0.5, ink);
      x += word;
    }
  return page;
}
