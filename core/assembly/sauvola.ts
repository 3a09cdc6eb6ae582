import { greys } from './pixels';

/** Columns' sums and sums of squares (u32): one row of grey comes in, another one goes. */
export function slideColumns(enter: usize, leave: usize, sums: usize, squares: usize, width: i32): void {
  for (let x = 0; x < width; x += 8) {
    const a = i16x8.extend_low_i8x16_u(v128.load64_zero(enter + x));
    const b = i16x8.extend_low_i8x16_u(v128.load64_zero(leave + x));
    const d = i16x8.sub(a, b);
    const s = sums + 4 * x;
    const t = squares + 4 * x;
    v128.store(s, i32x4.add(v128.load(s), i32x4.extend_low_i16x8_s(d)));
    v128.store(s, i32x4.add(v128.load(s, 16), i32x4.extend_high_i16x8_s(d)), 16);
    // a² − b² = (a + b)(a − b)
    const e = i16x8.add(a, b);
    v128.store(t, i32x4.add(v128.load(t), i32x4.extmul_low_i16x8_s(d, e)));
    v128.store(t, i32x4.add(v128.load(t, 16), i32x4.extmul_high_i16x8_s(d, e)), 16);
  }
}

@inline
function within(v: v128): v128 {
  const pairs = i32x4.add(v, v128.shuffle<u32>(i32x4.splat(0), v, 0, 4, 5, 6));
  return i32x4.add(pairs, v128.shuffle<u32>(i32x4.splat(0), pairs, 0, 0, 4, 5));
}

/** Prefix sums of two rows of u32 at once: out[0] = 0, out[i + 1] = out[i] + in[i], modulo 2³². What is behind a row's end comes out behind its sums. */
function prefixes(a: usize, b: usize, sumsOfA: usize, sumsOfB: usize, width: i32): void {
  let carryA = i32x4.splat(0);
  let carryB = i32x4.splat(0);
  store<u32>(sumsOfA, 0);
  store<u32>(sumsOfB, 0);
  for (let p = 0; p < 4 * width; p += 16) {
    const u = i32x4.add(within(v128.load(a + p)), carryA);
    const v = i32x4.add(within(v128.load(b + p)), carryB);
    v128.store(sumsOfA + p, u, 4);
    v128.store(sumsOfB + p, v, 4);
    carryA = v128.shuffle<u32>(u, u, 3, 3, 3, 3);
    carryB = v128.shuffle<u32>(v, v, 3, 3, 3, 3);
  }
}

/**
 * v ≤ T of Sauvola without root and division: with S and Q the window's sums over n pixels and A = n·v − (1 − k)·S, v ≤ T where A ≤ 0 or
 * A²·n² ≤ (k / R)²·S²·(n·Q − S²). In single precision, as the twin.
 */
@inline
function isInk(v: v128, s: v128, q: v128, n: v128, less: v128, weight: v128, least: v128, most: v128): v128 {
  const a = f32x4.sub(f32x4.mul(n, v), f32x4.mul(less, s));
  const spread = f32x4.sub(f32x4.mul(n, q), f32x4.mul(s, s));
  const an = f32x4.mul(a, n);
  const sw = f32x4.mul(s, weight);
  const under = v128.or(f32x4.le(a, f32x4.splat(0)), f32x4.le(f32x4.mul(an, an), f32x4.mul(f32x4.mul(sw, sw), spread)));
  return v128.or(f32x4.le(v, least), v128.and(under, f32x4.le(v, most)));
}

/** One row of Sauvola's threshold from the columns' sums over `rows` rows; `scratch` has room for twice width + 1 u32 and 64 bytes. */
export function sauvolaRow(
  from: usize, sums: usize, squares: usize, scratch: usize, to: usize, width: i32, rows: i32, radius: i32, less: f32, weight: f32, least: f32, most: f32,
): void {
  const ps = scratch;
  const pq = scratch + 4 * width + 32;
  prefixes(sums, squares, ps, pq, width);
  const vl = f32x4.splat(less);
  const vw = f32x4.splat(weight);
  const low = f32x4.splat(least);
  const high = f32x4.splat(most);
  const inside = f32x4.splat(<f32>(rows * (2 * radius + 1)));
  let x = 0;
  while (x < width) {
    if (x >= radius && x + 3 + radius < width) {
      const a = 4 * (x - radius);
      const b = 4 * (x + radius + 1);
      const s = f32x4.convert_i32x4_u(i32x4.sub(v128.load(ps + b), v128.load(ps + a)));
      const q = f32x4.convert_i32x4_u(i32x4.sub(v128.load(pq + b), v128.load(pq + a)));
      const ink = isInk(greys(from + x), s, q, inside, vl, vw, low, high);
      const words = i16x8.narrow_i32x4_s(ink, ink);
      v128.store32_lane(to + x, v128.not(i8x16.narrow_i16x8_s(words, words)), 0);
      x += 4;
      continue;
    }
    const a = 4 * max(0, x - radius);
    const b = 4 * min(width, x + radius + 1);
    const s = f32x4.splat(<f32>(load<u32>(ps + b) - load<u32>(ps + a)));
    const q = f32x4.splat(<f32>(load<u32>(pq + b) - load<u32>(pq + a)));
    const n = f32x4.splat(<f32>(rows * ((b - a) >> 2)));
    const ink = isInk(f32x4.splat(<f32>load<u8>(from + x)), s, q, n, vl, vw, low, high);
    store<u8>(to + x, i32x4.extract_lane(ink, 0) ? 0 : 255);
    x++;
  }
}
