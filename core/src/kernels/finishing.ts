import type { GridRows } from '../raster/gridRows';
import { createRaster, type Plane, type Raster } from '../raster/raster';
import type { Simd } from './simd';

/** Rows of the page copied at a time. */
const bandRows = 32;

/** A coarse plane in linear memory, read a row at a time at the page's width: each of its own rows is stretched to that once, and a page's row lies between two of them. */
class SimdGridRows {
  static bytesFor = (width: number, grid: Plane) => 5 * roundUp(4 * width) + roundUp(4 * (grid.width + 1));

  private readonly left: number;
  private readonly share: number;
  private readonly line: number;
  /** Two of the grid's rows at full width, and which ones. */
  private readonly stretched: readonly [number, number];
  private readonly held: [number, number] = [-1, -1];

  constructor(
    private readonly simd: Simd,
    private readonly rows: GridRows,
    /** The row's floats. */
    readonly out: number,
    private readonly width: number,
  ) {
    const rowBytes = roundUp(4 * width);
    this.left = out + rowBytes;
    this.share = this.left + rowBytes;
    this.stretched = [this.share + rowBytes, this.share + 2 * rowBytes];
    this.line = this.share + 3 * rowBytes;
    simd.ints.set(rows.left, this.left / 4);
    // The kernel reads four at a time: what it finds behind the last must be an index.
    simd.ints.fill(0, this.left / 4 + width, this.share / 4);
    simd.floats.set(rows.share, this.share / 4);
  }

  read(y: number): number {
    const { row, next, share } = this.rows.between(y);
    this.simd.run.betweenRows(this.atFullWidth(row), this.atFullWidth(next), share, this.out, this.width);
    return this.out;
  }

  private atFullWidth(row: number): number {
    const slot = row % 2;
    const to = this.stretched[slot];
    if (this.held[slot] === row) return to;
    this.held[slot] = row;
    const { width, data } = this.rows.grid;
    const at = this.line / 4;
    this.simd.floats.set(data.subarray(row * width, (row + 1) * width), at);
    this.simd.floats[at + width] = data[(row + 1) * width - 1];
    this.simd.run.gridRow(this.line, this.left, this.share, to, this.width);
    return to;
  }
}

const roundUp = (bytes: number) => Math.ceil((bytes + 16) / 64) * 64;

/** Makes a page from another (and from its evened grey) row by row, with what coarse planes say about each place. */
function byRows(
  simd: Simd,
  sources: readonly Raster[],
  grids: readonly GridRows[],
  channels: 1 | 3,
  row: (from: readonly number[], grids: readonly number[], to: number) => void,
): Raster {
  const { width, height } = sources[0];
  const target = createRaster(width, height, channels);
  const sizes = [
    ...sources.map((source) => width * source.channels * bandRows),
    ...grids.map((grid) => SimdGridRows.bytesFor(width, grid.grid)),
    width * channels * bandRows,
  ];
  const at = simd.layout(...sizes);
  const to = at[at.length - 1];
  const readers = grids.map((grid, i) => new SimdGridRows(simd, grid, at[sources.length + i], width));
  for (let y0 = 0; y0 < height; y0 += bandRows) {
    const rows = Math.min(bandRows, height - y0);
    sources.forEach(({ data, channels: stride }, i) =>
      simd.bytes.set(data.subarray(y0 * width * stride, (y0 + rows) * width * stride), at[i]),
    );
    for (let j = 0; j < rows; j++)
      row(
        sources.map((source, i) => at[i] + j * width * source.channels),
        readers.map((reader) => reader.read(y0 + j)),
        to + j * width * channels,
      );
    target.data.set(simd.bytes.subarray(to, to + rows * width * channels), y0 * width * channels);
  }
  return target;
}

/** Luma of RGB or RGBA by `weights`, divided by the paper's: `level` where they are equal. */
export function evenBySimd(
  simd: Simd,
  page: Raster,
  paper: GridRows,
  [red, green, blue]: readonly [number, number, number],
  level: number,
  leastPaper: number,
): Raster {
  return byRows(simd, [page], [paper], 1, ([from], [light], to) =>
    simd.run.evenRow(from, page.channels, light, to, page.width, red, green, blue, level, leastPaper),
  );
}

/** The evened grey through the tone curve. */
export function greyBySimd(
  simd: Simd,
  even: Raster,
  threshold: GridRows,
  pictures: GridRows,
  clear: number,
  level: number,
): Raster {
  return byRows(simd, [even], [threshold, pictures], 1, ([from], [t, picture], to) =>
    simd.run.greyRow(from, t, picture, to, even.width, clear, level),
  );
}

/** RGB, each channel times its own gain, plus one offset for all. */
export function levelsBySimd(simd: Simd, page: Raster, [red, green, blue]: readonly number[], offset: number): Raster {
  return byRows(simd, [page], [], 3, ([from], _, to) => simd.run.levelsRow(from, to, page.width, red, green, blue, offset));
}

/** Black up to the threshold, white above. */
export function cutBySimd(simd: Simd, grey: Raster, threshold: GridRows): Raster {
  return byRows(simd, [grey], [threshold], 1, ([from], [t], to) => simd.run.cutRow(from, t, to, grey.width));
}

export interface ColourTone {
  balance: readonly [number, number, number];
  level: number;
  leastPaper: number;
  clear: number;
  /** Spread of the channels from which colour is kept, and over how much more it is kept wholly. */
  keepFrom: number;
  keepSpan: number;
  keepAll: boolean;
  saturation: number;
  white: number;
}

/** The evened grey through the tone curve with the page's own colour (RGB or RGBA). */
export function colourBySimd(
  simd: Simd,
  page: Raster,
  even: Raster,
  paper: GridRows,
  threshold: GridRows,
  pictures: GridRows,
  { balance, level, leastPaper, clear, keepFrom, keepSpan, keepAll, saturation, white }: ColourTone,
): Raster {
  return byRows(simd, [page, even], [paper, threshold, pictures], 3, ([from, grey], [light, t, picture], to) =>
    simd.run.colourRow(
      from, page.channels, grey, light, t, picture, to, page.width,
      ...balance, level, leastPaper, clear, keepFrom, keepSpan, Number(keepAll), saturation, white,
    ),
  ); // prettier-ignore
}
