import { createRaster, wholeQuad, type Point, type Raster } from '../raster/raster';
import type { FlatPage } from '../recipe/render';
import { pageMap } from '../rectify/pageMap';

/** Small seeded random numbers, 0..1, so that a failing test fails again. */
export function random(seed: number): () => number {
  let s = seed >>> 0;
  return () => {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0;
    return s / 4294967296;
  };
}

export function noisePicture(width: number, height: number, channels: 1 | 3 | 4, seed = 1): Raster {
  const next = random(seed);
  const picture = createRaster(width, height, channels);
  for (let i = 0; i < picture.data.length; i++) picture.data[i] = next() * 256;
  return picture;
}

export type Colour = readonly [number, number, number];
export type Rect = readonly [x0: number, y0: number, x1: number, y1: number];

/** A desk with one convex page on it, lines of "print", and a little noise. */
export function pagePhoto(
  width: number,
  height: number,
  quad: readonly Point[] | null,
  {
    desk = [92, 70, 52],
    paper = [236, 234, 228],
    noise = 3,
    seed = 7,
  }: { desk?: Colour; paper?: Colour; noise?: number; seed?: number } = {},
): Raster {
  const next = random(seed);
  const photo = createRaster(width, height, 3);
  const { data } = photo;
  // Signed distance to each side's line, inside positive.
  const lines = quad?.map((a, i) => {
    const b = quad[(i + 1) % 4];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    return [-(b[1] - a[1]) / length, (b[0] - a[0]) / length, ((b[1] - a[1]) * a[0] - (b[0] - a[0]) * a[1]) / length];
  });
  for (let y = 0, p = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let distance = lines ? 1e9 : -1;
      for (const line of lines ?? []) {
        const d = line[0] * x + line[1] * y + line[2];
        if (d < distance) distance = d;
      }
      const cover = distance < -0.5 ? 0 : distance > 0.5 ? 1 : distance + 0.5;
      const print = distance > 0.05 * width && y % 16 < 4 && (x * 7) % 31 < 21 ? 0.25 : 1;
      for (let k = 0; k < 3; k++)
        data[p++] = desk[k] * (1 - cover) + paper[k] * print * cover + (next() + next() - 1) * 2 * noise;
    }
  }
  return photo;
}

/** A flat page with lines of "print" between its margins, a little noise, and what is painted over it. */
export function printedSheet(
  width: number,
  height: number,
  paint: (x: number, y: number) => Colour | null = () => null,
  { noise = 4, seed = 4 }: { noise?: number; seed?: number } = {},
): Raster {
  const next = random(seed);
  const page = createRaster(width, height, 3);
  const pitch = Math.round(height / 34);
  const within = (v: number, size: number) => v > 0.12 * size && v < 0.88 * size;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const print = within(x, width) && within(y, height) && y % pitch < 0.25 * pitch && (x * 13) % 29 < 15;
      const colour = paint(x, y) ?? (print ? ([42, 42, 46] as const) : ([229, 227, 222] as const));
      page.data.set(colour.map((v) => v + (next() - 0.5) * noise), (y * width + x) * 3); // prettier-ignore
    }
  return page;
}

/** Upright rectangles on a desk, each over those before it, with a little noise. */
export function rectangles(
  width: number,
  height: number,
  desk: Colour,
  rects: readonly (readonly [Rect, Colour])[],
  noise = 4,
): Raster {
  const next = random(12);
  const picture = createRaster(width, height, 3);
  for (let y = 0, p = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const on = rects.filter(([[x0, y0, x1, y1]]) => x >= x0 && x < x1 && y >= y0 && y < y1);
      const colour = on.length ? on[on.length - 1][1] : desk;
      for (let c = 0; c < 3; c++) picture.data[p++] = colour[c] + (next() - 0.5) * noise;
    }
  return picture;
}

/** A page as if it had been flattened: it is its own photo. */
export const flatPage = (page: Omit<FlatPage, 'map'>): FlatPage => ({
  ...page,
  map: pageMap({ quad: wholeQuad(page.image), turn: 0, widthMm: page.widthMm, heightMm: page.heightMm }),
});
