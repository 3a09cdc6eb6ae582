import { cross } from './lines';
import { positionOn, stepPx, type LineSupport } from './support';

/** One side of a candidate: the line it lies on, between two of its sample positions. */
export interface Side {
  line: number;
  from: number;
  to: number;
  /** Class of the support (channel · 2 + sign along the line's normal) that sees this side best. */
  group: number;
  /** 0..1 over the part in the picture. */
  support: number;
  /** 0..1, the weakest third. */
  weakest: number;
  /** Share of the side that lies in the picture. */
  seen: number;
  lengthPx: number;
}

/** Support that a side along the picture's own border is taken to have. */
const frameSupport = 0.35;

/** Where all lines cross: position i·n + j holds the point, and `on` its sample position on line i; NaN where they do not meet nearby. */
export interface Crossings {
  xs: Float32Array;
  ys: Float32Array;
  on: Float32Array;
}

export function crossAll(supports: readonly LineSupport[], width: number, height: number, margin: number): Crossings {
  const n = supports.length;
  const xs = new Float32Array(n * n).fill(NaN);
  const ys = new Float32Array(n * n).fill(NaN);
  const on = new Float32Array(n * n).fill(NaN);
  for (let i = 0; i < n; i++) {
    for (let j = 0; j < n; j++) {
      const p = i === j ? null : cross(supports[i].line, supports[j].line);
      if (!p || p[0] < -margin || p[1] < -margin || p[0] > width - 1 + margin || p[1] > height - 1 + margin) continue;
      xs[i * n + j] = p[0];
      ys[i * n + j] = p[1];
      on[i * n + j] = positionOn(supports[i], p[0], p[1]);
    }
  }
  return { xs, ys, on };
}

/** What is known of sides, by number; kept from one picture to the next, since they are millions of bytes. */
class SideTable {
  readonly support: Float32Array;
  readonly weakest: Float32Array;
  readonly group: Uint8Array;
  readonly seen: Float32Array;

  constructor(readonly size: number) {
    this.support = new Float32Array(size);
    this.weakest = new Float32Array(size);
    this.group = new Uint8Array(size);
    this.seen = new Float32Array(size);
  }
}

let table = new SideTable(0);

/** Sides, each worked out once: line `line` between its crossings with `u` and `v`. One at a time: they share a table. */
export class SideMemo {
  readonly support: Float32Array;
  private readonly weakest: Float32Array;
  private readonly group: Uint8Array;
  private readonly seen: Float32Array;
  private readonly n: number;

  constructor(
    private readonly supports: readonly LineSupport[],
    private readonly crossings: Crossings,
    private readonly shortestPx: number,
  ) {
    this.n = supports.length;
    const size = this.n ** 3;
    if (size > table.size) table = new SideTable(size);
    ({ support: this.support, weakest: this.weakest, group: this.group, seen: this.seen } = table);
    this.support.fill(NaN, 0, size);
  }

  /** All lines between the same two lie beside each other: they are asked for one after the other. */
  index(line: number, u: number, v: number): number {
    return u < v ? (u * this.n + v) * this.n + line : (v * this.n + u) * this.n + line;
  }

  /** Whether the side is long enough, enough in the picture and seen at all. */
  look(line: number, u: number, v: number): boolean {
    const i = this.index(line, u, v);
    if (this.support[i] !== this.support[i]) this.measure(i, line, u, v);
    return this.support[i] > 0;
  }

  /** Support of the side at an index, half of it that of its weakest third. */
  evenness(i: number): number {
    return 0.5 * this.support[i] + 0.5 * this.weakest[i];
  }

  side(line: number, u: number, v: number): Side {
    const { on, xs, ys } = this.crossings;
    const i = this.index(line, u, v);
    const p = line * this.n + u;
    const q = line * this.n + v;
    const lengthPx = Math.hypot(xs[p] - xs[q], ys[p] - ys[q]);
    return {
      line,
      from: on[p],
      to: on[q],
      group: this.group[i],
      support: this.support[i],
      weakest: this.weakest[i],
      seen: this.seen[i],
      lengthPx,
    };
  }

  private measure(i: number, line: number, u: number, v: number): void {
    const { sums, count, line: measured } = this.supports[line];
    const from = this.crossings.on[line * this.n + u];
    const to = this.crossings.on[line * this.n + v];
    this.support[i] = 0;
    const start = Math.min(from, to);
    const length = Math.abs(to - from);
    if (!(length * stepPx >= this.shortestPx)) return;
    const a = within(start, count);
    const b = within(start + length, count);
    this.seen[i] = Math.min(1, (b - a) / length);
    if (this.seen[i] < 0.3) return;
    if (measured.frame) {
      this.support[i] = this.weakest[i] = frameSupport;
      return;
    }
    let best = 0;
    for (let group = 0; group < sums.length; group++) {
      const mean = (sums[group][b] - sums[group][a]) / (b - a);
      if (mean > best) {
        best = mean;
        this.group[i] = group;
      }
    }
    if (best < 0.2) return;
    this.support[i] = best;
    const third = length / 3;
    const own = sums[this.group[i]];
    let weakest = 1;
    for (let k = 0; k < 3; k++) {
      const p = within(start + third * k, count);
      const q = within(start + third * (k + 1), count);
      if (q - p > 0.2 * third) weakest = Math.min(weakest, (own[q] - own[p]) / (q - p));
    }
    this.weakest[i] = weakest;
  }
}

/** The sample of a line of so many that is nearest to a position. */
function within(position: number, count: number): number {
  return position <= 0 ? 0 : position >= count ? count : Math.round(position);
}
