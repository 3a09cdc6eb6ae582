/** Diagonal of a 36 × 24 mm frame, by which focal lengths are compared (CIPA DCG-001). */
const frameDiagonalMm = Math.hypot(36, 24);

/** Focal length in px of a photo of this size, from its 35 mm equivalent. A cropped photo has another one. */
export function focalPx(focal35mm: number, width: number, height: number): number {
  return (focal35mm / frameDiagonalMm) * Math.hypot(width, height);
}
