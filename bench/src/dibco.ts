/**
 * F-measure (%) and peak signal-to-noise ratio (dB) of a black-and-white page against the true ink, as in the document binarization contests (Gatos,
 * Ntirogiannis and Pratikakis, ICDAR 2009).
 *
 * @param truth and `found`: 1 where there is ink, of the same length.
 */
export function dibco(truth: Uint8Array, found: Uint8Array): { fMeasure: number; psnr: number } {
  if (truth.length !== found.length) throw new RangeError(`Two pages of one size are compared, received ${truth.length} and ${found.length}`); // prettier-ignore
  let [both, wrong, missed] = [0, 0, 0];
  for (let i = 0; i < truth.length; i++) {
    if (truth[i] && found[i]) both++;
    else if (found[i]) wrong++;
    else if (truth[i]) missed++;
  }
  const fMeasure = both ? (200 * both) / (2 * both + wrong + missed) : 0;
  return { fMeasure, psnr: 10 * Math.log10(1 / Math.max((wrong + missed) / truth.length, 1e-9)) };
}
