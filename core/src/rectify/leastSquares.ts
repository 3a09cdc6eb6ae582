export interface LeastSquaresOptions {
  /** Steps at most; default 30. */
  iterations?: number;
  /** Brings parameters back into their bounds, in place. */
  constrain?: (params: Float64Array) => void;
}

/**
 * Nonlinear least squares by Levenberg and Marquardt with a numerical Jacobian (Marquardt, SIAM J. Appl. Math. 11(2), 1963; scaled by the diagonal).
 *
 * @param residuals the residual vector at given parameters, always of the same length.
 * @returns the best parameters found and the sum of squares there.
 */
export function levenbergMarquardt(
  residuals: (params: Float64Array) => Float64Array,
  start: Float64Array,
  { iterations = 30, constrain }: LeastSquaresOptions = {},
): { params: Float64Array; cost: number } {
  const n = start.length;
  let params = start.slice();
  constrain?.(params);
  let r = residuals(params);
  let cost = sumOfSquares(r);
  let damping = 1e-3;
  for (let iteration = 0; iteration < iterations; iteration++) {
    const columns: Float64Array[] = [];
    for (let j = 0; j < n; j++) {
      const step = 1e-5 * Math.max(0.01, Math.abs(params[j]));
      const moved = params.slice();
      moved[j] += step;
      const there = residuals(moved);
      for (let i = 0; i < r.length; i++) there[i] = (there[i] - r[i]) / step;
      columns.push(there);
    }
    const normal = Array.from({ length: n }, () => new Float64Array(n));
    const right = new Float64Array(n);
    for (let j = 0; j < n; j++) {
      for (let k = 0; k <= j; k++) normal[j][k] = normal[k][j] = dot(columns[j], columns[k]);
      right[j] = -dot(columns[j], r);
    }
    let better = false;
    let gain = 0;
    for (let tries = 0; tries < 8 && !better; tries++) {
      const step = solveSymmetric(normal, right, damping);
      if (step) {
        const next = params.map((v, j) => v + step[j]);
        constrain?.(next);
        const rNext = residuals(next);
        const costNext = sumOfSquares(rNext);
        if (costNext < cost) {
          gain = (cost - costNext) / cost;
          params = next;
          r = rNext;
          cost = costNext;
          damping = Math.max(1e-9, damping * 0.3);
          better = true;
          break;
        }
      }
      damping *= 5;
    }
    if (!better || gain < 1e-6) break;
  }
  return { params, cost };
}

/** Solves (A + damping · diag A) x = b by Cholesky; null when that is not positive definite. */
function solveSymmetric(a: readonly Float64Array[], b: Float64Array, damping: number): Float64Array | null {
  const n = b.length;
  const l = Array.from({ length: n }, () => new Float64Array(n));
  for (let i = 0; i < n; i++) {
    for (let j = 0; j <= i; j++) {
      let sum = a[i][j] + (i === j ? damping * Math.max(1e-12, a[i][i]) : 0);
      for (let k = 0; k < j; k++) sum -= l[i][k] * l[j][k];
      if (i === j) {
        if (!(sum > 0)) return null;
        l[i][i] = Math.sqrt(sum);
      } else l[i][j] = sum / l[j][j];
    }
  }
  const x = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    let sum = b[i];
    for (let k = 0; k < i; k++) sum -= l[i][k] * x[k];
    x[i] = sum / l[i][i];
  }
  for (let i = n - 1; i >= 0; i--) {
    let sum = x[i];
    for (let k = i + 1; k < n; k++) sum -= l[k][i] * x[k];
    x[i] = sum / l[i][i];
  }
  return x;
}

function dot(a: Float64Array, b: Float64Array): number {
  let s = 0;
  for (let i = 0; i < a.length; i++) s += a[i] * b[i];
  return s;
}

const sumOfSquares = (r: Float64Array) => dot(r, r);
