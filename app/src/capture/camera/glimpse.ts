import type { Quad } from '@libretto/core';

const longEdgePx = 200;

/** What a video shows just now, small, cut to the outline's surroundings: drawn within the call, so that the tray shows a page at once. */
export function glimpseOf(video: HTMLVideoElement, quad: Quad | null): HTMLCanvasElement | null {
  const { videoWidth: width, videoHeight: height } = video;
  if (!width || !height) return null;
  const span = (k: 0 | 1, size: number): [number, number] => {
    if (!quad) return [0, size];
    const from = Math.max(0, Math.min(...quad.map((p) => p[k])) * size);
    const to = Math.min(size, Math.max(...quad.map((p) => p[k])) * size);
    return to - from > 16 ? [from, to - from] : [0, size];
  };
  const [x, w] = span(0, width);
  const [y, h] = span(1, height);
  const scale = longEdgePx / Math.max(w, h);
  const canvas = document.createElement('canvas');
  canvas.width = Math.max(1, Math.round(w * scale));
  canvas.height = Math.max(1, Math.round(h * scale));
  canvas.getContext('2d')!.drawImage(video, x, y, w, h, 0, 0, canvas.width, canvas.height);
  return canvas;
}
