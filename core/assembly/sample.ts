import { RGB, RGBA, rounded, strideOf, zeros } from './pixels';

/**
 * Bilinear weights have 11 bits. Along a row 255 · 2¹¹ is brought back to 15 bits, so that both rows fit one more dot product.
 */
const one: i32 = 2048;

/** The channels of two neighbours side by side as 16 bits, for a dot product with their weights. */
@inline
function pairAt<P>(p: usize): v128 {
  // What is behind a pixel comes along and is left out; unlike a shuffle of bytes, this needs no mask.
  const right = v128.load_ext<u8>(p + strideOf<P>());
  return v128.shuffle<u16>(v128.load_ext<u8>(p), right, 0, 8, 1, 9, 2, 10, 3, 11);
}

/** One pixel at `p`; `wx` and `wy` hold the two weights as 16 bits each, in all lanes. */
@inline
function sampleAt<P>(p: usize, rowBytes: i32, wx: v128, wy: v128): v128 {
  const upper = i32x4.shr_u(i32x4.dot_i16x8_s(pairAt<P>(p), wx), 4);
  const lower = i32x4.shl(i32x4.dot_i16x8_s(pairAt<P>(p + rowBytes), wx), 12);
  const sum = i32x4.dot_i16x8_s(v128.shuffle<u16>(upper, lower, 0, 9, 2, 11, 4, 13, 6, 15), wy);
  return i32x4.shr_u(i32x4.add(sum, i32x4.splat(1 << 17)), 18);
}

/** Weights of the four pixels about a point (Keys 1981, a = −½) for four points at once. */
@inline
function outer(t: v128): v128 {
  // −½t³ + t² − ½t
  const half = f32x4.splat(0.5);
  return f32x4.mul(t, f32x4.sub(f32x4.mul(t, f32x4.sub(f32x4.splat(1), f32x4.mul(half, t))), half));
}

@inline
function inner(t: v128): v128 {
  // 1½t³ − 2½t² + 1
  return f32x4.add(f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.mul(f32x4.splat(1.5), t), f32x4.splat(2.5))), f32x4.splat(1));
}

@inline
function fixed(w: v128): v128 {
  return rounded(f32x4.mul(w, f32x4.splat(<f32>one)));
}

@inline
function pairOf(a: v128, b: v128): v128 {
  return v128.or(v128.and(a, i32x4.splat(0xffff)), i32x4.shl(b, 16));
}

/** A row's four pixels at `p`, weighed: `w01` and `w23` hold the weights of two as 16 bits each, in all lanes. */
@inline
function fourAcross<P>(p: usize, w01: v128, w23: v128): v128 {
  const a = pairAt<P>(p);
  const b = pairAt<P>(p + 2 * strideOf<P>());
  return f32x4.convert_i32x4_s(i32x4.add(i32x4.dot_i16x8_s(a, w01), i32x4.dot_i16x8_s(b, w23)));
}

/** What four pixels are sampled with, four numbers a vector: places, whether inside, bilinear weights (2), weights across (2) and down (4). */
const lanes: usize = memory.data(160);

@inline
function storeCubic(tx: v128, ty: v128): void {
  const rest = f32x4.splat(1);
  const w0 = fixed(outer(tx));
  const w2 = fixed(inner(f32x4.sub(rest, tx)));
  const w3 = fixed(outer(f32x4.sub(rest, tx)));
  v128.store(lanes, pairOf(w0, i32x4.sub(i32x4.sub(i32x4.sub(i32x4.splat(one), w0), w2), w3)), 64);
  v128.store(lanes, pairOf(w2, w3), 80);
  v128.store(lanes, outer(ty), 96);
  v128.store(lanes, inner(ty), 112);
  v128.store(lanes, inner(f32x4.sub(rest, ty)), 128);
  v128.store(lanes, outer(f32x4.sub(rest, ty)), 144);
}

/** Pixels of RGB, each by the 4×4 about its place. */
@inline
function cubicFour<P>(photo: usize, rowBytes: i32, to: usize, count: i32): void {
  for (let k = 0; k < count; k++) {
    const own = lanes + 4 * k;
    let p = photo + load<i32>(own);
    let v: v128;
    if (load<i32>(own, 16)) {
      p -= rowBytes + strideOf<P>();
      const w01 = v128.load32_splat(own, 64);
      const w23 = v128.load32_splat(own, 80);
      const above = f32x4.add(f32x4.mul(fourAcross<P>(p, w01, w23), v128.load32_splat(own, 96)), f32x4.mul(fourAcross<P>(p + rowBytes, w01, w23), v128.load32_splat(own, 112)));
      p += 2 * rowBytes;
      const below = f32x4.add(f32x4.mul(fourAcross<P>(p, w01, w23), v128.load32_splat(own, 128)), f32x4.mul(fourAcross<P>(p + rowBytes, w01, w23), v128.load32_splat(own, 144)));
      v = rounded(f32x4.mul(f32x4.add(above, below), f32x4.splat(1 / <f32>one)));
    } else v = sampleAt<P>(p, rowBytes, v128.load32_splat(own, 32), v128.load32_splat(own, 48));
    const words = i16x8.narrow_i32x4_s(v, v);
    const rgb = i8x16.narrow_i16x8_u(words, words);
    v128.store16_lane(to + 3 * k, rgb, 0);
    v128.store8_lane(to + 3 * k + 2, rgb, 2);
  }
}

/** Four pixels of RGB at four places of the photo; `count` of them are written. */
@inline
function sampleFour<P>(photo: usize, pw: i32, ph: i32, cubic: i32, sx: v128, sy: v128, to: usize, count: i32): void {
  // Inside the photo; its last column and row are reached with a full weight on the right and lower neighbour.
  const x = f32x4.pmin(f32x4.splat(<f32>(pw - 1)), f32x4.pmax(zeros, sx));
  const y = f32x4.pmin(f32x4.splat(<f32>(ph - 1)), f32x4.pmax(zeros, sy));
  // Half numbers round to even, which may be the last one: it has no neighbour.
  const left = i32x4.min_s(rounded(f32x4.sub(x, f32x4.splat(0.5))), i32x4.splat(pw - 2));
  const upper = i32x4.min_s(rounded(f32x4.sub(y, f32x4.splat(0.5))), i32x4.splat(ph - 2));
  const tx = f32x4.sub(x, f32x4.convert_i32x4_s(left));
  const ty = f32x4.sub(y, f32x4.convert_i32x4_s(upper));
  const fx = fixed(tx);
  const fy = fixed(ty);
  const rowBytes = pw * strideOf<P>();
  const at = i32x4.add(i32x4.mul(upper, i32x4.splat(rowBytes)), i32x4.mul(left, i32x4.splat(strideOf<P>())));
  const full = i32x4.splat(one);
  const wx = v128.or(i32x4.sub(full, fx), i32x4.shl(fx, 16));
  const wy = v128.or(i32x4.sub(full, fy), i32x4.shl(fy, 16));
  if (cubic) {
    const ones = i32x4.splat(1);
    // Beside the photo's border there are no four by four.
    const inside = v128.and(
      v128.and(i32x4.ge_s(left, ones), i32x4.lt_s(left, i32x4.splat(pw - 2))),
      v128.and(i32x4.ge_s(upper, ones), i32x4.lt_s(upper, i32x4.splat(ph - 2))),
    );
    v128.store(lanes, at);
    v128.store(lanes, inside, 16);
    v128.store(lanes, wx, 32);
    v128.store(lanes, wy, 48);
    storeCubic(tx, ty);
    cubicFour<P>(photo, rowBytes, to, count);
    return;
  }
  const p0 = sampleAt<P>(photo + i32x4.extract_lane(at, 0), rowBytes, v128.shuffle<u32>(wx, wx, 0, 0, 0, 0), v128.shuffle<u32>(wy, wy, 0, 0, 0, 0));
  const p1 = sampleAt<P>(photo + i32x4.extract_lane(at, 1), rowBytes, v128.shuffle<u32>(wx, wx, 1, 1, 1, 1), v128.shuffle<u32>(wy, wy, 1, 1, 1, 1));
  const p2 = sampleAt<P>(photo + i32x4.extract_lane(at, 2), rowBytes, v128.shuffle<u32>(wx, wx, 2, 2, 2, 2), v128.shuffle<u32>(wy, wy, 2, 2, 2, 2));
  const p3 = sampleAt<P>(photo + i32x4.extract_lane(at, 3), rowBytes, v128.shuffle<u32>(wx, wx, 3, 3, 3, 3), v128.shuffle<u32>(wy, wy, 3, 3, 3, 3));
  const rgba = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(p0, p1), i16x8.narrow_i32x4_s(p2, p3));
  const rgb = v128.shuffle<u8>(rgba, rgba, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 15, 15, 15, 15);
  if (count == 4) {
    v128.store64_lane(to, rgb, 0);
    v128.store32_lane(to + 8, rgb, 2);
    return;
  }
  store<u8>(to, i8x16.extract_lane_u(rgb, 0));
  store<u8>(to + 1, i8x16.extract_lane_u(rgb, 1));
  store<u8>(to + 2, i8x16.extract_lane_u(rgb, 2));
  if (count < 2) return;
  store<u8>(to + 3, i8x16.extract_lane_u(rgb, 3));
  store<u8>(to + 4, i8x16.extract_lane_u(rgb, 4));
  store<u8>(to + 5, i8x16.extract_lane_u(rgb, 5));
  if (count < 3) return;
  store<u8>(to + 6, i8x16.extract_lane_u(rgb, 6));
  store<u8>(to + 7, i8x16.extract_lane_u(rgb, 7));
  store<u8>(to + 8, i8x16.extract_lane_u(rgb, 8));
}

const tile: i32 = 32;

@inline
function warpBand<P>(
  photo: usize, pw: i32, ph: i32, cubic: i32, to: usize, width: i32, y0: i32, y1: i32,
  h0: f64, h1: f64, h2: f64, h3: f64, h4: f64, h5: f64, h6: f64, h7: f64, h8: f64,
): void {
  const steps = f32x4(0, 1, 2, 3);
  for (let tx = 0; tx < width; tx += tile) {
    const end = min(width, tx + tile);
    for (let y = y0; y < y1; y++) {
      // Where the row of the tile begins is worked out in doubles; within 32 px floats are exact to 1/4000 px.
      const nx = f32x4.splat(<f32>(h0 * tx + h1 * y + h2));
      const ny = f32x4.splat(<f32>(h3 * tx + h4 * y + h5));
      const nw = f32x4.splat(<f32>(h6 * tx + h7 * y + h8));
      for (let x = tx, k = steps; x < end; x += 4, k = f32x4.add(k, f32x4.splat(4))) {
        const inverse = f32x4.div(f32x4.splat(1), f32x4.add(nw, f32x4.mul(k, f32x4.splat(<f32>h6))));
        const sx = f32x4.mul(f32x4.add(nx, f32x4.mul(k, f32x4.splat(<f32>h0))), inverse);
        const sy = f32x4.mul(f32x4.add(ny, f32x4.mul(k, f32x4.splat(<f32>h3))), inverse);
        sampleFour<P>(photo, pw, ph, cubic, sx, sy, to + ((y - y0) * width + x) * 3, min(4, end - x));
      }
    }
  }
}

/** Rows y0 … y1 − 1 (at most 32) of a page through a homography, from RGB or RGBA; the photo at least 2×2. */
export function warpRows(
  photo: usize, pw: i32, ph: i32, stride: i32, cubic: i32, to: usize, width: i32, y0: i32, y1: i32,
  h0: f64, h1: f64, h2: f64, h3: f64, h4: f64, h5: f64, h6: f64, h7: f64, h8: f64,
): void {
  if (stride == 4) warpBand<RGBA>(photo, pw, ph, cubic, to, width, y0, y1, h0, h1, h2, h3, h4, h5, h6, h7, h8);
  else warpBand<RGB>(photo, pw, ph, cubic, to, width, y0, y1, h0, h1, h2, h3, h4, h5, h6, h7, h8);
}

@inline
function unrollBand<P>(
  photo: usize, pw: i32, ph: i32, cubic: i32, to: usize, width: i32, cell: i32, rows: i32, xs: usize, ys: usize, across: i32,
): void {
  const steps = f32x4(0, 1, 2, 3);
  const size = <f32>cell;
  for (let c = 0; c < across - 1; c++) {
    const from = c * cell;
    const end = min(width, from + cell);
    const up = 4 * c;
    const down = 4 * (c + across);
    const x00: f32 = load<f32>(xs + up);
    const x10: f32 = load<f32>(xs + up + 4);
    const x01: f32 = load<f32>(xs + down);
    const x11: f32 = load<f32>(xs + down + 4);
    const y00: f32 = load<f32>(ys + up);
    const y10: f32 = load<f32>(ys + up + 4);
    const y01: f32 = load<f32>(ys + down);
    const y11: f32 = load<f32>(ys + down + 4);
    for (let j = 0; j < rows; j++) {
      const t = <f32>j / size;
      const x0 = x00 + (x01 - x00) * t;
      const y0 = y00 + (y01 - y00) * t;
      const dx = f32x4.splat((x10 + (x11 - x10) * t - x0) / size);
      const dy = f32x4.splat((y10 + (y11 - y10) * t - y0) / size);
      for (let x = from; x < end; x += 4) {
        const k = f32x4.add(f32x4.splat(<f32>(x - from)), steps);
        const sx = f32x4.add(f32x4.splat(x0), f32x4.mul(k, dx));
        const sy = f32x4.add(f32x4.splat(y0), f32x4.mul(k, dy));
        sampleFour<P>(photo, pw, ph, cubic, sx, sy, to + (j * width + x) * 3, min(4, end - x));
      }
    }
  }
}

/** `rows` rows of one row of grid cells: positions in the photo are given at the grid's points (f32, this row of points and the next). */
export function unrollRows(
  photo: usize, pw: i32, ph: i32, stride: i32, cubic: i32, to: usize, width: i32, cell: i32, rows: i32, xs: usize, ys: usize, across: i32,
): void {
  if (stride == 4) unrollBand<RGBA>(photo, pw, ph, cubic, to, width, cell, rows, xs, ys, across);
  else unrollBand<RGB>(photo, pw, ph, cubic, to, width, cell, rows, xs, ys, across);
}
