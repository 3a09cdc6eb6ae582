/** OpenCV's WebAssembly build, the outside reference of the core's tests. Only tests import this. */
export interface OpenCv {
  matFromArray(rows: number, cols: number, type: number, data: ArrayLike<number>): Mat;
  getPerspectiveTransform(from: Mat, to: Mat): Mat;
  warpPerspective(source: Mat, target: Mat, matrix: Mat, size: unknown, flags: number, border: number): void;
  resize(source: Mat, target: Mat, size: unknown, fx: number, fy: number, interpolation: number): void;
  Sobel(source: Mat, target: Mat, depth: number, dx: number, dy: number, size: number, scale: number): void;
  connectedComponentsWithStats(source: Mat, labels: Mat, stats: Mat, centroids: Mat, connectivity: number): number;
  HoughLines(source: Mat, lines: Mat, rho: number, theta: number, threshold: number): void;
  Mat: new () => Mat;
  Size: new (width: number, height: number) => unknown;
  CV_8UC1: number;
  CV_8UC3: number;
  CV_32F: number;
  CV_32FC1: number;
  CV_32FC2: number;
  CV_64FC1: number;
  INTER_LINEAR: number;
  INTER_AREA: number;
  WARP_INVERSE_MAP: number;
  BORDER_REPLICATE: number;
}

export interface Mat {
  data: Uint8Array;
  rows: number;
  data32S: Int32Array;
  data32F: Float32Array;
  data64F: Float64Array;
  delete(): void;
}

/** The module is a thenable that resolves to itself, so that awaiting it never ends: its `then` is taken off first. */
export function openCv(): Promise<OpenCv> {
  // eslint-disable-next-line @typescript-eslint/no-require-imports
  const cv = require('@techstark/opencv-js');
  delete cv.then;
  return new Promise((resolve) => {
    if (cv.Mat) resolve(cv);
    else cv.onRuntimeInitialized = () => resolve(cv);
  });
}
