import { fromBase64 } from '../raster/base64';

/** Signed bytes in base64, each times `step`. */
export function unpack(base64: string, step: number): Float32Array {
  return Float32Array.from(new Int8Array(fromBase64(base64).buffer), (v) => v * step);
}
