import type { pinhole } from './pinhole';

/** A row of the picture being made: what each of its rays meets, from the top sheet down to the desk. */
export class Row {
  /** Where rays start, mm; how the first one goes, and what each next one goes further. */
  eye: readonly [number, number, number] = [0, 0, 0];
  readonly first = new Float64Array(3);
  readonly further = new Float64Array(3);
  /** Where each would meet the desk, mm. */
  readonly x: Float64Array;
  readonly y: Float64Array;
  /** 1 where it has met something. */
  readonly met: Uint8Array;
  /** What that reflects, linear. */
  readonly r: Float64Array;
  readonly g: Float64Array;
  readonly b: Float64Array;
  /** The light there, and what shadows leave of it, 0..1. */
  readonly level: Float64Array;
  readonly shade: Float64Array;

  constructor(readonly width: number) {
    const numbers = () => new Float64Array(width);
    [this.x, this.y, this.r, this.g] = [numbers(), numbers(), numbers(), numbers()];
    [this.b, this.level, this.shade] = [numbers(), numbers(), numbers()];
    this.met = new Uint8Array(width);
  }

  begin(y: number, camera: ReturnType<typeof pinhole>, light: Float32Array): void {
    const { first, further, x: dx, y: dy, width } = this;
    camera.ray(0, 0, first);
    camera.ray(1, 0, further);
    for (let i = 0; i < 3; i++) further[i]! -= first[i]!;
    camera.ray(0, y, first);
    const [x0, y0, z0] = [first[0]!, first[1]!, first[2]!];
    const [ux, uy, uz] = [further[0]!, further[1]!, further[2]!];
    const [ex, ey, ez] = (this.eye = camera.eye);
    for (let x = 0; x < width; x++) {
      const t = -ez / (z0 + uz * x);
      dx[x] = ex + (x0 + ux * x) * t;
      dy[x] = ey + (y0 + uy * x) * t;
    }
    this.level.set(light);
    this.shade.fill(1);
    this.met.fill(0);
  }
}
