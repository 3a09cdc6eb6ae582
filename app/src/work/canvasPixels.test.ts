/** Engines, as far as pixels go: what a frame of a canvas gives, and what the canvas gives itself. */
type Order = 'rgbx' | 'bgrx' | 'padded' | 'throws' | 'none';

let framesMade = 0;
let framesClosed = 0;

function engine(order: Order) {
  framesMade = framesClosed = 0;
  class Canvas {
    pixels: Uint8ClampedArray;
    constructor(
      readonly width: number,
      readonly height: number,
    ) {
      this.pixels = new Uint8ClampedArray(width * height * 4);
    }
    getContext() {
      return {
        putImageData: ({ data }: { data: Uint8ClampedArray }) => this.pixels.set(data),
        getImageData: (_x: number, _y: number, width: number, rows: number) => ({ data: this.pixels.slice(0, width * rows * 4) }),
      };
    }
  }
  class Frame {
    constructor(private readonly canvas: Canvas) {
      framesMade++;
    }
    async copyTo(into: Uint8ClampedArray, { rect }: { rect: { height: number } }) {
      if (order === 'throws') throw new TypeError('NotSupported');
      const from = this.canvas.pixels.slice(0, this.canvas.width * rect.height * 4);
      if (order === 'bgrx') for (let i = 0; i < from.length; i += 4) [from[i], from[i + 2]] = [from[i + 2]!, from[i]!];
      // A row longer than it is wide.
      if (order === 'padded') from.copyWithin(8, 4);
      into.set(from);
    }
    close() {
      framesClosed++;
    }
  }
  Object.assign(globalThis, {
    OffscreenCanvas: Canvas,
    VideoFrame: order === 'none' ? undefined : Frame,
    ImageData: class {
      constructor(readonly data: Uint8ClampedArray) {}
    },
  });
  const canvas = new Canvas(4, 2);
  canvas.pixels.set(Array.from({ length: 32 }, (_, i) => (i % 4 === 3 ? 255 : 7 * i)));
  return canvas as unknown as OffscreenCanvas & { pixels: Uint8ClampedArray };
}

beforeEach(() => jest.resetModules());

test.each<[Order, number]>([
  ['rgbx', 3],
  ['bgrx', 1],
  ['padded', 1],
  ['throws', 1],
  ['none', 0],
])('an engine whose frames are %s: the pixels are the canvas’s own, twice over', async (order, frames) => {
  const canvas = engine(order);
  // Anew each time: what the engine can do is asked once.
  const { copyRows } = require('./canvasPixels') as typeof import('./canvasPixels'); // eslint-disable-line @typescript-eslint/no-require-imports
  for (const rows of [2, 1]) {
    const into = new Uint8ClampedArray(4 * rows * 4);
    await copyRows(canvas, canvas.getContext('2d')!, rows, into);
    expect([...into]).toEqual([...canvas.pixels.slice(0, into.length)]);
  }
  expect([framesMade, framesClosed]).toEqual([frames, frames]);
});
