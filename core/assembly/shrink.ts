import { bytes, zeros } from './pixels';

/** sums[u16] = the `rows` byte rows under `from`, added up; at most 257 rows. */
function addRows(from: usize, rowBytes: i32, rows: i32, sums: usize): void {
  for (let i = 0; i < rowBytes; i += 32) {
    let a = zeros;
    let b = zeros;
    let c = zeros;
    let d = zeros;
    let p = from + i;
    for (let k = 0; k < rows; k++, p += rowBytes) {
      const u = v128.load(p);
      const v = v128.load(p, 16);
      a = i16x8.add(a, i16x8.extend_low_i8x16_u(u));
      b = i16x8.add(b, i16x8.extend_high_i8x16_u(u));
      c = i16x8.add(c, i16x8.extend_low_i8x16_u(v));
      d = i16x8.add(d, i16x8.extend_high_i8x16_u(v));
    }
    v128.store(sums + 2 * i, a);
    v128.store(sums + 2 * i, b, 16);
    v128.store(sums + 2 * i, c, 32);
    v128.store(sums + 2 * i, d, 48);
  }
}

@inline
function column(sums: usize, top: usize, bottom: usize, x: i32, stride: i32, wt: v128, wb: v128): v128 {
  const at = x * stride;
  const full = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load64_zero(sums + 2 * at)));
  const t = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(top + at))));
  const b = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(bottom + at))));
  return f32x4.add(f32x4.add(full, f32x4.mul(t, wt)), f32x4.mul(b, wb));
}

/**
 * One target row of an area shrink: `rows` whole source rows at `full`, and shares of the rows at `top` and `bottom`. `first` and `last` (i32) and
 * `firstWeight` and `lastWeight` (f32) say for each target column what it covers. Writes RGB.
 */
export function shrinkRow(
  full: usize, rows: i32, top: usize, topWeight: f32, bottom: usize, bottomWeight: f32, sourceWidth: i32, stride: i32, sums: usize,
  first: usize, last: usize, firstWeight: usize, lastWeight: usize, norm: f32, to: usize, width: i32,
): void {
  addRows(full, sourceWidth * stride, rows, sums);
  const wt = f32x4.splat(topWeight);
  const wb = f32x4.splat(bottomWeight);
  const scale = f32x4.splat(norm);
  for (let x = 0; x < width; x++) {
    const a = load<i32>(first + 4 * x);
    const b = load<i32>(last + 4 * x);
    let sum = f32x4.mul(column(sums, top, bottom, a, stride, wt, wb), v128.load32_splat(firstWeight + 4 * x));
    for (let s = a + 1; s < b; s++) sum = f32x4.add(sum, column(sums, top, bottom, s, stride, wt, wb));
    if (b > a) sum = f32x4.add(sum, f32x4.mul(column(sums, top, bottom, b, stride, wt, wb), v128.load32_splat(lastWeight + 4 * x)));
    const v = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(sum, scale)));
    const words = i16x8.narrow_i32x4_s(v, v);
    v128.store32_lane(to + 3 * x, i8x16.narrow_i16x8_u(words, words), 0);
  }
}

@inline
function pairs(a: usize, b: usize): v128 {
  const u = v128.load(a);
  const v = v128.load(b);
  const low = i16x8.add(i16x8.extend_low_i8x16_u(u), i16x8.extend_low_i8x16_u(v));
  const high = i16x8.add(i16x8.extend_high_i8x16_u(u), i16x8.extend_high_i8x16_u(v));
  const sum = i16x8.add(v128.shuffle<u64>(low, high, 0, 2), v128.shuffle<u64>(low, high, 1, 3));
  return i16x8.shr_u(i16x8.add(sum, i16x8.splat(2)), 2);
}

/** Two rows of RGBA to half as many pixels of RGB, four at a time. */
function halveRow(above: usize, below: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const p = 8 * x;
    const rgba = i8x16.narrow_i16x8_u(pairs(above + p, below + p), pairs(above + p + 16, below + p + 16));
    const rgb = v128.shuffle<u8>(rgba, zeros, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 16, 16, 16, 16);
    v128.store64_lane(to + 3 * x, rgb, 0);
    v128.store32_lane(to + 3 * x + 8, rgb, 2);
  }
}

/** Of eight pixels of RGB, which lie in 24 bytes, the even or the odd ones side by side. */
@inline
function everyOther(p: usize, odd: bool): v128 {
  const u = v128.load(p);
  const v = v128.load(p, 8);
  return odd ? v128.shuffle<u8>(u, v, 3, 4, 5, 9, 10, 11, 15, 24, 25, 29, 30, 31, 31, 31, 31, 31) : v128.shuffle<u8>(u, v, 0, 1, 2, 6, 7, 8, 12, 13, 14, 26, 27, 28, 28, 28, 28, 28);
}

/** Two rows of RGB to half as many pixels, four at a time. */
function halveTriples(above: usize, below: usize, to: usize, width: i32): void {
  const two = i16x8.splat(2);
  for (let x = 0; x < width; x += 4) {
    const p = 6 * x;
    let low = two;
    let high = two;
    for (let k = 0; k < 4; k++) {
      const v = everyOther((k < 2 ? above : below) + p, (k & 1) == 1);
      low = i16x8.add(low, i16x8.extend_low_i8x16_u(v));
      high = i16x8.add(high, i16x8.extend_high_i8x16_u(v));
    }
    const rgb = i8x16.narrow_i16x8_u(i16x8.shr_u(low, 2), i16x8.shr_u(high, 2));
    v128.store64_lane(to + 3 * x, rgb, 0);
    v128.store32_lane(to + 3 * x + 8, rgb, 2);
  }
}

/** One target row of a shrink by a whole number: `factor` rows at `from`, each pixel the mean of factor × factor. Writes RGB. */
export function boxRow(from: usize, sourceWidth: i32, stride: i32, factor: i32, sums: usize, to: usize, width: i32): void {
  if (factor == 2 && stride == 4) {
    halveRow(from, from + 4 * sourceWidth, to, width);
    return;
  }
  if (factor == 2) {
    halveTriples(from, from + 3 * sourceWidth, to, width);
    return;
  }
  addRows(from, sourceWidth * stride, factor, sums);
  const scale = f32x4.splat(1 / <f32>(factor * factor));
  for (let x = 0, p = sums; x < width; x++) {
    let sum = zeros;
    for (let k = 0; k < factor; k++, p += 2 * stride) sum = i32x4.add(sum, i32x4.extend_low_i16x8_u(v128.load64_zero(p)));
    v128.store32_lane(to + 3 * x, bytes(f32x4.mul(f32x4.convert_i32x4_u(sum), scale)), 0);
  }
}
