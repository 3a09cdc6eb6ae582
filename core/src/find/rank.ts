import { acceptWeights, deviation, mean, rankWeights } from './weights';

/** How much a candidate looks like a page: comparable within one photo. Linear in the standardised features; see bench/src/train.ts. */
export function rank(features: ArrayLike<number>): number {
  let score = 0;
  for (let i = 0; i < rankWeights.length; i++) score += rankWeights[i] * standardised(features, i);
  return score;
}

/**
 * Probability that a chosen candidate is a page with its right outline.
 *
 * @param score of this candidate; @param best score of the photo; @param place 0 for the photo's first choice.
 */
export function acceptance(features: ArrayLike<number>, score: number, best: number, place: number): number {
  const n = rankWeights.length;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += acceptWeights[i] * standardised(features, i);
  sum +=
    (acceptWeights[n] * score) / 4 +
    (acceptWeights[n + 1] * (best - score)) / 4 +
    (place === 0 ? acceptWeights[n + 2] : 0) +
    acceptWeights[n + 3];
  return 1 / (1 + Math.exp(-sum));
}

/** A photo unlike those seen in training should not fly off: features are cut at 4 deviations. */
function standardised(features: ArrayLike<number>, i: number): number {
  return Math.max(-4, Math.min(4, (features[i] - mean[i]) / deviation[i]));
}
