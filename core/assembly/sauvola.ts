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
  // Neighbouring lanes of the two, which is one instruction.
  const pairs = i32x4.add(v, v128.shuffle<u32>(i32x4.splat(0), v, 3, 4, 5, 6));
  return i32x4.add(pairs, v128.shuffle<u32>(i32x4.splat(0), pairs, 2, 3, 4, 5));
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

// Whether the threshold is kept within limits, and whether sums of squares need 32 bits, are types, so that each kind is compiled for itself.
type Limited = u16;
type Wide = u64;
type Plain = u8;

@inline
function floats<W>(v: v128): v128 {
  // Signed ones come at a fifth of the cost.
  return sizeof<W>() == 8 ? f32x4.convert_i32x4_u(v) : f32x4.convert_i32x4_s(v);
}

/**
 * v ≤ T of Sauvola without root and division: with S and Q the window's sums over n pixels and A = n²·v − n·(1 − k)·S, v ≤ T where A·|A| ≤ (k / R)²·S²·(n·Q − S²). In
 * single precision, as the twin.
 */
@inline
function isInk<L>(v: v128, s: v128, q: v128, n: v128, nn: v128, less: v128, weight: v128, least: v128, most: v128): v128 {
  const a = f32x4.sub(f32x4.mul(nn, v), f32x4.mul(less, s));
  const ss = f32x4.mul(s, s);
  const spread = f32x4.sub(f32x4.mul(n, q), ss);
  const under = f32x4.le(f32x4.mul(a, f32x4.abs(a)), f32x4.mul(f32x4.mul(ss, weight), spread));
  if (sizeof<L>() != 2) return under;
  return v128.or(f32x4.le(v, least), v128.and(under, f32x4.le(v, most)));
}

/**
 * One row of Sauvola's threshold from the columns' sums over `rows` rows; `scratch` has room for twice width + 1 u32 and 64 bytes. `less` is 1 − k, `weight` (k / R)².
 */
export function sauvolaRow(
  from: usize, sums: usize, squares: usize, scratch: usize, to: usize, width: i32, rows: i32, radius: i32, less: f32, weight: f32, least: f32, most: f32,
): void {
  prefixes(sums, squares, scratch, scratch + 4 * width + 32, width);
  if (least > 0 || most < 255 || radius > 90) thresholdRow<Limited, Wide>(from, scratch, to, width, rows, radius, less, weight, least, most);
  else thresholdRow<Plain, Plain>(from, scratch, to, width, rows, radius, less, weight, least, most);
}

function thresholdRow<L, W>(from: usize, ps: usize, to: usize, width: i32, rows: i32, radius: i32, less: f32, weight: f32, least: f32, most: f32): void {
  const pq = ps + 4 * width + 32;
  const inside = <f32>(rows * (2 * radius + 1));
  const n = f32x4.splat(inside);
  const nn = f32x4.splat(inside * inside);
  const vl = f32x4.splat(inside * less);
  const vw = f32x4.splat(weight);
  const low = f32x4.splat(least);
  const high = f32x4.splat(most);
  const reach = 4 * (2 * radius + 1);
  let x = 0;
  while (x < width) {
    if (x >= radius && x + 15 + radius < width) {
      const grey = v128.load(from + x);
      const g0 = i16x8.extend_low_i8x16_u(grey);
      const g1 = i16x8.extend_high_i8x16_u(grey);
      const p = ps + 4 * (x - radius);
      const q = pq + 4 * (x - radius);
      const a = isInk<L>(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(g0)), sum(p, reach), floats<W>(i32x4.sub(v128.load(q + reach), v128.load(q))), n, nn, vl, vw, low, high);
      const b = isInk<L>(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(g0)), sum(p + 16, reach), floats<W>(i32x4.sub(v128.load(q + reach, 16), v128.load(q, 16))), n, nn, vl, vw, low, high);
      const c = isInk<L>(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(g1)), sum(p + 32, reach), floats<W>(i32x4.sub(v128.load(q + reach, 32), v128.load(q, 32))), n, nn, vl, vw, low, high);
      const d = isInk<L>(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(g1)), sum(p + 48, reach), floats<W>(i32x4.sub(v128.load(q + reach, 48), v128.load(q, 48))), n, nn, vl, vw, low, high);
      v128.store(to + x, v128.not(i8x16.narrow_i16x8_s(i16x8.narrow_i32x4_s(a, b), i16x8.narrow_i32x4_s(c, d))));
      x += 16;
      continue;
    }
    const a = 4 * max(0, x - radius);
    const b = 4 * min(width, x + radius + 1);
    const s = f32x4.splat(<f32>(load<u32>(ps + b) - load<u32>(ps + a)));
    const q = f32x4.splat(<f32>(load<u32>(pq + b) - load<u32>(pq + a)));
    const own = <f32>(rows * ((b - a) >> 2));
    const ink = isInk<L>(f32x4.splat(<f32>load<u8>(from + x)), s, q, f32x4.splat(own), f32x4.splat(own * own), f32x4.splat(own * less), vw, low, high);
    store<u8>(to + x, i32x4.extract_lane(ink, 0) ? 0 : 255);
    x++;
  }
}

/** Window sums of four neighbours from prefix sums `reach` bytes apart; they fit 31 bits. */
@inline
function sum(p: usize, reach: i32): v128 {
  return f32x4.convert_i32x4_s(i32x4.sub(v128.load(p + reach), v128.load(p)));
}
