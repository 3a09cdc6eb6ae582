import { levenbergMarquardt } from './leastSquares';

test('NIST StRD Misra1a: the certified parameters of a published data set, from both of its starting points', () => {
  // National Institute of Standards and Technology, Statistical Reference Datasets, nonlinear regression, Misra1a (values from memory).
  const x = [77.6, 114.9, 141.1, 190.8, 239.9, 289.0, 332.8, 378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760.0];
  const y = [10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02, 44.82, 50.76, 55.05, 61.01, 66.4, 75.47, 81.78];
  const residuals = (p: Float64Array) => Float64Array.from(x, (v, i) => p[0] * (1 - Math.exp(-p[1] * v)) - y[i]);
  for (const start of [[500, 0.0001], [250, 0.0005]]) {
    const { params, cost } = levenbergMarquardt(residuals, Float64Array.from(start), { iterations: 200 });
    expect(params[0] / 238.94212918).toBeCloseTo(1, 4);
    expect(params[1] / 5.5015643181e-4).toBeCloseTo(1, 4);
    expect(cost).toBeCloseTo(0.12455138894, 4);
  }
}); // prettier-ignore

test('bounds are kept', () => {
  const { params } = levenbergMarquardt((p) => Float64Array.of(p[0] - 5), Float64Array.of(0), {
    constrain: (p) => void (p[0] = Math.min(2, p[0])),
  });
  expect(params[0]).toBe(2);
});
