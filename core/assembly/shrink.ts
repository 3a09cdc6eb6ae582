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
function weighted(sum: v128, top: v128, bottom: v128, wt: v128, wb: v128): v128 {
  const t = f32x4.mul(f32x4.convert_i32x4_s(top), wt);
  const b = f32x4.mul(f32x4.convert_i32x4_s(bottom), wb);
  return f32x4.add(f32x4.add(f32x4.convert_i32x4_s(sum), t), b);
}

/** to[f32] = the `rows` byte rows under `from` added up, and shares of the rows at `top` and `bottom`; at most 257 rows. */
function addWeightedRows(from: usize, rowBytes: i32, rows: i32, top: usize, topWeight: f32, bottom: usize, bottomWeight: f32, to: usize): void {
  const wt = f32x4.splat(topWeight);
  const wb = f32x4.splat(bottomWeight);
  for (let i = 0; i < rowBytes; i += 16) {
    let low = zeros;
    let high = zeros;
    for (let k = 0, p = from + i; k < rows; k++, p += rowBytes) {
      const v = v128.load(p);
      low = i16x8.add(low, i16x8.extend_low_i8x16_u(v));
      high = i16x8.add(high, i16x8.extend_high_i8x16_u(v));
    }
    const t = v128.load(top + i);
    const b = v128.load(bottom + i);
    const tl = i16x8.extend_low_i8x16_u(t);
    const th = i16x8.extend_high_i8x16_u(t);
    const bl = i16x8.extend_low_i8x16_u(b);
    const bh = i16x8.extend_high_i8x16_u(b);
    const p = to + 4 * i;
    v128.store(p, weighted(i32x4.extend_low_i16x8_u(low), i32x4.extend_low_i16x8_u(tl), i32x4.extend_low_i16x8_u(bl), wt, wb));
    v128.store(p, weighted(i32x4.extend_high_i16x8_u(low), i32x4.extend_high_i16x8_u(tl), i32x4.extend_high_i16x8_u(bl), wt, wb), 16);
    v128.store(p, weighted(i32x4.extend_low_i16x8_u(high), i32x4.extend_low_i16x8_u(th), i32x4.extend_low_i16x8_u(bh), wt, wb), 32);
    v128.store(p, weighted(i32x4.extend_high_i16x8_u(high), i32x4.extend_high_i16x8_u(th), i32x4.extend_high_i16x8_u(bh), wt, wb), 48);
  }
}

/**
 * One target row of an area shrink: `rows` whole source rows at `full`, and shares of the rows at `top` and `bottom`. `first` and `last` (i32) and
 * `firstWeight` and `lastWeight` (f32) say for each target column what it covers. Writes RGB.
 */
export function shrinkRow(
  full: usize, rows: i32, top: usize, topWeight: f32, bottom: usize, bottomWeight: f32, sourceWidth: i32, stride: i32, sums: usize,
  first: usize, last: usize, firstWeight: usize, lastWeight: usize, norm: f32, to: usize, width: i32,
): void {
  const step = 4 * stride;
  const scale = f32x4.splat(norm);
  addWeightedRows(full, sourceWidth * stride, rows, top, topWeight, bottom, bottomWeight, sums);
  for (let x = 0; x < width; x++) {
    let p = sums + step * load<i32>(first + 4 * x);
    const end = sums + step * load<i32>(last + 4 * x);
    let sum = f32x4.mul(v128.load(p), v128.load32_splat(firstWeight + 4 * x));
    if (p < end) {
      for (p += step; p < end; p += step) sum = f32x4.add(sum, v128.load(p));
      sum = f32x4.add(sum, f32x4.mul(v128.load(end), v128.load32_splat(lastWeight + 4 * x)));
    }
    v128.store32_lane(to + 3 * x, bytes(f32x4.mul(sum, scale)), 0);
  }
}

/** Channels of neighbouring pixels are laid side by side and added up: two pixels of RGBA, and of RGB likewise. */
@inline
function neighbours(p: usize, triples: bool): v128 {
  const v = v128.load(p);
  return i16x8.extadd_pairwise_i8x16_u(
    triples
      ? v128.shuffle<u8>(v, v, 0, 3, 1, 4, 2, 5, 6, 9, 7, 10, 8, 11, 15, 15, 15, 15)
      : v128.shuffle<u8>(v, v, 0, 4, 1, 5, 2, 6, 3, 7, 8, 12, 9, 13, 10, 14, 11, 15),
  );
}

@inline
function meanOfFour(above: usize, below: usize, triples: bool): v128 {
  return i16x8.shr_u(i16x8.add(i16x8.add(neighbours(above, triples), neighbours(below, triples)), i16x8.splat(2)), 2);
}

/** Two rows of RGBA to half as many pixels of RGB, four at a time. */
function halveRow(above: usize, below: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const p = 8 * x;
    const rgba = i8x16.narrow_i16x8_u(meanOfFour(above + p, below + p, false), meanOfFour(above + p + 16, below + p + 16, false));
    v128.store(to + 3 * x, v128.shuffle<u8>(rgba, rgba, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 15, 15, 15, 15));
  }
}

/** Two rows of RGB to half as many pixels, four at a time. */
function halveTriples(above: usize, below: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const p = 6 * x;
    const rgb = i8x16.narrow_i16x8_u(meanOfFour(above + p, below + p, true), meanOfFour(above + p + 12, below + p + 12, true));
    v128.store(to + 3 * x, v128.shuffle<u8>(rgb, rgb, 0, 1, 2, 3, 4, 5, 8, 9, 10, 11, 12, 13, 15, 15, 15, 15));
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
    v128.store32_lane(to + 3 * x, bytes(f32x4.mul(f32x4.convert_i32x4_s(sum), scale)), 0);
  }
}
