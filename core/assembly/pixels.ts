// What the kernels share: kinds of pixels, and bytes as floats and back.

export const zeros = i8x16.splat(0);

// The pixel's kind is a type, so that each kind is compiled for itself: as a number it would be looked at again for every pixel.
export type RGB = u16;
export type RGBA = u32;

@inline
export function strideOf<P>(): i32 {
  return sizeof<P>() == 4 ? 4 : 3;
}

// Chosen for what engines make of them on x86: whole numbers become floats as signed ones at a fifth of the cost, the smaller of two by `pmin` at an eighth
// of `min`'s, and a shuffle with a second vector takes two masks.

/** Nearest whole numbers, halves to the even one, of values within ± 2²²: by where a float's last bit lies, which is quicker than to convert. */
@inline
export function rounded(v: v128): v128 {
  const lift: f32 = 12_582_912; // 1½ · 2²³
  return i32x4.sub(f32x4.add(v, f32x4.splat(lift)), i32x4.splat(reinterpret<i32>(lift)));
}

/** Four floats as bytes, in the first four lanes. */
@inline
export function bytes(v: v128): v128 {
  const words = i16x8.narrow_i32x4_s(rounded(f32x4.pmax(zeros, v)), zeros);
  return i8x16.narrow_i16x8_u(words, words);
}

/** Four floats as 0 … 255 in 32 bits. */
@inline
function level(v: v128): v128 {
  return rounded(f32x4.pmin(f32x4.splat(255), f32x4.pmax(zeros, v)));
}

/** Four pixels of RGB in the first twelve lanes. */
@inline
export function pixels(r: v128, g: v128, b: v128): v128 {
  const rgb = v128.or(v128.or(level(r), i32x4.shl(level(g), 8)), i32x4.shl(level(b), 16));
  return v128.shuffle<u8>(rgb, rgb, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 15, 15, 15, 15);
}

/** Four pixels' bytes, each pixel in 32 bits. */
@inline
export function fourPixels<P>(from: usize): v128 {
  const v = v128.load(from);
  return sizeof<P>() == 4 ? v : v128.shuffle<u8>(v, v, 0, 1, 2, 2, 3, 4, 5, 5, 6, 7, 8, 8, 9, 10, 11, 11);
}

/** One channel of `fourPixels` as floats. */
@inline
export function channel(v: v128, c: i32): v128 {
  return f32x4.convert_i32x4_s(v128.and(c == 0 ? v : i32x4.shr_u(v, 8 * c), i32x4.splat(255)));
}

@inline
export function greys(from: usize): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(from))));
}
