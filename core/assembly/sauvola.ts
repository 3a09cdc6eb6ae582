import { zeros } from './pixels';

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

// Four rows are cut at a time, a row to each lane: then sums slide along the rows without any sum within a vector.

/** Kinds of rows in the table of pointers to them, four of each. */
const entering: i32 = 0;
const leaving: i32 = 4;
const own: i32 = 8;

@inline
function rowOf(table: usize, kind: i32, k: i32): usize {
  return load<u32>(table + 4 * (kind + k));
}

/** Four columns of four rows: the rows' vectors become the columns'. */
@inline
function storeColumns(to: usize, a: v128, b: v128, c: v128, d: v128): void {
  const ab = v128.shuffle<u32>(a, b, 0, 4, 1, 5);
  const cd = v128.shuffle<u32>(c, d, 0, 4, 1, 5);
  v128.store(to, v128.shuffle<u64>(ab, cd, 0, 2));
  v128.store(to, v128.shuffle<u64>(ab, cd, 1, 3), 16);
  const ab2 = v128.shuffle<u32>(a, b, 2, 6, 3, 7);
  const cd2 = v128.shuffle<u32>(c, d, 2, 6, 3, 7);
  v128.store(to, v128.shuffle<u64>(ab2, cd2, 0, 2), 32);
  v128.store(to, v128.shuffle<u64>(ab2, cd2, 1, 3), 48);
}

/** Sums of four columns go on by four rows, and are stored for each of the four. */
@inline
function goOn(sums: usize, to: usize, a: v128, b: v128, c: v128, d: v128): void {
  const s0 = i32x4.add(v128.load(sums), a);
  const s1 = i32x4.add(s0, b);
  const s2 = i32x4.add(s1, c);
  const s3 = i32x4.add(s2, d);
  v128.store(sums, s3);
  storeColumns(to, s0, s1, s2, s3);
}

/** Columns' sums and sums of squares (u32) go on by four rows; `s` and `q` get them for each of the four, 16 bytes a column. */
function slideFour(table: usize, sums: usize, squares: usize, s: usize, q: usize, width: i32): void {
  const enter0 = rowOf(table, entering, 0);
  const enter1 = rowOf(table, entering, 1);
  const enter2 = rowOf(table, entering, 2);
  const enter3 = rowOf(table, entering, 3);
  const leave0 = rowOf(table, leaving, 0);
  const leave1 = rowOf(table, leaving, 1);
  const leave2 = rowOf(table, leaving, 2);
  const leave3 = rowOf(table, leaving, 3);
  for (let x = 0; x < width; x += 8) {
    const e0 = v128.load_ext<u8>(enter0 + x);
    const l0 = v128.load_ext<u8>(leave0 + x);
    const d0 = i16x8.sub(e0, l0);
    const e1 = v128.load_ext<u8>(enter1 + x);
    const l1 = v128.load_ext<u8>(leave1 + x);
    const d1 = i16x8.sub(e1, l1);
    const e2 = v128.load_ext<u8>(enter2 + x);
    const l2 = v128.load_ext<u8>(leave2 + x);
    const d2 = i16x8.sub(e2, l2);
    const e3 = v128.load_ext<u8>(enter3 + x);
    const l3 = v128.load_ext<u8>(leave3 + x);
    const d3 = i16x8.sub(e3, l3);
    // a² − b² = (a + b)(a − b)
    const m0 = i16x8.add(e0, l0);
    const m1 = i16x8.add(e1, l1);
    const m2 = i16x8.add(e2, l2);
    const m3 = i16x8.add(e3, l3);
    const p = 4 * x;
    const c = 16 * x;
    goOn(sums + p, s + c, i32x4.extend_low_i16x8_s(d0), i32x4.extend_low_i16x8_s(d1), i32x4.extend_low_i16x8_s(d2), i32x4.extend_low_i16x8_s(d3));
    goOn(sums + p + 16, s + c + 64, i32x4.extend_high_i16x8_s(d0), i32x4.extend_high_i16x8_s(d1), i32x4.extend_high_i16x8_s(d2), i32x4.extend_high_i16x8_s(d3));
    goOn(squares + p, q + c, i32x4.extmul_low_i16x8_s(d0, m0), i32x4.extmul_low_i16x8_s(d1, m1), i32x4.extmul_low_i16x8_s(d2, m2), i32x4.extmul_low_i16x8_s(d3, m3));
    goOn(squares + p + 16, q + c + 64, i32x4.extmul_high_i16x8_s(d0, m0), i32x4.extmul_high_i16x8_s(d1, m1), i32x4.extmul_high_i16x8_s(d2, m2), i32x4.extmul_high_i16x8_s(d3, m3));
  }
}

// Whether the threshold is kept within limits, whether sums of squares need 32 bits and whether the window may reach a border are types, so that each kind is compiled for itself.
type Limited = u16;
type Wide = u64;
type Plain = u8;
type Border = u8;
type Inside = u16;

@inline
function floats<W>(v: v128): v128 {
  // Signed ones come at a fifth of the cost.
  return sizeof<W>() == 8 ? f32x4.convert_i32x4_u(v) : f32x4.convert_i32x4_s(v);
}

/**
 * v ≤ T of Sauvola without root and division: with S and Q the window's sums over n pixels and A = n²·v − n·(1 − k)·S, v ≤ T where max(0, A)² ≤ (k / R)²·S²·(n·Q − S²). In
 * single precision, as the twin.
 */
@inline
function isInk<L>(v: v128, s: v128, q: v128, n: v128, less: v128, weight: v128, least: v128, most: v128): v128 {
  const a = f32x4.sub(f32x4.mul(f32x4.mul(n, n), v), f32x4.mul(f32x4.mul(n, less), s));
  const over = f32x4.pmax(zeros, a);
  const ss = f32x4.mul(s, s);
  const spread = f32x4.sub(f32x4.mul(n, q), ss);
  const under = f32x4.le(f32x4.mul(over, over), f32x4.mul(f32x4.mul(ss, weight), spread));
  if (sizeof<L>() != 2) return under;
  return v128.or(f32x4.le(v, least), v128.and(under, f32x4.le(v, most)));
}

/**
 * Four rows of Sauvola's threshold. `table`: pointers (u32) to the four rows that enter the window, to the four that leave it and to the rows themselves, then how many
 * rows the window of each has (f32). `s` and `q`: room for the columns' sums of the four rows, 16 bytes a column, nought for `radius` + 1 columns before and
 * `radius` + 8 behind. `less` is 1 − k, `weight` (k / R)². Up to 3 bytes more than `width` are written of each row.
 */
export function sauvolaRows(
  table: usize, sums: usize, squares: usize, s: usize, q: usize, to: usize, toBytes: i32, width: i32, radius: i32,
  less: f32, weight: f32, least: f32, most: f32,
): void {
  slideFour(table, sums, squares, s, q, width);
  // Between these the window reaches neither border.
  const from = min((radius + 3) & ~3, width);
  const end = max(from, (width - radius) & ~3);
  if (least > 0 || most < 255 || radius > 90) {
    cutFour<Limited, Wide, Border>(table, s, q, to, toBytes, width, 0, from, radius, less, weight, least, most);
    cutFour<Limited, Wide, Inside>(table, s, q, to, toBytes, width, from, end, radius, less, weight, least, most);
    cutFour<Limited, Wide, Border>(table, s, q, to, toBytes, width, end, width, radius, less, weight, least, most);
  } else {
    cutFour<Plain, Plain, Border>(table, s, q, to, toBytes, width, 0, from, radius, less, weight, least, most);
    cutFour<Plain, Plain, Inside>(table, s, q, to, toBytes, width, from, end, radius, less, weight, least, most);
    cutFour<Plain, Plain, Border>(table, s, q, to, toBytes, width, end, width, radius, less, weight, least, most);
  }
}

/** Pixels of the window about column x that lie within the page, for four rows. */
@inline
function windowAt(rows: v128, x: i32, radius: i32, width: i32): v128 {
  const columns = min(width - 1, x + radius) - max(0, x - radius) + 1;
  return f32x4.mul(rows, f32x4.splat(<f32>columns));
}

@inline
function byteOf(v: v128, k: i32): v128 {
  if (k == 3) return f32x4.convert_i32x4_s(i32x4.shr_u(v, 24));
  return f32x4.convert_i32x4_s(v128.and(k == 0 ? v : i32x4.shr_u(v, 8 * k), i32x4.splat(255)));
}

/** Columns x0 … x1 − 1, four at a time. */
function cutFour<L, W, B>(
  table: usize, s: usize, q: usize, to: usize, toBytes: i32, width: i32, x0: i32, x1: i32, radius: i32, less: f32, weight: f32, least: f32, most: f32,
): void {
  const rows = v128.load(table, 48);
  const vl = f32x4.splat(less);
  const vw = f32x4.splat(weight);
  const low = f32x4.splat(least);
  const high = f32x4.splat(most);
  const across = 2 * radius + 1;
  let n = f32x4.mul(rows, f32x4.splat(<f32>across));
  const reach = 16 * across;
  let sum = zeros;
  let square = zeros;
  for (let i = 16 * (x0 - radius - 1); i < 16 * (x0 + radius); i += 16) {
    sum = i32x4.add(sum, v128.load(s + i));
    square = i32x4.add(square, v128.load(q + i));
  }
  const row0 = rowOf(table, own, 0);
  const row1 = rowOf(table, own, 1);
  const row2 = rowOf(table, own, 2);
  const row3 = rowOf(table, own, 3);
  for (let x = x0; x < x1; x += 4) {
    // A row to each lane, its four columns in the lane's bytes.
    let g = v128.load32_zero(row0 + x);
    g = v128.load32_lane(row1 + x, g, 1);
    g = v128.load32_lane(row2 + x, g, 2);
    g = v128.load32_lane(row3 + x, g, 3);
    const p = s + 16 * (x + radius);
    const r = q + 16 * (x + radius);
    sum = i32x4.add(sum, i32x4.sub(v128.load(p), v128.load(p - reach)));
    square = i32x4.add(square, i32x4.sub(v128.load(r), v128.load(r - reach)));
    if (sizeof<B>() == 1) n = windowAt(rows, x, radius, width);
    const ink0 = isInk<L>(byteOf(g, 0), f32x4.convert_i32x4_s(sum), floats<W>(square), n, vl, vw, low, high);
    sum = i32x4.add(sum, i32x4.sub(v128.load(p, 16), v128.load(p - reach, 16)));
    square = i32x4.add(square, i32x4.sub(v128.load(r, 16), v128.load(r - reach, 16)));
    if (sizeof<B>() == 1) n = windowAt(rows, x + 1, radius, width);
    const ink1 = isInk<L>(byteOf(g, 1), f32x4.convert_i32x4_s(sum), floats<W>(square), n, vl, vw, low, high);
    sum = i32x4.add(sum, i32x4.sub(v128.load(p, 32), v128.load(p - reach, 32)));
    square = i32x4.add(square, i32x4.sub(v128.load(r, 32), v128.load(r - reach, 32)));
    if (sizeof<B>() == 1) n = windowAt(rows, x + 2, radius, width);
    const ink2 = isInk<L>(byteOf(g, 2), f32x4.convert_i32x4_s(sum), floats<W>(square), n, vl, vw, low, high);
    sum = i32x4.add(sum, i32x4.sub(v128.load(p, 48), v128.load(p - reach, 48)));
    square = i32x4.add(square, i32x4.sub(v128.load(r, 48), v128.load(r - reach, 48)));
    if (sizeof<B>() == 1) n = windowAt(rows, x + 3, radius, width);
    const ink3 = isInk<L>(byteOf(g, 3), f32x4.convert_i32x4_s(sum), floats<W>(square), n, vl, vw, low, high);
    const columns = v128.not(i8x16.narrow_i16x8_s(i16x8.narrow_i32x4_s(ink0, ink1), i16x8.narrow_i32x4_s(ink2, ink3)));
    const out = v128.shuffle<u8>(columns, columns, 0, 4, 8, 12, 1, 5, 9, 13, 2, 6, 10, 14, 3, 7, 11, 15);
    v128.store32_lane(to + x, out, 0);
    v128.store32_lane(to + toBytes + x, out, 1);
    v128.store32_lane(to + 2 * toBytes + x, out, 2);
    v128.store32_lane(to + 3 * toBytes + x, out, 3);
  }
}
