import { RGB, RGBA, bytes, channel, greys, strideOf } from './pixels';

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

/** The same along a row of floats that has `radius` values more at both ends; `from` points at the first of them. */
export function tapAcross(from: usize, kernel: usize, radius: i32, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const p = from + 4 * (x + radius);
    let v = f32x4.mul(v128.load(p), v128.load32_splat(kernel));
    for (let k = 1; k <= radius; k++)
      v = f32x4.add(v, f32x4.mul(f32x4.add(v128.load(p - 4 * k), v128.load(p + 4 * k)), v128.load32_splat(kernel + 4 * k)));
    v128.store(to + 4 * x, v);
  }
}

@inline
function lumaBand<P>(from: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const v = v128.load(from + x * strideOf<P>());
    const luma = f32x4.add(
      f32x4.add(f32x4.mul(channel<P>(v, 0), f32x4.splat(0.299)), f32x4.mul(channel<P>(v, 1), f32x4.splat(0.587))),
      f32x4.mul(channel<P>(v, 2), f32x4.splat(0.114)),
    );
    v128.store(to + 4 * x, luma);
  }
}

/** A row's luma (ITU-R BT.601) as floats. */
export function lumaRow(from: usize, stride: i32, to: usize, width: i32): void {
  if (stride == 1) for (let x = 0; x < width; x += 4) v128.store(to + 4 * x, greys(from + x));
  else if (stride == 3) lumaBand<RGB>(from, to, width);
  else lumaBand<RGBA>(from, to, width);
}

/** Floats as bytes. */
export function byteRow(from: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) v128.store32_lane(to + x, bytes(v128.load(from + 4 * x)), 0);
}

/** Adds `amount` of what the luma lies above its blurred self to each channel of a row of grey or RGB. */
export function sharpenRow(from: usize, stride: i32, luma: usize, soft: usize, amount: f32, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const more = f32x4.mul(f32x4.splat(amount), f32x4.sub(v128.load(luma + 4 * x), v128.load(soft + 4 * x)));
    if (stride == 1) {
      v128.store32_lane(to + x, bytes(f32x4.add(greys(from + x), more)), 0);
      continue;
    }
    const p = from + 3 * x;
    const q = to + 3 * x;
    v128.store32_lane(q, bytes(f32x4.add(greys(p), v128.shuffle<f32>(more, more, 0, 0, 0, 1))), 0);
    v128.store32_lane(q + 4, bytes(f32x4.add(greys(p + 4), v128.shuffle<f32>(more, more, 1, 1, 2, 2))), 0);
    v128.store32_lane(q + 8, bytes(f32x4.add(greys(p + 8), v128.shuffle<f32>(more, more, 2, 3, 3, 3))), 0);
  }
}
