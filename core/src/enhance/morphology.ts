import { createPlane, type Plane } from '../raster/raster';

/** Grey closing with a disc-like window: what is darker than its surroundings and narrower than 2·radius+1 is filled up. */
export function closing(source: Plane, radius: number): Plane {
  return extreme(extreme(source, radius, 1), radius, -1);
}

/** Running maximum (sign 1) or minimum (−1) over a square window, by rows then columns (van Herk 1992 in effect, with a short inner loop). */
export function extreme(source: Plane, radius: number, sign: 1 | -1): Plane {
  const { width, height, data } = source;
  const across = createPlane(width, height);
  const line = new Float32Array(Math.max(width, height));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) line[x] = sign * data[y * width + x];
    running(line, width, radius, (x, v) => (across.data[y * width + x] = v));
  }
  const target = createPlane(width, height);
  for (let x = 0; x < width; x++) {
    for (let y = 0; y < height; y++) line[y] = across.data[y * width + x];
    running(line, height, radius, (y, v) => (target.data[y * width + x] = sign * v));
  }
  return target;
}

/** Maximum of each window with a queue of falling candidates. */
function running(line: Float32Array, length: number, radius: number, write: (i: number, v: number) => void): void {
  const queue = new Int32Array(length);
  let head = 0;
  let tail = 0;
  for (let i = 0; i < length + radius; i++) {
    if (i < length) {
      while (tail > head && line[queue[tail - 1]] <= line[i]) tail--;
      queue[tail++] = i;
    }
    const centre = i - radius;
    if (centre < 0) continue;
    while (queue[head] < centre - radius) head++;
    write(centre, line[queue[head]]);
  }
}
