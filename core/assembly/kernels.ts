// AssemblyScript, 128-bit SIMD. Each function has a plain TypeScript twin in core/src, which says what it does; pointers are bytes into the
// memory that the caller lays out, with 64 bytes to spare behind every buffer.

const zeros = i8x16.splat(0);

// The pixel's kind is a type, so that each kind is compiled for itself: as a number it would be looked at again for every pixel.
type RGB = u16;
type RGBA = u32;

@inline
function strideOf<P>(): i32 {
  return sizeof<P>() == 4 ? 4 : 3;
}

// ── Area shrinking ───────────────────────────────────────────────────────────────────────────────────────────────────

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

/** One target row of a shrink by a whole number: `factor` rows at `from`, each pixel the mean of factor × factor. Writes RGB. */
export function boxRow(from: usize, sourceWidth: i32, stride: i32, factor: i32, sums: usize, to: usize, width: i32): void {
  if (factor == 2 && stride == 4) {
    halveRow(from, from + 4 * sourceWidth, to, width);
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

// ── Sampling ─────────────────────────────────────────────────────────────────────────────────────────────────────────

/**
 * Bilinear weights have 11 bits. Along a row 255 · 2¹¹ is brought back to 15 bits, so that both rows fit one more dot product.
 */
const one: i32 = 2048;

/** One pixel at `p`; `wx` and `wy` hold the two weights as 16 bits each, in all lanes. */
@inline
function sampleAt<P>(p: usize, rowBytes: i32, wx: v128, wy: v128): v128 {
  const above = v128.load64_zero(p);
  const below = v128.load64_zero(p + rowBytes);
  // Left and right pixel's channels side by side as 16 bits, for one dot product each.
  const a = sizeof<P>() == 4 ? v128.shuffle<u8>(above, zeros, 0, 16, 4, 16, 1, 16, 5, 16, 2, 16, 6, 16, 3, 16, 7, 16) : v128.shuffle<u8>(above, zeros, 0, 16, 3, 16, 1, 16, 4, 16, 2, 16, 5, 16, 16, 16, 16, 16);
  const b = sizeof<P>() == 4 ? v128.shuffle<u8>(below, zeros, 0, 16, 4, 16, 1, 16, 5, 16, 2, 16, 6, 16, 3, 16, 7, 16) : v128.shuffle<u8>(below, zeros, 0, 16, 3, 16, 1, 16, 4, 16, 2, 16, 5, 16, 16, 16, 16, 16);
  const upper = i32x4.shr_u(i32x4.dot_i16x8_s(a, wx), 4);
  const lower = i32x4.shl(i32x4.shr_u(i32x4.dot_i16x8_s(b, wx), 4), 16);
  const sum = i32x4.dot_i16x8_s(v128.or(upper, lower), wy);
  return i32x4.shr_u(i32x4.add(sum, i32x4.splat(1 << 17)), 18);
}

/** Four pixels of RGB at four places of the photo; `count` of them are written. */
@inline
function sampleFour<P>(photo: usize, pw: i32, ph: i32, sx: v128, sy: v128, to: usize, count: i32): void {
  const none = f32x4.splat(0);
  // Inside the photo; its last column and row are reached with a full weight on the right and lower neighbour.
  const x = f32x4.min(f32x4.max(sx, none), f32x4.splat(<f32>(pw - 1)));
  const y = f32x4.min(f32x4.max(sy, none), f32x4.splat(<f32>(ph - 1)));
  const left = i32x4.min_s(i32x4.trunc_sat_f32x4_s(x), i32x4.splat(pw - 2));
  const upper = i32x4.min_s(i32x4.trunc_sat_f32x4_s(y), i32x4.splat(ph - 2));
  const scale = f32x4.splat(<f32>one);
  const fx = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(f32x4.sub(x, f32x4.convert_i32x4_s(left)), scale)));
  const fy = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(f32x4.sub(y, f32x4.convert_i32x4_s(upper)), scale)));
  const rowBytes = pw * strideOf<P>();
  const at = i32x4.add(i32x4.mul(upper, i32x4.splat(rowBytes)), i32x4.mul(left, i32x4.splat(strideOf<P>())));
  const full = i32x4.splat(one);
  const wx = v128.or(i32x4.sub(full, fx), i32x4.shl(fx, 16));
  const wy = v128.or(i32x4.sub(full, fy), i32x4.shl(fy, 16));
  const p0 = sampleAt<P>(photo + i32x4.extract_lane(at, 0), rowBytes, v128.shuffle<u32>(wx, wx, 0, 0, 0, 0), v128.shuffle<u32>(wy, wy, 0, 0, 0, 0));
  const p1 = sampleAt<P>(photo + i32x4.extract_lane(at, 1), rowBytes, v128.shuffle<u32>(wx, wx, 1, 1, 1, 1), v128.shuffle<u32>(wy, wy, 1, 1, 1, 1));
  const p2 = sampleAt<P>(photo + i32x4.extract_lane(at, 2), rowBytes, v128.shuffle<u32>(wx, wx, 2, 2, 2, 2), v128.shuffle<u32>(wy, wy, 2, 2, 2, 2));
  const p3 = sampleAt<P>(photo + i32x4.extract_lane(at, 3), rowBytes, v128.shuffle<u32>(wx, wx, 3, 3, 3, 3), v128.shuffle<u32>(wy, wy, 3, 3, 3, 3));
  const rgba = i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_s(p0, p1), i16x8.narrow_i32x4_s(p2, p3));
  const rgb = v128.shuffle<u8>(rgba, zeros, 0, 1, 2, 4, 5, 6, 8, 9, 10, 12, 13, 14, 16, 16, 16, 16);
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
  photo: usize, pw: i32, ph: i32, to: usize, width: i32, y0: i32, y1: i32,
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
      for (let x = tx; x < end; x += 4) {
        const k = f32x4.add(f32x4.splat(<f32>(x - tx)), steps);
        const w = f32x4.add(nw, f32x4.mul(k, f32x4.splat(<f32>h6)));
        const sx = f32x4.div(f32x4.add(nx, f32x4.mul(k, f32x4.splat(<f32>h0))), w);
        const sy = f32x4.div(f32x4.add(ny, f32x4.mul(k, f32x4.splat(<f32>h3))), w);
        sampleFour<P>(photo, pw, ph, sx, sy, to + ((y - y0) * width + x) * 3, min(4, end - x));
      }
    }
  }
}

/** Rows y0 … y1 − 1 (at most 32) of a page through a homography, from RGB or RGBA; the photo at least 2×2. */
export function warpRows(
  photo: usize, pw: i32, ph: i32, stride: i32, to: usize, width: i32, y0: i32, y1: i32,
  h0: f64, h1: f64, h2: f64, h3: f64, h4: f64, h5: f64, h6: f64, h7: f64, h8: f64,
): void {
  if (stride == 4) warpBand<RGBA>(photo, pw, ph, to, width, y0, y1, h0, h1, h2, h3, h4, h5, h6, h7, h8);
  else warpBand<RGB>(photo, pw, ph, to, width, y0, y1, h0, h1, h2, h3, h4, h5, h6, h7, h8);
}

@inline
function unrollBand<P>(
  photo: usize, pw: i32, ph: i32, to: usize, width: i32, cell: i32, rows: i32, xs: usize, ys: usize, across: i32,
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
        sampleFour<P>(photo, pw, ph, sx, sy, to + (j * width + x) * 3, min(4, end - x));
      }
    }
  }
}

/** `rows` rows of one row of grid cells: positions in the photo are given at the grid's points (f32, this row of points and the next). */
export function unrollRows(
  photo: usize, pw: i32, ph: i32, stride: i32, to: usize, width: i32, cell: i32, rows: i32, xs: usize, ys: usize, across: i32,
): void {
  if (stride == 4) unrollBand<RGBA>(photo, pw, ph, to, width, cell, rows, xs, ys, across);
  else unrollBand<RGB>(photo, pw, ph, to, width, cell, rows, xs, ys, across);
}

// ── Coarse grids ─────────────────────────────────────────────────────────────────────────────────────────────────────

/** A row of a coarse plane at full width: `line` holds the plane's row as interpolated down, one value more than it is wide. */
export function gridRow(line: usize, left: usize, share: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const p = left + 4 * x;
    const a = v128.load64_zero(line + 4 * load<i32>(p));
    const b = v128.load64_zero(line + 4 * load<i32>(p, 4));
    const c = v128.load64_zero(line + 4 * load<i32>(p, 8));
    const d = v128.load64_zero(line + 4 * load<i32>(p, 12));
    const ab = v128.shuffle<u32>(a, b, 0, 4, 1, 5);
    const cd = v128.shuffle<u32>(c, d, 0, 4, 1, 5);
    const v0 = v128.shuffle<u64>(ab, cd, 0, 2);
    const v1 = v128.shuffle<u64>(ab, cd, 1, 3);
    v128.store(to + 4 * x, f32x4.add(v0, f32x4.mul(f32x4.sub(v1, v0), v128.load(share + 4 * x))));
  }
}

// ── Finishing ────────────────────────────────────────────────────────────────────────────────────────────────────────

@inline
function bytes(v: v128): v128 {
  const words = i16x8.narrow_i32x4_s(i32x4.trunc_sat_f32x4_s(f32x4.nearest(v)), zeros);
  return i8x16.narrow_i16x8_u(words, words);
}

@inline
function channel<P>(v: v128, c: i32): v128 {
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
function evenBand<P>(from: usize, paper: usize, to: usize, width: i32, red: f32, green: f32, blue: f32, level: f32, least: f32): void {
  for (let x = 0; x < width; x += 4) {
    const v = v128.load(from + x * strideOf<P>());
    const luma = f32x4.add(
      f32x4.add(f32x4.mul(channel<P>(v, 0), f32x4.splat(red)), f32x4.mul(channel<P>(v, 1), f32x4.splat(green))),
      f32x4.mul(channel<P>(v, 2), f32x4.splat(blue)),
    );
    const even = f32x4.div(f32x4.mul(luma, f32x4.splat(level)), f32x4.max(f32x4.splat(least), v128.load(paper + 4 * x)));
    v128.store32_lane(to + x, bytes(even), 0);
  }
}

/** A row of RGB or RGBA: luma by the given weights, divided by the paper's (f32). */
export function evenRow(from: usize, stride: i32, paper: usize, to: usize, width: i32, red: f32, green: f32, blue: f32, level: f32, least: f32): void {
  if (stride == 3) evenBand<RGB>(from, paper, to, width, red, green, blue, level, least);
  else evenBand<RGBA>(from, paper, to, width, red, green, blue, level, least);
}

/** Share of the tone curve at which print turns to paper, its white and black point without print, and the level of print that is black. */
const middle: f32 = 0.62;
const whitePoint: f32 = 0.93;
const blackPoint: f32 = 0.1;
const blackLevel: f32 = 12;

@inline
function tone(v: v128, threshold: v128, clear: f32, picture: v128, level: f32): v128 {
  const plain = f32x4.mul(f32x4.sub(f32x4.mul(v, f32x4.splat(1 / level)), f32x4.splat(blackPoint)), f32x4.splat(1 / (whitePoint - blackPoint)));
  const above = f32x4.add(f32x4.splat(middle), f32x4.mul(f32x4.sub(v, threshold), f32x4.splat((1 - middle) / clear)));
  const black = f32x4.splat(blackLevel);
  const under = f32x4.div(f32x4.mul(f32x4.splat(middle), f32x4.sub(v, black)), f32x4.sub(threshold, black));
  const print = v128.bitselect(f32x4.min(above, f32x4.splat(1)), under, f32x4.ge(v, threshold));
  return f32x4.add(print, f32x4.mul(f32x4.sub(plain, print), f32x4.min(picture, f32x4.splat(1))));
}

@inline
function greys(from: usize): v128 {
  return f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(from))));
}

/** A row of the evened grey through the tone curve. */
export function greyRow(from: usize, threshold: usize, picture: usize, to: usize, width: i32, clear: f32, level: f32): void {
  for (let x = 0; x < width; x += 4) {
    const s = tone(greys(from + x), v128.load(threshold + 4 * x), clear, v128.load(picture + 4 * x), level);
    v128.store32_lane(to + x, bytes(f32x4.mul(s, f32x4.splat(255))), 0);
  }
}

@inline
function colourBand<P>(
  from: usize, even: usize, paper: usize, threshold: usize, picture: usize, to: usize, width: i32,
  red: f32, green: f32, blue: f32, level: f32, least: f32, clear: f32, keepFrom: f32, keepSpan: f32, keepAll: i32, saturation: f32, white: f32,
): void {
  const none = f32x4.splat(0);
  const all = f32x4.splat(1);
  for (let x = 0; x < width; x += 4) {
    const v = v128.load(from + x * strideOf<P>());
    const gain = f32x4.div(f32x4.splat(level), f32x4.max(f32x4.splat(least), v128.load(paper + 4 * x)));
    const r = f32x4.mul(f32x4.mul(channel<P>(v, 0), f32x4.splat(red)), gain);
    const g = f32x4.mul(f32x4.mul(channel<P>(v, 1), f32x4.splat(green)), gain);
    const b = f32x4.mul(f32x4.mul(channel<P>(v, 2), f32x4.splat(blue)), gain);
    const luma = f32x4.add(f32x4.add(f32x4.mul(r, f32x4.splat(0.299)), f32x4.mul(g, f32x4.splat(0.587))), f32x4.mul(b, f32x4.splat(0.114)));
    const inPicture = v128.load(picture + 4 * x);
    const s = tone(greys(even + x), v128.load(threshold + 4 * x), clear, inPicture, level);
    const spread = f32x4.sub(f32x4.max(f32x4.max(r, g), b), f32x4.min(f32x4.min(r, g), b));
    let keep = f32x4.max(none, f32x4.min(all, f32x4.mul(f32x4.sub(spread, f32x4.splat(keepFrom)), f32x4.splat(1 / keepSpan))));
    keep = keepAll ? all : v128.bitselect(all, keep, f32x4.gt(inPicture, f32x4.splat(0.5)));
    const deeper = f32x4.div(f32x4.mul(s, f32x4.splat(level)), f32x4.max(f32x4.splat(24), luma));
    const c = f32x4.mul(f32x4.mul(keep, f32x4.splat((saturation * 255) / level)), f32x4.max(f32x4.splat(0.35), f32x4.min(f32x4.splat(1.1), deeper)));
    const base = f32x4.mul(s, f32x4.splat(white));
    const rs = bytes(f32x4.add(base, f32x4.mul(f32x4.sub(r, luma), c)));
    const gs = bytes(f32x4.add(base, f32x4.mul(f32x4.sub(g, luma), c)));
    const bs = bytes(f32x4.add(base, f32x4.mul(f32x4.sub(b, luma), c)));
    const rg = v128.shuffle<u8>(rs, gs, 0, 16, 1, 17, 2, 18, 3, 19, 0, 0, 0, 0, 0, 0, 0, 0);
    const rgb = v128.shuffle<u8>(rg, bs, 0, 1, 16, 2, 3, 17, 4, 5, 18, 6, 7, 19, 0, 0, 0, 0);
    v128.store64_lane(to + 3 * x, rgb, 0);
    v128.store32_lane(to + 3 * x + 8, rgb, 2);
  }
}

/** A row of the page with the evened grey's tone and its own colour. */
export function colourRow(
  from: usize, stride: i32, even: usize, paper: usize, threshold: usize, picture: usize, to: usize, width: i32,
  red: f32, green: f32, blue: f32, level: f32, least: f32, clear: f32, keepFrom: f32, keepSpan: f32, keepAll: i32, saturation: f32, white: f32,
): void {
  if (stride == 3) colourBand<RGB>(from, even, paper, threshold, picture, to, width, red, green, blue, level, least, clear, keepFrom, keepSpan, keepAll, saturation, white);
  else colourBand<RGBA>(from, even, paper, threshold, picture, to, width, red, green, blue, level, least, clear, keepFrom, keepSpan, keepAll, saturation, white);
}

/** A row of RGB, each channel times its own factor, plus one offset for all. */
export function levelsRow(from: usize, to: usize, width: i32, red: f32, green: f32, blue: f32, offset: f32): void {
  const plus = f32x4.splat(offset);
  const first = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(red), 1, green), 2, blue);
  const second = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(green), 1, blue), 2, red);
  const third = f32x4.replace_lane(f32x4.replace_lane(f32x4.splat(blue), 1, red), 2, green);
  for (let x = 0; x < 3 * width; x += 12) {
    v128.store32_lane(to + x, bytes(f32x4.add(f32x4.mul(greys(from + x), first), plus)), 0);
    v128.store32_lane(to + x + 4, bytes(f32x4.add(f32x4.mul(greys(from + x + 4), second), plus)), 0);
    v128.store32_lane(to + x + 8, bytes(f32x4.add(f32x4.mul(greys(from + x + 8), third), plus)), 0);
  }
}

// ── Sauvola ──────────────────────────────────────────────────────────────────────────────────────────────────────────

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

/** Prefix sums of a row of u32: out[0] = 0, out[i + 1] = out[i] + in[i], modulo 2³². */
function prefix(from: usize, to: usize, width: i32): void {
  let sum: u32 = 0;
  store<u32>(to, 0);
  for (let x = 0; x < width; x++) {
    sum += load<u32>(from + 4 * x);
    store<u32>(to + 4 * x, sum, 4);
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
  prefix(sums, ps, width);
  prefix(squares, pq, width);
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

// ── Blur ─────────────────────────────────────────────────────────────────────────────────────────────────────────────

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

// ── Windows ──────────────────────────────────────────────────────────────────────────────────────────────────────────

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

/** A row of grey cut at its threshold (f32): 0 up to it, 255 above. */
export function cutRow(from: usize, threshold: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const above = f32x4.gt(greys(from + x), v128.load(threshold + 4 * x));
    const words = i16x8.narrow_i32x4_s(above, above);
    v128.store32_lane(to + x, i8x16.narrow_i16x8_s(words, words), 0);
  }
}
