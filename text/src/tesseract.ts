import { createWorker, type PSM, type Worker, type WorkerOptions } from 'tesseract.js';
import { greyBmp } from './bmp';
import type { Engine } from './engine';
import type { Language } from './languages';
import type { Way } from './layout';
import type { Recognised } from './words';

/** Tesseract's page segmentation modes: automatic, one column of text of various sizes, one uniform block. */
const modes: Record<Way, string> = { columns: '3', block: '4', sheet: '6' };
/** Its memory grows; after so many pages it begins anew. */
const mostPages = 20;

interface TesseractWord {
  text: string;
  confidence: number;
  bbox: { x0: number; y0: number; x1: number; y1: number };
}
interface TesseractBlock {
  paragraphs: { lines: { words: TesseractWord[] }[] }[];
}

/**
 * Tesseract 5 (LSTM, integer models) by tesseract.js.
 *
 * @param paths where its worker, cores and data lie; nothing is fetched from anywhere else.
 */
export function tesseract(paths: (language: Language) => Partial<WorkerOptions>): Engine {
  let held: { language: Language; worker: Worker; pages: number } | null = null;
  const end = async () => {
    const { worker } = held ?? {};
    held = null;
    await worker?.terminate();
  };
  return {
    async recognise(picture, way, language, dpi): Promise<Recognised[][]> {
      if (held && (held.language !== language || held.pages >= mostPages)) await end();
      // 1: the LSTM recogniser only.
      held ??= { language, worker: await createWorker(language, 1, { ...paths(language), gzip: true }), pages: 0 };
      held.pages++;
      await held.worker.setParameters({ tessedit_pageseg_mode: modes[way] as PSM, user_defined_dpi: String(Math.round(dpi)) });
      const { data } = await held.worker.recognize(greyBmp(picture) as never, {}, { blocks: true, text: false });
      return ((data.blocks ?? []) as TesseractBlock[]).map((block) =>
        block.paragraphs.flatMap((p) =>
          p.lines.flatMap((l) =>
            l.words.map(({ text, confidence, bbox }) => ({
              text,
              confidence,
              box: { x: bbox.x0, y: bbox.y0, width: bbox.x1 - bbox.x0, height: bbox.y1 - bbox.y0 },
            })),
          ),
        ),
      );
    },
    end,
  };
}
