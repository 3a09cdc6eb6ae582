type Point = readonly [x: number, y: number];

export interface GridMap {
  /** Shares of the page to photo px; beside the page as at its nearest part. */
  toPhoto: (place: Point) => [number, number];
  toPage: (point: Point) => [number, number];
}

const mostSteps = 20;

/**
 * Where the places of a page lie in its photo, from a grid of them: bilinear between its points, and back by Newton's method.
 *
 * @param photo px of `places` × `places` places over the page, row by row, x before y.
 */
export function gridMap(photo: readonly number[], places: number): GridMap {
  const cells = places - 1;
  const at = (i: number, j: number, k: number) => photo[(j * places + i) * 2 + k]!;
  const cellOf = (share: number) => Math.max(0, Math.min(cells - 1, Math.floor(share * cells)));
  const look = ([u, v]: Point) => {
    const [i, j] = [cellOf(u), cellOf(v)];
    const [s, t] = [u * cells - i, v * cells - j];
    const mix = (k: number): [value: number, du: number, dv: number] => {
      const [a, b, c, d] = [at(i, j, k), at(i + 1, j, k), at(i, j + 1, k), at(i + 1, j + 1, k)];
      return [
        a * (1 - s) * (1 - t) + b * s * (1 - t) + c * (1 - s) * t + d * s * t,
        ((b - a) * (1 - t) + (d - c) * t) * cells,
        ((c - a) * (1 - s) + (d - b) * s) * cells,
      ];
    };
    return [mix(0), mix(1)] as const;
  };
  return {
    toPhoto(place) {
      const [x, y] = look(place);
      return [x[0], y[0]];
    },
    toPage([x, y]) {
      let [u, v] = [0.5, 0.5];
      for (let step = 0; step < mostSteps; step++) {
        const [[px, xu, xv], [py, yu, yv]] = look([u, v]);
        const determinant = xu * yv - xv * yu;
        if (!determinant) break;
        const du = ((x - px) * yv - (y - py) * xv) / determinant;
        const dv = ((y - py) * xu - (x - px) * yu) / determinant;
        u += du;
        v += dv;
        if (Math.abs(du) + Math.abs(dv) < 1e-7) break;
      }
      return [u, v];
    },
  };
}
