/** Colours that no two channels share: exchanged channels, another stride or a colour that was converted show. */
const probe = { width: 5, height: 3, at: (i: number) => [7 + 13 * i, 250 - 11 * i, 3 + 5 * i, 255] };

/** Copies a canvas's first rows, RGBA, by way of a frame. */
async function byFrame(canvas: OffscreenCanvas, rows: number, into: Uint8ClampedArray): Promise<void> {
  const frame = new VideoFrame(canvas, { timestamp: 0 });
  try {
    // `format` is newer than TypeScript's own description (WebCodecs, VideoFrameCopyToOptions).
    const options = { format: 'RGBX', rect: { x: 0, y: 0, width: canvas.width, height: rows } } as VideoFrameCopyToOptions;
    await frame.copyTo(into, options);
  } finally {
    frame.close();
  }
}

/** Whether this engine's frames give a canvas's pixels exactly: an engine that does not know `format` gives its own order of channels, and says nothing. */
async function framesAreExact(): Promise<boolean> {
  if (typeof VideoFrame === 'undefined') return false;
  try {
    const { width, height, at } = probe;
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d', { willReadFrequently: true, alpha: false })!;
    const wanted = Array.from({ length: width * height }, (_, i) => at(i)).flat();
    context.putImageData(new ImageData(Uint8ClampedArray.from(wanted), width, height), 0, 0);
    const got = new Uint8ClampedArray(wanted.length);
    await byFrame(canvas, height, got);
    return wanted.every((v, i) => v === got[i]);
  } catch {
    return false;
  }
}

let exact: Promise<boolean> | undefined;

/**
 * Copies a canvas's first rows, RGBA. By a frame where the engine has exact ones, which is let go at once: what `getImageData` gives, and what the canvas keeps for it, lies about until it is
 * collected (a photo of 48 MP: 190 MB).
 *
 * @param into as many bytes as the rows have.
 */
export async function copyRows(
  canvas: OffscreenCanvas,
  context: Pick<OffscreenCanvasRenderingContext2D, 'getImageData'>,
  rows: number,
  into: Uint8ClampedArray,
): Promise<void> {
  exact ??= framesAreExact();
  if (await exact)
    try {
      return await byFrame(canvas, rows, into);
    } catch {
      // No frame of this canvas, whatever the reason: the other way goes on.
      exact = Promise.resolve(false);
    }
  into.set(context.getImageData(0, 0, canvas.width, rows).data);
}
