import { zeros } from './pixels';

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

@inline
function choose(mask: v128, yes: v128, no: v128): v128 {
  return v128.bitselect(yes, no, mask);
}

/**
 * Pixels of a row, from `from` to before `end`, that may be edge points: magnitude at least `floor`, no less than one of the two pixels between which the gradient points, and more than one of
 * the two behind. Their places in the row go to `found` (i32).
 *
 * @returns how many there are.
 */
export function peaksRow(above: usize, here: usize, below: usize, gx: usize, gy: usize, floor: f32, found: usize, from: i32, end: i32): i32 {
  const least = f32x4.splat(floor);
  let count = 0;
  for (let x = from; x < end; x += 4) {
    const p = 4 * x;
    const m = v128.load(here + p);
    const strong = f32x4.ge(m, least);
    if (!v128.any_true(strong)) continue;
    const dx = v128.load(gx + p);
    const dy = v128.load(gy + p);
    const flat = f32x4.gt(f32x4.abs(dx), f32x4.abs(dy));
    const left = f32x4.lt(dx, zeros);
    const up = f32x4.lt(dy, zeros);
    const n = v128.load(above + p);
    const s = v128.load(below + p);
    const w = v128.load(here + p - 4);
    const e = v128.load(here + p + 4);
    const nw = v128.load(above + p - 4);
    const ne = v128.load(above + p + 4);
    const sw = v128.load(below + p - 4);
    const se = v128.load(below + p + 4);
    const ahead = choose(flat, choose(left, w, e), choose(up, n, s));
    const behind = choose(flat, choose(left, e, w), choose(up, s, n));
    const aheadToo = choose(up, choose(left, nw, ne), choose(left, sw, se));
    const behindToo = choose(up, choose(left, se, sw), choose(left, ne, nw));
    // Less than both neighbours on a side is less than anything between them.
    const top = v128.and(v128.or(f32x4.ge(m, ahead), f32x4.ge(m, aheadToo)), v128.or(f32x4.gt(m, behind), f32x4.gt(m, behindToo)));
    let bits = i32x4.bitmask(v128.and(strong, top));
    while (bits) {
      const at = x + ctz(bits);
      if (at < end) store<i32>(found + 4 * count++, at);
      bits &= bits - 1;
    }
  }
  return count;
}
