import { RGB, RGBA, bytes, channel, fourPixels, greys, pixels, strideOf } from './pixels';

/** A row of a coarse plane at full width: `line` holds the plane's row, one value more than it is wide. */
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

/** Between two rows of floats: a + (b − a) · share. */
export function betweenRows(a: usize, b: usize, share: f32, to: usize, width: i32): void {
  const s = f32x4.splat(share);
  for (let p = 0; p < 4 * width; p += 16) {
    const v = v128.load(a + p);
    v128.store(to + p, f32x4.add(v, f32x4.mul(f32x4.sub(v128.load(b + p), v), s)));
  }
}

@inline
function evenBand<P>(from: usize, paper: usize, to: usize, width: i32, red: f32, green: f32, blue: f32, level: f32, least: f32): void {
  for (let x = 0; x < width; x += 4) {
    const v = fourPixels<P>(from + x * strideOf<P>());
    const luma = f32x4.add(
      f32x4.add(f32x4.mul(channel(v, 0), f32x4.splat(red)), f32x4.mul(channel(v, 1), f32x4.splat(green))),
      f32x4.mul(channel(v, 2), f32x4.splat(blue)),
    );
    const even = f32x4.div(f32x4.mul(luma, f32x4.splat(level)), f32x4.pmax(f32x4.splat(least), v128.load(paper + 4 * x)));
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
const whitePoint: f32 = 0.985;
const blackPoint: f32 = 0.02;
const blackLevel: f32 = 12;

@inline
function tone(v: v128, threshold: v128, clear: f32, picture: v128, level: f32): v128 {
  const plain = f32x4.mul(f32x4.sub(f32x4.mul(v, f32x4.splat(1 / level)), f32x4.splat(blackPoint)), f32x4.splat(1 / (whitePoint - blackPoint)));
  const above = f32x4.add(f32x4.splat(middle), f32x4.mul(f32x4.sub(v, threshold), f32x4.splat((1 - middle) / clear)));
  const black = f32x4.splat(blackLevel);
  const under = f32x4.div(f32x4.mul(f32x4.splat(middle), f32x4.sub(v, black)), f32x4.sub(threshold, black));
  const print = v128.bitselect(f32x4.pmin(above, f32x4.splat(1)), under, f32x4.ge(v, threshold));
  return f32x4.add(print, f32x4.mul(f32x4.sub(plain, print), f32x4.pmin(picture, f32x4.splat(1))));
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
    const v = fourPixels<P>(from + x * strideOf<P>());
    const gain = f32x4.div(f32x4.splat(level), f32x4.pmax(f32x4.splat(least), v128.load(paper + 4 * x)));
    const r = f32x4.mul(f32x4.mul(channel(v, 0), f32x4.splat(red)), gain);
    const g = f32x4.mul(f32x4.mul(channel(v, 1), f32x4.splat(green)), gain);
    const b = f32x4.mul(f32x4.mul(channel(v, 2), f32x4.splat(blue)), gain);
    const luma = f32x4.add(f32x4.add(f32x4.mul(r, f32x4.splat(0.299)), f32x4.mul(g, f32x4.splat(0.587))), f32x4.mul(b, f32x4.splat(0.114)));
    const inPicture = v128.load(picture + 4 * x);
    const s = tone(greys(even + x), v128.load(threshold + 4 * x), clear, inPicture, level);
    const spread = f32x4.sub(f32x4.pmax(f32x4.pmax(r, g), b), f32x4.pmin(f32x4.pmin(r, g), b));
    let keep = f32x4.pmax(none, f32x4.pmin(all, f32x4.mul(f32x4.sub(spread, f32x4.splat(keepFrom)), f32x4.splat(1 / keepSpan))));
    keep = keepAll ? all : v128.bitselect(all, keep, f32x4.gt(inPicture, f32x4.splat(0.5)));
    const c = f32x4.mul(keep, f32x4.splat((saturation * 255) / level / (whitePoint - blackPoint)));
    const base = f32x4.mul(s, f32x4.splat(white));
    const rgb = pixels(
      f32x4.add(base, f32x4.mul(f32x4.sub(r, luma), c)),
      f32x4.add(base, f32x4.mul(f32x4.sub(g, luma), c)),
      f32x4.add(base, f32x4.mul(f32x4.sub(b, luma), c)),
    );
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

/** A row of grey cut at its threshold (f32): 0 up to it, 255 above. */
export function cutRow(from: usize, threshold: usize, to: usize, width: i32): void {
  for (let x = 0; x < width; x += 4) {
    const above = f32x4.gt(greys(from + x), v128.load(threshold + 4 * x));
    const words = i16x8.narrow_i32x4_s(above, above);
    v128.store32_lane(to + x, i8x16.narrow_i16x8_s(words, words), 0);
  }
}
