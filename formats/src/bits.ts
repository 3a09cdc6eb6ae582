/** A 1-bit picture: rows padded to bytes, the leftmost pixel in the highest bit, 1 = black. */
export interface Bits {
  width: number;
  height: number;
  data: Uint8Array;
}

/** Packs one channel of 0 (black) … 255 (white), cut at 128. */
export function packBits(grey: { width: number; height: number; data: ArrayLike<number> }): Bits {
  const { width, height } = grey;
  const stride = (width + 7) >> 3;
  const data = new Uint8Array(stride * height);
  for (let y = 0; y < height; y++) {
    for (let x = 0, p = y * width; x < width; x++, p++) if (grey.data[p]! < 128) data[y * stride + (x >> 3)]! |= 0x80 >> (x & 7);
  }
  return { width, height, data };
}
