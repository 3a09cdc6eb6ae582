import * as Comlink from 'comlink';
import type { PagesApi } from './pagedFile';
import { wordsOfRuns, type TextRun } from './pdfWords';
import { getDocument, GlobalWorkerOptions, type PDFDocumentProxy } from 'pdfjs-dist';

// Bundled by scripts/build-pdf.mjs beside what pdf.js fetches as it needs it.
const at = (name: string) => new URL(name, self.location.href).href;
GlobalWorkerOptions.workerPort = new Worker(at('./pdf.worker.min.mjs'), { type: 'module' });

interface Drawn {
  canvas: OffscreenCanvas | null;
  context: OffscreenCanvasRenderingContext2D | null;
}

/** pdf.js makes its canvases from the page's document, which a worker has not. */
class Canvases {
  create(width: number, height: number): Drawn {
    const canvas = new OffscreenCanvas(width, height);
    return { canvas, context: canvas.getContext('2d', { willReadFrequently: true }) };
  }
  reset(drawn: Drawn, width: number, height: number): void {
    drawn.canvas!.width = width;
    drawn.canvas!.height = height;
  }
  destroy(drawn: Drawn): void {
    drawn.canvas!.width = drawn.canvas!.height = 0;
    drawn.canvas = drawn.context = null;
  }
}

class NoFilters {
  addFilter = () => 'none';
  addHCMFilter = () => 'none';
  addAlphaFilter = () => 'none';
  addLuminosityFilter = () => 'none';
  addHighlightHCMFilter = () => 'none';
  destroy(): void {}
}

const wantedDpi = 300;
/** A larger page is drawn with fewer dots an inch: phones do not hold more. */
const mostPixels = 48e6;

let open: PDFDocumentProxy | null = null;

const api: PagesApi = {
  async open(bytes) {
    await open?.loadingTask.destroy();
    open = null;
    try {
      open = await getDocument({
        data: new Uint8Array(bytes),
        CanvasFactory: Canvases,
        FilterFactory: NoFilters,
        cMapUrl: at('./cmaps/'),
        standardFontDataUrl: at('./standard_fonts/'),
        wasmUrl: at('./wasm/'),
        iccUrl: at('./iccs/'),
        // Said outright: to decide it by itself pdf.js would ask the page's document.
        useWorkerFetch: true,
        disableFontFace: true,
        useSystemFonts: false,
      }).promise;
      return { pages: open.numPages };
    } catch (error) {
      return { problem: (error as Error).name === 'PasswordException' ? 'password' : 'damaged' };
    }
  },

  async page(number) {
    const page = await open!.getPage(number);
    const points = page.getViewport({ scale: 1 });
    const scale = Math.min(wantedDpi / 72, Math.sqrt(mostPixels / (points.width * points.height)));
    const viewport = page.getViewport({ scale });
    const width = Math.max(1, Math.round(viewport.width));
    const height = Math.max(1, Math.round(viewport.height));
    const canvas = new OffscreenCanvas(width, height);
    const context = canvas.getContext('2d', { alpha: false })!;
    context.fillStyle = '#fff';
    context.fillRect(0, 0, width, height);
    await page.render({ canvas: null, canvasContext: context as never, viewport }).promise;
    // A page that cannot say what stands on it is read like any other.
    const text = await page.getTextContent().catch(() => null);
    const runs = (text?.items ?? []).filter((item): item is TextRun & (typeof text & object)['items'][number] => 'str' in item);
    const words = wordsOfRuns(runs, text?.styles ?? {}, viewport.transform);
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.92 });
    page.cleanup();
    return { blob, type: 'image/jpeg', width, height, words, turn: 0, paper: { widthMm: (points.width / 72) * 25.4, heightMm: (points.height / 72) * 25.4 } }; // prettier-ignore
  },
};

Comlink.expose(api);
