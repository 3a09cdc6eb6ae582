import { sauvola, type Point, type Raster } from '@libretto/core';

export type OpenCv = any;

/** OpenCV's WebAssembly build. Its module is a thenable that resolves to itself, so its `then` is taken off. */
export async function loadOpenCv(): Promise<{ cv: OpenCv }> {
  const loaded = (await import('@techstark/opencv-js')) as any;
  const cv = loaded.default ?? loaded;
  await ready(cv);
  return { cv };
}

/** Waits until a module of it that is loaded has started. */
export async function ready(cv: OpenCv): Promise<void> {
  delete cv.then;
  if (!cv.Mat) await new Promise<void>((resolve) => (cv.onRuntimeInitialized = () => resolve()));
}

/** The route that textbooks give: shrink, blur, Canny, contours, the largest convex quadrilaterals. */
export function textbookFind(cv: OpenCv, photo: Raster): Point[][] {
  const full = cv.matFromArray(photo.height, photo.width, photo.channels === 4 ? cv.CV_8UC4 : cv.CV_8UC3, photo.data);
  const scale = 800 / Math.max(photo.width, photo.height);
  const small = new cv.Mat();
  cv.resize(full, small, new cv.Size(Math.round(photo.width * scale), Math.round(photo.height * scale)), 0, 0, cv.INTER_AREA);
  const grey = new cv.Mat();
  cv.cvtColor(small, grey, photo.channels === 4 ? cv.COLOR_RGBA2GRAY : cv.COLOR_RGB2GRAY);
  cv.GaussianBlur(grey, grey, new cv.Size(5, 5), 0);
  const edges = new cv.Mat();
  cv.Canny(grey, edges, 50, 150);
  const kernel = cv.Mat.ones(3, 3, cv.CV_8U);
  cv.dilate(edges, edges, kernel);
  const contours = new cv.MatVector();
  const hierarchy = new cv.Mat();
  cv.findContours(edges, contours, hierarchy, cv.RETR_LIST, cv.CHAIN_APPROX_SIMPLE);
  const total = grey.rows * grey.cols;
  const found: { area: number; quad: Point[] }[] = [];
  for (let i = 0; i < contours.size(); i++) {
    const contour = contours.get(i);
    const approximation = new cv.Mat();
    cv.approxPolyDP(contour, approximation, 0.02 * cv.arcLength(contour, true), true);
    const area = cv.contourArea(approximation);
    if (approximation.rows === 4 && cv.isContourConvex(approximation) && area > 0.04 * total) {
      const p = [0, 1, 2, 3].map((k): Point => [approximation.data32S[k * 2], approximation.data32S[k * 2 + 1]]);
      found.push({ area, quad: clockwise(p).map(([x, y]): Point => [(x + 0.5) / scale - 0.5, (y + 0.5) / scale - 0.5]) });
    }
    approximation.delete();
    contour.delete();
  }
  for (const mat of [full, small, grey, edges, kernel, contours, hierarchy]) mat.delete();
  found.sort((a, b) => b.area - a.area);
  const kept: typeof found = [];
  const middle = (q: Point[]) => [q.reduce((s, p) => s + p[0], 0) / 4, q.reduce((s, p) => s + p[1], 0) / 4] as const;
  const apart = 0.1 * Math.max(photo.width, photo.height);
  for (const f of found) {
    if (f.area < 0.5 * found[0]!.area) break;
    if (kept.every((k) => Math.hypot(middle(k.quad)[0] - middle(f.quad)[0], middle(k.quad)[1] - middle(f.quad)[1]) > apart))
      kept.push(f);
  }
  return kept.map((k) => k.quad);
}

function clockwise(points: Point[]): Point[] {
  const cx = points.reduce((s, p) => s + p[0], 0) / 4;
  const cy = points.reduce((s, p) => s + p[1], 0) / 4;
  return [...points].sort((a, b) => Math.atan2(a[1] - cy, a[0] - cx) - Math.atan2(b[1] - cy, b[0] - cx));
}

/** Black and white as textbooks do it: Otsu 1979, adaptive mean (window 41, 12 below), Sauvola and Pietikäinen 2000 (window 41, k 0.2). */
export function textbookInk(cv: OpenCv, page: Raster, method: 'otsu' | 'mean' | 'sauvola'): Raster {
  const { width, height, channels } = page;
  const full = cv.matFromArray(height, width, [0, cv.CV_8UC1, 0, cv.CV_8UC3, cv.CV_8UC4][channels], page.data);
  const grey = new cv.Mat();
  if (channels === 1) full.copyTo(grey);
  else cv.cvtColor(full, grey, channels === 4 ? cv.COLOR_RGBA2GRAY : cv.COLOR_RGB2GRAY);
  const out = new cv.Mat();
  if (method === 'sauvola') {
    const plain: Raster = { width, height, channels: 1, data: new Uint8ClampedArray(grey.data) };
    [full, grey, out].forEach((mat) => mat.delete());
    return sauvola(plain, { window: 41, k: 0.2 });
  }
  cv.GaussianBlur(grey, grey, new cv.Size(3, 3), 0);
  if (method === 'otsu') cv.threshold(grey, out, 0, 255, cv.THRESH_BINARY + cv.THRESH_OTSU);
  else cv.adaptiveThreshold(grey, out, 255, cv.ADAPTIVE_THRESH_MEAN_C, cv.THRESH_BINARY, 41, 12);
  const data = new Uint8ClampedArray(out.data);
  [full, grey, out].forEach((mat) => mat.delete());
  return { width, height, channels: 1, data };
}
