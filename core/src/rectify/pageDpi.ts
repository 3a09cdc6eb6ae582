/** Lens and colour mosaic leave this of the lines that a photo's pixels could hold. */
const resolved = 0.8;
/** A page below this gets more pixels than its photo has, up to so many along a line: strokes are told from paper, and read, more surely on a finer grid than the photo's own. */
const readableDpi = 200;
const finest = 2;

/**
 * Resolution of a page of which the photo holds `photoDpi`, `wanted` dpi at most.
 *
 * @param photographed by a camera, and not a page of a file that holds all of its pixels.
 */
export function pageDpi(photoDpi: number, photographed: boolean, wanted = 300): number {
  const held = photographed ? resolved * photoDpi : photoDpi;
  return Math.min(wanted, Math.max(held, Math.min(readableDpi, finest * photoDpi)));
}
