import { homography, sauvola, type Point, type Raster } from '@libretto/core';
import { unsharp } from '@libretto/core/enhance/adjust';
import { evenGrey } from '@libretto/core/enhance/evenLight';
import { estimateLight } from '@libretto/core/enhance/light';
import { withoutSimd } from '@libretto/core/kernels/simd';
import { resizeArea } from '@libretto/core/raster/resize';
import { warp } from '@libretto/core/rectify/warp';
import { median } from './median';
import { noisyPage } from './noisyPage';
import { loadOpenCv, type OpenCv } from './textbook';

const [photoWidth, photoHeight] = [4000, 3000];
const [pageWidth, pageHeight] = [2480, 3508];
const rounds = 9;

interface Contest {
  name: string;
  ours: () => unknown;
  theirs: () => void;
  /** How many times as fast as OpenCV's build it is to be. */
  wanted?: number;
}

/** A page's outline in a photograph, a little aslant. */
const seen: Point[] = [[520, 130], [3390, 210], [3540, 2840], [400, 2760]]; // prettier-ignore

/**
 * The kernels on a 12 MP photograph and an A4 page at 300 dpi: SIMD and plain, and the same work in OpenCV's WebAssembly build. Ours take their
 * pixels from and to ordinary memory, OpenCV's are in its own already.
 */
export async function benchKernels(): Promise<void> {
  const { cv } = await loadOpenCv();
  const photo = noisyPage(photoWidth, photoHeight, 4);
  const page = noisyPage(pageWidth, pageHeight, 3);
  const light = estimateLight(page);
  const grey = evenGrey(page, light);
  const map = homography(
    [[-0.5, -0.5], [pageWidth - 0.5, -0.5], [pageWidth - 0.5, pageHeight - 0.5], [-0.5, pageHeight - 0.5]], // prettier-ignore
    seen,
  );
  const contests: Contest[] = [
    { name: 'area shrink to 600 px', ours: () => resizeArea(photo, 600, 450), theirs: theirShrink(cv, photo), wanted: 3.5 },
    {
      name: 'warp, bilinear',
      ours: () => warp(photo, map, pageWidth, pageHeight),
      theirs: theirWarp(cv, photo, map, cv.INTER_LINEAR),
      wanted: 3,
    },
    {
      name: 'warp, bicubic',
      ours: () => warp(photo, map, pageWidth, pageHeight, 'cubic'),
      theirs: theirWarp(cv, photo, map, cv.INTER_CUBIC),
      wanted: 2.5,
    },
    { name: 'even light, grey', ours: () => evenGrey(page, estimateLight(page)), theirs: theirEven(cv, page), wanted: 9 },
    { name: 'even light, light known', ours: () => evenGrey(page, light), theirs: theirDivision(cv, page, light.paper) },
    { name: 'Sauvola to black and white', ours: () => sauvola(grey, { window: 61 }), theirs: theirSauvola(cv, grey), wanted: 6 },
    { name: 'unsharp mask, grey', ours: () => unsharp(grey, 1.2, 0.8), theirs: theirUnsharp(cv, grey), wanted: 10 },
  ];
  console.log('kernel                       SIMD ms  plain ms  OpenCV ms  plain / SIMD  OpenCV / SIMD  wanted');
  for (const { name, ours, theirs, wanted } of contests) {
    const times: number[][] = [[], [], []];
    for (let round = -1; round < rounds; round++)
      [ours, () => withoutSimd(ours), theirs].forEach((work, i) => {
        const before = performance.now();
        work();
        if (round >= 0) times[i]!.push(performance.now() - before);
      });
    const ratio = (i: number) => median(times[i]!.map((t, k) => t / times[0]![k]!)).toFixed(1);
    const [simd, plain, peer] = times.map((t) => median(t).toFixed(0));
    console.log(`${name.padEnd(29)}${simd!.padEnd(9)}${plain!.padEnd(10)}${peer!.padEnd(11)}${ratio(1).padEnd(14)}${ratio(2).padEnd(15)}${wanted ?? ''}`); // prettier-ignore
  }
}

function mat(cv: OpenCv, raster: Raster) {
  const type = { 1: cv.CV_8UC1, 3: cv.CV_8UC3, 4: cv.CV_8UC4 }[raster.channels];
  return cv.matFromArray(raster.height, raster.width, type, raster.data);
}

function theirShrink(cv: OpenCv, photo: Raster): () => void {
  const [source, grey, small] = [mat(cv, photo), new cv.Mat(), new cv.Mat()];
  return () => {
    cv.cvtColor(source, grey, cv.COLOR_RGBA2GRAY);
    cv.resize(grey, small, new cv.Size(600, 450), 0, 0, cv.INTER_AREA);
  };
}

function theirWarp(cv: OpenCv, photo: Raster, map: readonly number[], how: number): () => void {
  const [source, target] = [mat(cv, photo), new cv.Mat()];
  const matrix = cv.matFromArray(3, 3, cv.CV_64FC1, [...map]);
  const size = new cv.Size(pageWidth, pageHeight);
  return () => cv.warpPerspective(source, target, matrix, size, how | cv.WARP_INVERSE_MAP, cv.BORDER_REPLICATE);
}

/** The textbook's removal of shadows: print taken away by a dilation and a median at full size, what is left divided out. */
function theirEven(cv: OpenCv, page: Raster): () => void {
  const [source, grey, top, paper, target] = [mat(cv, page), new cv.Mat(), new cv.Mat(), new cv.Mat(), new cv.Mat()];
  const window = cv.Mat.ones(7, 7, cv.CV_8UC1);
  return () => {
    cv.cvtColor(source, grey, cv.COLOR_RGB2GRAY);
    cv.dilate(grey, top, window);
    cv.medianBlur(top, paper, 21);
    cv.divide(grey, paper, target, 224);
  };
}

/** Grey, divided by a background that was estimated small and enlarged. */
function theirDivision(cv: OpenCv, page: Raster, paper: { width: number; height: number; data: Float32Array }): () => void {
  const small = cv.matFromArray(paper.height, paper.width, cv.CV_8UC1, Array.from(paper.data, Math.round));
  const [source, grey, full, target] = [mat(cv, page), new cv.Mat(), new cv.Mat(), new cv.Mat()];
  return () => {
    cv.cvtColor(source, grey, cv.COLOR_RGB2GRAY);
    cv.resize(small, full, new cv.Size(pageWidth, pageHeight), 0, 0, cv.INTER_LINEAR);
    cv.divide(grey, full, target, 224);
  };
}

/** T = m (1 + k (s / R − 1)) with OpenCV's box filters. */
function theirSauvola(cv: OpenCv, grey: Raster): () => void {
  const source = mat(cv, grey);
  const [mean, square, variance, ones, threshold, floats, target] = Array.from({ length: 7 }, () => new cv.Mat());
  ones.create(grey.height, grey.width, cv.CV_32F);
  ones.setTo(new cv.Scalar(1));
  const size = new cv.Size(61, 61);
  return () => {
    cv.boxFilter(source, mean, cv.CV_32F, size);
    cv.sqrBoxFilter(source, square, cv.CV_32F, size);
    cv.multiply(mean, mean, variance);
    cv.subtract(square, variance, variance);
    cv.sqrt(variance, variance);
    cv.addWeighted(variance, 0.25 / 128, ones, 0.75, 0, threshold);
    cv.multiply(mean, threshold, threshold);
    source.convertTo(floats, cv.CV_32F);
    cv.compare(floats, threshold, target, cv.CMP_GT);
  };
}

function theirUnsharp(cv: OpenCv, grey: Raster): () => void {
  const [source, soft, target] = [mat(cv, grey), new cv.Mat(), new cv.Mat()];
  return () => {
    cv.GaussianBlur(source, soft, new cv.Size(0, 0), 1.2);
    cv.addWeighted(source, 1.8, soft, -0.8, 0, target);
  };
}
