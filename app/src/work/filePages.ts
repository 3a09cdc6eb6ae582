import * as Comlink from 'comlink';
import { nameOfSize } from '@libretto/core/rectify/pageSize';
import type { Page } from '@libretto/model';
import type { NewPicture } from '../store/keeping';
import { wholePhoto } from './looking';
import type { PagesApi } from './pagedFile';
import { WorkProblem } from './problem';

export interface FilePicture extends NewPicture {
  number: number;
  of: number;
}

const readers = { pdf: '/pdf/pages.js', tiff: '/pdf/tiff.js' };
export type PagedKind = keyof typeof readers;

/**
 * The pages of a PDF, at 300 dpi, or of a TIFF as pictures, one after the other. They are whole pages of a known size already, so nobody looks for edges in them.
 *
 * @throws WorkProblem when the file cannot be opened or a page not be drawn.
 */
export async function* filePages(file: File, kind: PagedKind, signal?: AbortSignal): AsyncGenerator<FilePicture> {
  const worker = new Worker(readers[kind], { type: 'module' });
  const broken = new Promise<never>((_resolve, reject) => {
    worker.onerror = () => reject(new WorkProblem('pdf-stopped'));
  });
  broken.catch(() => {});
  const api = Comlink.wrap<PagesApi>(worker);
  try {
    const bytes = await file.arrayBuffer();
    const opened = await Promise.race([api.open(Comlink.transfer(bytes, [bytes])), broken]);
    if ('problem' in opened) throw new WorkProblem(kind === 'pdf' ? `pdf-${opened.problem}` : opened.problem);
    for (let number = 1; number <= opened.pages && !signal?.aborted; number++) {
      const { blob, type, width, height, words, turn, paper } = await Promise.race([api.page(number), broken]).catch(
        (error: Error) => {
          throw error instanceof WorkProblem ? error : new WorkProblem('pdf-page', { page: number });
        },
      );
      const name = opened.pages > 1 ? `${file.name} (${number})` : file.name;
      const picture = { blob, name, type, photo: { width, height }, number, of: opened.pages };
      if (!paper) {
        yield picture;
        continue;
      }
      const outline = { ...wholePhoto(width, height), confidence: 1 };
      const page: Partial<Page> = {
        state: 'ready',
        found: outline,
        recipe: { v: 1, outline, turn, filter: 'original', size: { ...paper, name: nameOfSize(paper.widthMm, paper.heightMm) } },
      };
      yield { ...picture, page, ...(words.length && { words }) };
    }
  } finally {
    worker.terminate();
  }
}
