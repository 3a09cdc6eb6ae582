import { fromBase64 } from '../raster/base64';
import { kernelModule } from './module';

type Numbers = (...values: number[]) => void;

/** The functions of `core/assembly/kernels.ts`, whose comments say what they take. */
interface Kernels {
  shrinkRow: Numbers;
  boxRow: Numbers;
  warpRows: Numbers;
  unrollRows: Numbers;
  gridRow: Numbers;
  betweenRows: Numbers;
  evenRow: Numbers;
  greyRow: Numbers;
  colourRow: Numbers;
  levelsRow: Numbers;
  slideColumns: Numbers;
  sauvolaRows: Numbers;
  tapRows: Numbers;
  tapShortRows: Numbers;
  lumaShortRow: Numbers;
  shortsToBytes: Numbers;
  sharpenRow: Numbers;
  extremePairs: Numbers;
  runningSums: Numbers;
  addFloats: Numbers;
  scaleRow: Numbers;
  cutRow: Numbers;
  sobelRow: Numbers;
  peaksRow: (...values: number[]) => number;
}

interface Memory {
  buffer: ArrayBuffer;
  grow(pages: number): number;
}

declare const WebAssembly: {
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: unknown };
  Memory: new (size: { initial: number }) => Memory;
};

/** Kernels may read this far behind a buffer. */
const spareBytes = 64;
const pageBytes = 65_536;
/** Linear memory never shrinks: after a larger job it is let go. Room for a 12 MP photo and a band of its page. */
const keptBytes = 64 * 2 ** 20;

/** The SIMD kernels with the memory that they work in. */
export class Simd {
  readonly run: Kernels;
  bytes = new Uint8Array(0);
  floats = new Float32Array(0);
  ints = new Int32Array(0);
  shorts = new Int16Array(0);

  constructor(
    module: object,
    private readonly memory: Memory,
  ) {
    this.run = new WebAssembly.Instance(module, { env: { memory } }).exports as Kernels;
  }

  /** Lays buffers of these many bytes out anew; what was laid out before is void. Pointers are multiples of 64. */
  layout<const Sizes extends readonly number[]>(...sizes: Sizes): { -readonly [K in keyof Sizes]: number } {
    let end = pageBytes;
    const pointers = sizes.map((size) => {
      const at = end;
      end += Math.ceil((size + spareBytes) / 64) * 64;
      return at;
    });
    const short = end - this.memory.buffer.byteLength;
    if (short > 0)
      try {
        this.memory.grow(Math.ceil(short / pageBytes));
      } catch {
        throw new NoRoom();
      }
    if (this.bytes.buffer !== this.memory.buffer) {
      this.bytes = new Uint8Array(this.memory.buffer);
      this.floats = new Float32Array(this.memory.buffer);
      this.ints = new Int32Array(this.memory.buffer);
      this.shorts = new Int16Array(this.memory.buffer);
    }
    if (end > keptBytes) held = null;
    return pointers as { -readonly [K in keyof Sizes]: number };
  }
}

let compiled: object | null | undefined;
let held: Simd | null = null;
let off = false;

/** The SIMD kernels; null where the machine has none: then their plain twins do the work. */
export function simd(): Simd | null {
  if (off) return null;
  if (compiled === undefined)
    try {
      compiled = new WebAssembly.Module(fromBase64(kernelModule));
    } catch {
      // No WebAssembly, no SIMD in it, or a page whose policy forbids it.
      compiled = null;
    }
  if (!compiled) return null;
  return (held ??= new Simd(compiled, new WebAssembly.Memory({ initial: 4 })));
}

/** The kernels' memory cannot grow as far as is needed. */
class NoRoom extends Error {}

/** Does something with the SIMD kernels, or with their plain twin: where there are none (or they do not fit what is given: `can`), and where memory does not suffice for them. */
export function accelerated<T>(fast: (kernels: Simd) => T, plain: () => T, can = true): T {
  const kernels = can ? simd() : null;
  if (!kernels) return plain();
  try {
    return fast(kernels);
  } catch (error) {
    if (!(error instanceof NoRoom)) throw error;
    held = null;
    return plain();
  }
}

/** Does something with the plain twins only: for tests and measurements. */
export function withoutSimd<T>(work: () => T): T {
  off = true;
  try {
    return work();
  } finally {
    off = false;
  }
}
