import { acceptWeights, deviation, hidden, mean, rankWeights } from './weights';

/**
 * How much a candidate looks like a page: comparable within one photo. A linear part and one hidden layer of the standardised features; see
 * bench/src/train.ts.
 */
export function rank(features: ArrayLike<number>): number {
  const n = mean.length;
  const x = new Float64Array(n);
  let score = 0;
  for (let i = 0; i < n; i++) {
    x[i] = standardised(features, i);
    score += rankWeights[i] * x[i];
  }
  for (let h = 0, at = n; h < hidden; h++, at += n + 2) {
    let sum = rankWeights[at + n];
    for (let i = 0; i < n; i++) sum += rankWeights[at + i] * x[i];
    score += rankWeights[at + n + 1] * Math.tanh(sum);
  }
  return score;
}

/**
 * Probability that a chosen candidate is a page with its right outline.
 *
 * @param score of this candidate; @param best score of the photo; @param place 0 for the photo's first choice.
 */
export function acceptance(features: ArrayLike<number>, score: number, best: number, place: number): number {
  const n = mean.length;
  let sum = 0;
  for (let i = 0; i < n; i++) sum += acceptWeights[i] * standardised(features, i);
  sum +=
    (acceptWeights[n] * score) / 4 +
    (acceptWeights[n + 1] * (best - score)) / 4 +
    (place === 0 ? acceptWeights[n + 2] : 0) +
    acceptWeights[n + 3];
  return 1 / (1 + Math.exp(-sum));
}

/** A photo unlike those seen in training should not fly off: features are cut at 4 deviations. What is unknown is as usual. */
function standardised(features: ArrayLike<number>, i: number): number {
  if (features[i] !== features[i]) return 0;
  return Math.max(-4, Math.min(4, (features[i] - mean[i]) / deviation[i]));
}
