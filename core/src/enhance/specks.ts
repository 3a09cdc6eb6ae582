import type { Raster } from '../raster/raster';

/** Whitens black components (8-connected) of fewer than `leastPx` pixels, in place. */
export function dropSpecks(bilevel: Raster, leastPx: number): void {
  const { width, height, data } = bilevel;
  const seen = new Uint8Array(width * height);
  const stack: number[] = [];
  const members: number[] = [];
  for (let start = 0; start < data.length; start++) {
    if (data[start] || seen[start]) continue;
    stack.push(start);
    seen[start] = 1;
    members.length = 0;
    let size = 0;
    while (stack.length) {
      const p = stack.pop()!;
      if (size++ < leastPx) members.push(p);
      const x = p % width;
      const y = (p - x) / width;
      for (let ny = Math.max(0, y - 1); ny <= Math.min(height - 1, y + 1); ny++) {
        for (let nx = Math.max(0, x - 1); nx <= Math.min(width - 1, x + 1); nx++) {
          const i = ny * width + nx;
          if (data[i] || seen[i]) continue;
          seen[i] = 1;
          stack.push(i);
        }
      }
    }
    if (size < leastPx) for (const p of members) data[p] = 255;
  }
}
