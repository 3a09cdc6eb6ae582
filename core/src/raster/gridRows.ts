import type { Plane } from './raster';

/**
 * A coarse plane read at full size, a row at a time, bilinear: what is smooth (light, thresholds, masks) is worked out on a small grid and
 * never stored in full.
 */
export class GridRows {
  private readonly out: Float32Array;
  private readonly down: Float32Array;
  /** For each column: the grid's column on its left, and how far it lies beyond. */
  readonly left: Int32Array;
  readonly share: Float32Array;

  /** Where the first pixel lies in the whole picture, and how large that is, px. */
  readonly from: readonly [x: number, y: number];
  readonly whole: { width: number; height: number };

  /** @param width of the picture that is read, px, or of the part of it that the grid says; it may have been enlarged since. */
  constructor(
    readonly grid: Plane,
    width: number,
    height: number,
  ) {
    const { part } = grid;
    const [fx, fy] = part ? [width / part.width, height / part.height] : [1, 1];
    this.from = part ? [part.x * fx, part.y * fy] : [0, 0];
    this.whole = part ? { width: part.of.width * fx, height: part.of.height * fy } : { width, height };
    this.out = new Float32Array(width);
    this.down = new Float32Array(grid.width + 1);
    this.left = new Int32Array(width);
    this.share = new Float32Array(width);
    for (let x = 0; x < width; x++) {
      const g = Math.max(0, Math.min(grid.width - 1, ((this.from[0] + x + 0.5) * grid.width) / this.whole.width - 0.5));
      this.left[x] = g | 0;
      this.share[x] = g - this.left[x];
    }
  }

  /** The grid's rows between which row y lies, and how far it lies beyond the first. */
  between(y: number): { row: number; next: number; share: number } {
    const { grid, from, whole } = this;
    const g = Math.max(0, Math.min(grid.height - 1, ((from[1] + y + 0.5) * grid.height) / whole.height - 0.5));
    const row = g | 0;
    return { row, next: Math.min(grid.height - 1, row + 1), share: g - row };
  }

  /** The grid's own columns at row y, the last one twice. The array is used again for the next row. */
  line(y: number): Float32Array {
    const { down } = this;
    const { width, data } = this.grid;
    const { row, next, share } = this.between(y);
    for (let i = 0; i < width; i++) down[i] = data[row * width + i] + (data[next * width + i] - data[row * width + i]) * share;
    down[width] = down[width - 1];
    return down;
  }

  /** Row y, 0 … height − 1, or only its columns `from` to before `to`. The array is used again for the next row. */
  row(y: number, from = 0, to = this.out.length): Float32Array {
    const { left, share, out } = this;
    const line = this.line(y);
    for (let x = from; x < to; x++) {
      const i = left[x];
      out[x] = line[i] + (line[i + 1] - line[i]) * share[x];
    }
    return out;
  }
}
