/** One row of Sobel derivatives (per pixel) and their length from the three rows of floats about it; the first and last pixel are left. */
export function sobelRow(above: usize, here: usize, below: usize, gx: usize, gy: usize, length: usize, width: i32): void {
  const two = f32x4.splat(2);
  const eighth = f32x4.splat(0.125);
  for (let x = 1; x < width - 1; x += 4) {
    const p = 4 * x;
    const nw = v128.load(above + p - 4);
    const n = v128.load(above + p);
    const ne = v128.load(above + p + 4);
    const w = v128.load(here + p - 4);
    const e = v128.load(here + p + 4);
    const sw = v128.load(below + p - 4);
    const s = v128.load(below + p);
    const se = v128.load(below + p + 4);
    const right = f32x4.add(f32x4.add(ne, se), f32x4.mul(e, two));
    const left = f32x4.add(f32x4.add(nw, sw), f32x4.mul(w, two));
    const down = f32x4.add(f32x4.add(sw, se), f32x4.mul(s, two));
    const up = f32x4.add(f32x4.add(nw, ne), f32x4.mul(n, two));
    const dx = f32x4.mul(f32x4.sub(right, left), eighth);
    const dy = f32x4.mul(f32x4.sub(down, up), eighth);
    v128.store(gx + p, dx);
    v128.store(gy + p, dy);
    v128.store(length + p, f32x4.sqrt(f32x4.add(f32x4.mul(dx, dx), f32x4.mul(dy, dy))));
  }
}
