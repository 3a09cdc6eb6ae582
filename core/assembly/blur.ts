import { RGB, RGBA, channel, fourPixels, rounded } from './pixels';

// Rows may be one row that begins a value later each time: then the sum runs along it.

/** Weighted sum of 2·radius + 1 rows of floats (rows: pointers, u32). */
export function tapRows(rows: usize, kernel: usize, radius: i32, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    let v = f32x4.mul(v128.load(load<u32>(rows + 4 * radius) + 4 * x), v128.load32_splat(kernel));
    for (let k = 1; k <= radius; k++) {
      const pair = f32x4.add(v128.load(load<u32>(rows + 4 * (radius - k)) + 4 * x), v128.load(load<u32>(rows + 4 * (radius + k)) + 4 * x));
      v = f32x4.add(v, f32x4.mul(pair, v128.load32_splat(kernel + 4 * k)));
    }
    v128.store(to + 4 * x, v);
  }
}

// The same in fixed point, for pictures: 16-bit numbers of 1/64 level, taps of 1/32768. Eight to a vector, within a tenth of a level of the floats.

@inline
function tap(sum: v128, a: usize, b: usize, weight: v128): v128 {
  return i16x8.add(sum, i16x8.q15mulr_sat_s(i16x8.add(v128.load(a), v128.load(b)), weight));
}

// 32 at a time, so that a tap is fetched once for them; up to 31 more than `width` are written.

/** Weighted sum of 2·radius + 1 rows (rows: pointers, u32; kernel: i16). */
export function tapShortRows(rows: usize, kernel: usize, radius: i32, to: usize, width: i32): void {
  for (let p = 0; p < 2 * width; p += 64) {
    const middle = load<u32>(rows + 4 * radius) + p;
    const weight = v128.load16_splat(kernel);
    let v0 = i16x8.q15mulr_sat_s(v128.load(middle), weight);
    let v1 = i16x8.q15mulr_sat_s(v128.load(middle, 16), weight);
    let v2 = i16x8.q15mulr_sat_s(v128.load(middle, 32), weight);
    let v3 = i16x8.q15mulr_sat_s(v128.load(middle, 48), weight);
    for (let k = 1; k <= radius; k++) {
      const a = load<u32>(rows + 4 * (radius - k)) + p;
      const b = load<u32>(rows + 4 * (radius + k)) + p;
      const w = v128.load16_splat(kernel + 2 * k);
      v0 = tap(v0, a, b, w);
      v1 = tap(v1, a + 16, b + 16, w);
      v2 = tap(v2, a + 32, b + 32, w);
      v3 = tap(v3, a + 48, b + 48, w);
    }
    v128.store(to + p, v0);
    v128.store(to + p, v1, 16);
    v128.store(to + p, v2, 32);
    v128.store(to + p, v3, 48);
  }
}

@inline
function lumaShorts<P>(from: usize): v128 {
  const v = fourPixels<P>(from);
  const luma = f32x4.add(
    f32x4.add(f32x4.mul(channel(v, 0), f32x4.splat(64 * 0.299)), f32x4.mul(channel(v, 1), f32x4.splat(64 * 0.587))),
    f32x4.mul(channel(v, 2), f32x4.splat(64 * 0.114)),
  );
  return rounded(luma);
}

/** A row's luma (ITU-R BT.601) in 1/64 levels. */
export function lumaShortRow(from: usize, stride: i32, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 8) {
    let v: v128;
    if (stride == 1) v = i16x8.shl(i16x8.extend_low_i8x16_u(v128.load64_zero(from + x)), 6);
    else if (stride == 3) v = i16x8.narrow_i32x4_s(lumaShorts<RGB>(from + 3 * x), lumaShorts<RGB>(from + 3 * x + 12));
    else v = i16x8.narrow_i32x4_s(lumaShorts<RGBA>(from + 4 * x), lumaShorts<RGBA>(from + 4 * x + 16));
    v128.store(to + 2 * x, v);
  }
}

@inline
function levels(v: v128): v128 {
  return i16x8.shr_s(i16x8.add_sat_s(v, i16x8.splat(32)), 6);
}

@inline
function shorts(from: usize): v128 {
  return i16x8.shl(i16x8.extend_low_i8x16_u(v128.load64_zero(from)), 6);
}

/** 1/64 levels as bytes. */
export function shortsToBytes(from: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 8) {
    const v = levels(v128.load(from + 2 * x));
    v128.store64_lane(to + x, i8x16.narrow_i16x8_u(v, v), 0);
  }
}

/** Adds to each channel of a row of grey or RGB twice `half` (1/32768) of what the luma lies above its blurred self. */
export function sharpenRow(from: usize, stride: i32, luma: usize, soft: usize, half: i32, to: usize, width: i32): void {
  const h = i16x8.splat(<i16>half);
  for (let x = 0; x < width; x += 8) {
    const part = i16x8.q15mulr_sat_s(i16x8.sub(v128.load(luma + 2 * x), v128.load(soft + 2 * x)), h);
    const more = i16x8.add_sat_s(part, part);
    if (stride == 1) {
      const v = levels(i16x8.add_sat_s(shorts(from + x), more));
      v128.store64_lane(to + x, i8x16.narrow_i16x8_u(v, v), 0);
      continue;
    }
    const p = from + 3 * x;
    const q = to + 3 * x;
    const a = levels(i16x8.add_sat_s(shorts(p), v128.shuffle<u16>(more, more, 0, 0, 0, 1, 1, 1, 2, 2)));
    const b = levels(i16x8.add_sat_s(shorts(p + 8), v128.shuffle<u16>(more, more, 2, 3, 3, 3, 4, 4, 4, 5)));
    const c = levels(i16x8.add_sat_s(shorts(p + 16), v128.shuffle<u16>(more, more, 5, 5, 6, 6, 6, 7, 7, 7)));
    v128.store(q, i8x16.narrow_i16x8_u(a, b));
    v128.store64_lane(q + 16, i8x16.narrow_i16x8_u(c, c), 0);
  }
}
