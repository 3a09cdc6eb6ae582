// What the kernels share: kinds of pixels, and bytes as floats and back.

export const zeros = i8x16.splat(0);

// The pixel's kind is a type, so that each kind is compiled for itself: as a number it would be looked at again for every pixel.
export type RGB = u16;
export type RGBA = u32;

@inline
export function strideOf<P>(): i32 {
  return sizeof<P>() == 4 ? 4 : 3;
}

@inline
export function bytes(v: v128): v128 {
  const words = i16x8.narrow_i32x4_s(i32x4.trunc_sat_f32x4_s(f32x4.nearest(v)), zeros);
  return i8x16.narrow_i16x8_u(words, words);
}

@inline
export function channel<P>(v: v128, c: i32): v128 {
  let u: v128;
  if (sizeof<P>() != 4) {
    if (c == 0) u = v128.shuffle<u8>(v, zeros, 0, 16, 16, 16, 3, 16, 16, 16, 6, 16, 16, 16, 9, 16, 16, 16);
    else if (c == 1) u = v128.shuffle<u8>(v, zeros, 1, 16, 16, 16, 4, 16, 16, 16, 7, 16, 16, 16, 10, 16, 16, 16);
    else u = v128.shuffle<u8>(v, zeros, 2, 16, 16, 16, 5, 16, 16, 16, 8, 16, 16, 16, 11, 16, 16, 16);
  } else {
    if (c == 0) u = v128.shuffle<u8>(v, zeros, 0, 16, 16, 16, 4, 16, 16, 16, 8, 16, 16, 16, 12, 16, 16, 16);
    else if (c == 1) u = v128.shuffle<u8>(v, zeros, 1, 16, 16, 16, 5, 16, 16, 16, 9, 16, 16, 16, 13, 16, 16, 16);
    else u = v128.shuffle<u8>(v, zeros, 2, 16, 16, 16, 6, 16, 16, 16, 10, 16, 16, 16, 14, 16, 16, 16);
  }
  return f32x4.convert_i32x4_u(u);
}

@inline
export function greys(from: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(from))));
}
