import { gaussian, type Plane } from '@libretto/core';

/** Weights of the five scales: Wang, Simoncelli and Bovik, "Multiscale structural similarity for image quality assessment", Asilomar 2003. */
const weights = [0.0448, 0.2856, 0.3001, 0.2363, 0.1333] as const;
const c1 = (0.01 * 255) ** 2;
const c2 = (0.03 * 255) ** 2;

/** Multi-scale structural similarity of two grey pictures of one size, 0..255: 1 for the same, Gaussian windows of σ 1.5. */
export function msSsim(a: Plane, b: Plane): number {
  if (a.width !== b.width || a.height !== b.height) throw new RangeError(`Two pictures of one size are compared, received ${a.width}×${a.height} and ${b.width}×${b.height}`); // prettier-ignore
  let product = 1;
  let [p, q] = [a, b];
  weights.forEach((weight, scale) => {
    const [ma, mb] = [gaussian(p, 1.5).data, gaussian(q, 1.5).data];
    const [aa, bb, ab] = [times(p, p), times(q, q), times(p, q)].map((plane) => gaussian(plane, 1.5).data) as [Float32Array, Float32Array, Float32Array]; // prettier-ignore
    let sum = 0;
    for (let i = 0; i < ma.length; i++) {
      const structure = (2 * (ab[i]! - ma[i]! * mb[i]!) + c2) / (aa[i]! - ma[i]! ** 2 + bb[i]! - mb[i]! ** 2 + c2);
      const light = scale === weights.length - 1 ? (2 * ma[i]! * mb[i]! + c1) / (ma[i]! ** 2 + mb[i]! ** 2 + c1) : 1;
      sum += structure * light;
    }
    product *= Math.max(sum / ma.length, 1e-6) ** weight;
    [p, q] = [halved(p), halved(q)];
  });
  return product;
}

function times(a: Plane, b: Plane): Plane {
  return { ...a, data: a.data.map((v, i) => v * b.data[i]!) };
}

function halved({ width, height, data }: Plane): Plane {
  const [w, h] = [Math.max(1, width >> 1), Math.max(1, height >> 1)];
  const out = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = 2 * y * width + 2 * x;
      out[y * w + x] = (data[i]! + data[i + 1]! + data[i + width]! + data[i + width + 1]!) / 4;
    }
  return { width: w, height: h, data: out };
}
