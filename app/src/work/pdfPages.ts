import * as Comlink from 'comlink';
import { nameOfSize } from '@libretto/core/rectify/pageSize';
import type { Page } from '@libretto/model';
import type { PdfApi } from './pdf.worker';
import type { NewPicture } from '../store/keeping';
import { wholePhoto } from './looking';
import { WorkProblem } from './problem';

export interface PdfPicture extends NewPicture {
  number: number;
  of: number;
}

/**
 * The pages of a PDF as pictures at 300 dpi, one after the other. They are whole pages of a known size already, so nobody looks for edges in them.
 *
 * @throws WorkProblem when the file cannot be opened or a page not be drawn.
 */
export async function* pdfPages(file: File, signal?: AbortSignal): AsyncGenerator<PdfPicture> {
  const worker = new Worker('/pdf/pages.js', { type: 'module' });
  const broken = new Promise<never>((_resolve, reject) => {
    worker.onerror = () => reject(new WorkProblem('pdf-stopped'));
  });
  broken.catch(() => {});
  const api = Comlink.wrap<PdfApi>(worker);
  try {
    const bytes = await file.arrayBuffer();
    const opened = await Promise.race([api.open(Comlink.transfer(bytes, [bytes])), broken]);
    if ('problem' in opened) throw new WorkProblem(`pdf-${opened.problem}`);
    for (let number = 1; number <= opened.pages && !signal?.aborted; number++) {
      const { blob, width, height, words, widthMm, heightMm } = await Promise.race([api.page(number), broken]).catch(
        (error: Error) => {
          throw error instanceof WorkProblem ? error : new WorkProblem('pdf-page', { page: number });
        },
      );
      const outline = { ...wholePhoto(width, height), confidence: 1 };
      const page: Partial<Page> = {
        state: 'ready',
        found: outline,
        recipe: { v: 1, outline, turn: 0, filter: 'original', size: { widthMm, heightMm, name: nameOfSize(widthMm, heightMm) } },
      };
      const name = opened.pages > 1 ? `${file.name} (${number})` : file.name;
      yield {
        blob,
        name,
        type: 'image/jpeg',
        page,
        photo: { width, height },
        ...(words.length && { words }),
        number,
        of: opened.pages,
      };
    }
  } finally {
    worker.terminate();
  }
}
