import path from 'node:path';
import sharp from 'sharp';
import { gaussian, rectify, type Plane, type Quad, type Raster } from '@libretto/core';
import { flatPages, type FlatPagesOptions } from './flatPages';
import { msSsim } from './msSsim';
import { loadOpenCv, type OpenCv } from './textbook';

/** Comparison is at this many pixels, as in Ma et al., "DocUNet", CVPR 2018. */
const pixels = 598_400;

const greyOf = async (input: Raster | string, width: number, height: number): Promise<Plane> => {
  const source = typeof input === 'string' ? sharp(input) : sharp(input.data, { raw: { width: input.width, height: input.height, channels: input.channels } }); // prettier-ignore
  const { data } = await source.resize(width, height, { fit: 'fill' }).greyscale().raw().toBuffer({ resolveWithObject: true });
  return { width, height, data: Float32Array.from(data) };
};

/** Light evened out, so that the flow follows print and not shadows. */
function even(plane: Plane): Plane {
  const around = gaussian(plane, 12).data;
  return { ...plane, data: plane.data.map((v, i) => Math.max(0, Math.min(255, (v / Math.max(8, around[i]!)) * 180))) };
}

/** Mean length in px of the dense flow (Farnebäck, SCIA 2003) from the clean page to ours where there is print; SIFT flow in the paper. */
function localDistortion(cv: OpenCv, clean: Plane, ours: Plane): number {
  const mat = (plane: Plane) => cv.matFromArray(plane.height, plane.width, cv.CV_8UC1, Uint8Array.from(even(plane).data));
  const [a, b, flow] = [mat(clean), mat(ours), new cv.Mat()];
  cv.calcOpticalFlowFarneback(a, b, flow, 0.5, 5, 25, 4, 7, 1.5, 0);
  let [sum, n] = [0, 0];
  const { width } = clean;
  for (let i = width; i < clean.data.length - width; i++) {
    if (Math.abs(a.data[i + 1] - a.data[i - 1]) + Math.abs(a.data[i + width] - a.data[i - width]) < 40) continue;
    sum += Math.hypot(flow.data32F[2 * i], flow.data32F[2 * i + 1]);
    n++;
  }
  [a, b, flow].forEach((m) => m.delete());
  return n ? sum / n : 0;
}

/** Flattened pages against the clean ones, by category, beside the homography of the true corners. */
export async function benchFlat(dir: string, pages: FlatPagesOptions): Promise<void> {
  const { cv } = await loadOpenCv();
  const scores = new Map<string, number[][]>();
  for await (const { category, photo, truth, flat } of flatPages(dir, pages)) {
    if (!truth.flat || category === 'screen' || category === 'whiteboard') continue;
    const file = path.join(dir, truth.flat);
    const { width: w, height: h } = await sharp(file).metadata();
    const k = Math.sqrt(pixels / (w! * h!));
    const [width, height] = [Math.round(w! * k), Math.round(h! * k)];
    const clean = await greyOf(file, width, height);
    const corners = rectify(photo, truth.quad as unknown as Quad, { width: 2 * width, height: 2 * height });
    const [ours, theirs] = [await greyOf(flat.image, width, height), await greyOf(corners, width, height)];
    const row = [msSsim(clean, ours), localDistortion(cv, clean, ours), msSsim(clean, theirs), localDistortion(cv, clean, theirs)]; // prettier-ignore
    for (const key of [category, 'all']) scores.set(key, [...(scores.get(key) ?? []), row]);
  }
  if (!scores.size) return console.log('no page with a clean twin in this truth');
  console.log('flatness       pages MS-SSIM  distortion px | true corners alone: MS-SSIM  distortion px');
  for (const key of [...scores.keys()].filter((name) => name !== 'all').concat('all')) {
    const rows = scores.get(key)!;
    const mean = (i: number) => rows.reduce((s, r) => s + r[i]!, 0) / rows.length;
    console.log(`${key.padEnd(15)}${String(rows.length).padEnd(6)}${mean(0).toFixed(3).padEnd(9)}${mean(1).toFixed(2).padEnd(14)}| ${''.padEnd(20)}${mean(2).toFixed(3).padEnd(9)}${mean(3).toFixed(2)}`); // prettier-ignore
  }
}
