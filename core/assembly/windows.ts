/** Of two runs of floats the greater ones (or the lesser, sign −1), four at a time. */
export function extremePairs(a: usize, b: usize, to: usize, count: i32, sign: i32): void {
  if (sign > 0) for (let i = 0; i < count; i += 4) v128.store(to + 4 * i, f32x4.pmax(v128.load(a + 4 * i), v128.load(b + 4 * i)));
  else for (let i = 0; i < count; i += 4) v128.store(to + 4 * i, f32x4.pmin(v128.load(a + 4 * i), v128.load(b + 4 * i)));
}

/** Sums of floats over 2·radius + 1 neighbours along a row, cut at its ends. */
export function runningSums(from: usize, to: usize, width: i32, radius: i32): void {
  let sum: f64 = 0;
  const start = min(radius, width);
  for (let x = 0; x < start; x++) sum += load<f32>(from + 4 * x);
  for (let x = 0; x < width; x++) {
    if (x + radius < width) sum += load<f32>(from + 4 * (x + radius));
    if (x - radius - 1 >= 0) sum -= load<f32>(from + 4 * (x - radius - 1));
    store<f32>(to + 4 * x, <f32>sum);
  }
}

/** Adds a row of floats to (sign 1), or takes it from (−1), sums in doubles: running sums of floats would drift. */
export function addFloats(from: usize, sums: usize, width: i32, sign: f64): void {
  const s = f64x2.splat(sign);
  for (let x = 0; x < width; x += 4) {
    const v = v128.load(from + 4 * x);
    const p = sums + 8 * x;
    v128.store(p, f64x2.add(v128.load(p), f64x2.mul(f64x2.promote_low_f32x4(v), s)));
    v128.store(p, f64x2.add(v128.load(p, 16), f64x2.mul(f64x2.promote_low_f32x4(v128.shuffle<u64>(v, v, 1, 1)), s)), 16);
  }
}

/** The doubles times one factor a row and one a column (f32), as floats. */
export function scaleRow(sums: usize, perColumn: usize, perRow: f64, to: usize, width: i32): void {
  const r = f64x2.splat(perRow);
  for (let x = 0; x < width; x += 4) {
    const low = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(sums + 8 * x), r));
    const high = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(sums + 8 * x, 16), r));
    v128.store(to + 4 * x, f32x4.mul(v128.shuffle<u64>(low, high, 0, 2), v128.load(perColumn + 4 * x)));
  }
}
