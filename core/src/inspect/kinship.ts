/** Cells of a signature: the page seen from afar, and its detail, `fine` times as many each way. */
export const width = 24;
export const height = 32;
export const fine = 4;
export const detailWidth = width * fine;
export const detailHeight = height * fine;
/** Cells of a block of the detail, each way. */
export const blockCells = 16;

/** What a page looks like, with its own light and contrast taken out: enough to tell one sheet from the next. */
export interface Signature {
  /** 24×32 values of mean 0 and deviation 1. */
  values: Float32Array;
  /** 96×128 values: where words and lines stand, as what they differ from their surroundings by, relative to these. */
  detail: Float32Array;
  blank: boolean;
}

/** −1..1, about 1 for pages that look alike from afar: the best correlation within a shift of one cell. Two blank pages are alike. */
export function likeness(a: Signature, b: Signature): number {
  if (a.blank || b.blank) return a.blank && b.blank ? 1 : 0;
  let best = -1;
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      let sum = 0;
      let count = 0;
      for (let y = Math.max(0, -dy); y < Math.min(height, height - dy); y++)
        for (let x = Math.max(0, -dx); x < Math.min(width, width - dx); x++) {
          sum += a.values[y * width + x] * b.values[(y + dy) * width + x + dx];
          count++;
        }
      best = Math.max(best, sum / count);
    }
  return best;
}

const likeFrom = 0.6;
const mostShift = 2;
/** A block of the page has print on it from this deviation on. */
const inkSpread = 0.025;
/** Of the demo's fifteen sheets the same one had at least 0.75 of its printed blocks alike, other desk and turn included, another at most 0.60. */
const blockLikeFrom = 0.74;
const sameShare = 0.68;
/** Below it a block has other words in it. */
const otherBelow = 0.8;

/**
 * How two signatures' sheets are related: one and the same is alike from afar, and nearly everywhere when looked at block by block; another copy of a form is so too, but not in
 * the blocks that were filled in otherwise.
 */
export type Kinship = 'same' | 'copy' | 'other';

export function kinship(a: Signature, b: Signature): Kinship {
  const others = otherWords(a, b);
  return !others ? 'other' : others.size ? 'copy' : 'same';
}

/** The blocks in which a sheet has other words than one that is like it, counted by rows; none on the same sheet, null where the sheets are not alike. */
export function otherWords(a: Signature, b: Signature): ReadonlySet<number> | null {
  if (a.blank || b.blank) return a.blank && b.blank ? new Set() : null;
  if (likeness(a, b) < likeFrom) return null;
  let printed = 0;
  let alike = 0;
  const others = new Set<number>();
  for (let y = 0, i = 0; y < detailHeight; y += blockCells)
    for (let x = 0; x < detailWidth; x += blockCells, i++) {
      const c = blockLikeness(a.detail, b.detail, x, y);
      if (c === null) continue;
      if (c < otherBelow) others.add(i);
      printed++;
      if (c >= blockLikeFrom) alike++;
    }
  return alike < sameShare * printed ? null : others;
}

/** Best correlation of a block within a shift of two cells; null where neither has print. At the page's edge it is taken as much further in, so that it can be shifted every way. */
function blockLikeness(a: Float32Array, b: Float32Array, x: number, y: number): number | null {
  const x0 = Math.max(mostShift, Math.min(detailWidth - blockCells - mostShift, x));
  const y0 = Math.max(mostShift, Math.min(detailHeight - blockCells - mostShift, y));
  const n = blockCells * blockCells;
  const spreadOf = (v: Float32Array, dx: number, dy: number) => {
    let sum = 0;
    let square = 0;
    for (let y = y0 + dy; y < y0 + dy + blockCells; y++)
      for (let p = y * detailWidth + x0 + dx, end = p + blockCells; p < end; p++) {
        sum += v[p];
        square += v[p] * v[p];
      }
    return { mean: sum / n, deviation: Math.sqrt(Math.max(0, square / n - (sum / n) ** 2)) };
  };
  const here = spreadOf(a, 0, 0);
  if (here.deviation < inkSpread && spreadOf(b, 0, 0).deviation < inkSpread) return null;
  let best = -1;
  for (let dy = -mostShift; dy <= mostShift; dy++) {
    for (let dx = -mostShift; dx <= mostShift; dx++) {
      const there = spreadOf(b, dx, dy);
      let product = 0;
      for (let j = 0; j < blockCells; j++)
        for (let p = (y0 + j) * detailWidth + x0, end = p + blockCells, o = dy * detailWidth + dx; p < end; p++)
          product += a[p] * b[p + o];
      best = Math.max(best, (product / n - here.mean * there.mean) / Math.max(1e-6, here.deviation * there.deviation));
    }
  }
  return best;
}
