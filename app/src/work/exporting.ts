import type { PlacedPicture } from '@libretto/text/blocks';
import { picturesAmong } from '@libretto/text/pictures';
import { formatEndings, isWords, safeFileName, type Document, type Page, type WordFormat } from '@libretto/model';
import { getPhoto, type ReadText } from '../store/files';
import type { FilePage } from './file.worker';
import { runJob } from './jobs';
import { priority } from './pool';
import { pageImage, workRecipe } from './pageImages';
import { filePool, pagePool, wordsPool } from './pools';
import { homeCountry, wordsOnPaper } from './onPaper';
import { WorkProblem } from './problem';
import type { PrintedPage } from './printing';
import { saveBlob } from './saveBlob';
import { textOfPage } from './reading';
import type { WordsPage } from './words.worker';

export interface MadeFile {
  fileName: string;
  blob: Blob;
  sha256: string;
  /** What was given up for its size: its dots per inch now, and whether it has become as small as it was to be. */
  lighter?: { dpi: number; fits: boolean };
}

/** Of a PDF all that is no picture: its structure, and of each page the words and their places; bytes. */
const structureBytes = 4000;
const pageBytes = 6000;

/** Makes a document's file in its format, or one for each of its pages, page by page. `progress` hears how many pages are done. */
export async function makeFiles(
  document: Document,
  pages: readonly Page[],
  signal: AbortSignal,
  progress: (done: number) => void,
  /** Of a PDF; it is kept nowhere. */
  password = '',
): Promise<MadeFile[]> {
  const ready = pages.filter((p) => p.state === 'ready' && p.recipe);
  if (!ready.length) throw new WorkProblem('no-page-yet');
  const format = document.format ?? 'pdf';
  if (isWords(format)) return wordFiles(document, ready, format, signal, progress);
  const made: FilePage[] = [];
  for (const page of ready) {
    signal.throwIfAborted();
    const { blob, width, height, widthMm, heightMm } = await pageImage(page, 'print', priority.export, signal);
    const text = document.searchable !== false && format === 'pdf' ? await textOfPage(page) : null;
    const picture =
      (format === 'pictures' || format === 'tall') && blob.type === 'image/x-group4' ? await pngOf(page, signal) : blob;
    made.push({
      blob: picture,
      width,
      height,
      widthMm,
      heightMm,
      ...(text && { words: wordsOver(text, widthMm, heightMm) }),
      ...(page.begins && { begins: page.begins }),
    });
    progress(made.length);
  }
  signal.throwIfAborted();
  const about = { created: Date.parse(document.createdAt), changed: Date.parse(document.changedAt), password, paper: document.paper }; // prettier-ignore
  const perPage = document.files === 'page';
  const names = fileNames(document, made.length);
  const work = <T>(call: Parameters<typeof filePool.run<T>>[0]) => filePool.run(call, priority.export, signal);
  const bundles = names.map((name, i) => ({ name, pages: perPage ? [made[i]!] : made }));
  const files: MadeFile[] = [];
  const most = format === 'pdf' && document.underMb ? document.underMb * 1e6 : Infinity;
  for (const { name, pages: its } of bundles) {
    const whole = its.reduce((sum, page) => sum + page.blob.size + pageBytes, structureBytes);
    if (whole > most) {
      const pdf = (of: readonly FilePage[]) => work((api) => api.pdf(of, { ...about, title: name }));
      let light = await work((api) => api.lighter(its, most - structureBytes - its.length * pageBytes));
      let file = await pdf(light.pages);
      while (file.blob.size > most && light.next !== null) {
        const { next } = light;
        light = await work((api) => api.lighter(its, most - structureBytes - its.length * pageBytes, next));
        file = await pdf(light.pages);
      }
      const fits = file.blob.size <= most;
      files.push({
        blob: file.blob,
        sha256: file.sha256,
        fileName: safeFileName(name, file.extension),
        lighter: { dpi: light.dpi, fits },
      });
      continue;
    }
    const file =
      format === 'pdf'
        ? await work((api) => api.pdf(its, { ...about, title: name }))
        : format === 'tiff'
          ? await work((api) => api.tiff(its, name))
          : format === 'tall'
            ? await work((api) => api.tall(its))
            : its.length > 1
              ? await work((api) => api.zip(pictureNames(document, its)))
              : await work((api) => api.asIs(its[0]!.blob, extensionOf(its[0]!.blob)));
    files.push({ blob: file.blob, sha256: file.sha256, fileName: safeFileName(name, file.extension) });
  }
  return files;
}

/** Of the formats of words those that hold pictures. */
const pictured: readonly WordFormat[] = ['docx', 'html', 'epub'];

/** The pictures on a page, cut out of it as it is sent. Without its photo there is nothing to tell them by. */
async function picturesOn(page: Page, { lines, widthMm }: WordsPage, signal: AbortSignal): Promise<PlacedPicture[]> {
  const photo = await getPhoto(page.photoId);
  if (!photo) return [];
  const areas = await pagePool.run((api) => api.pictures(page.photoId, photo, workRecipe(page), page.alone), priority.export, signal); // prettier-ignore
  const boxes = picturesAmong(areas, lines);
  if (!boxes.length) return [];
  const { blob } = await pageImage(page, 'print', priority.export, signal);
  const whole = blob.type === 'image/x-group4' ? await pngOf(page, signal) : blob;
  const cut = await pagePool.run((api) => api.cut(whole, boxes, widthMm), priority.export, signal);
  return boxes.map((box, i) => ({ box, picture: { ...cut[i]!, widthMm: box.width, heightMm: box.height } }));
}

/** Files of what was read, with the pictures of the pages where the format has them. */
async function wordFiles(
  document: Document,
  pages: readonly Page[],
  format: WordFormat,
  signal: AbortSignal,
  progress: (done: number) => void,
): Promise<MadeFile[]> {
  const made: { words: WordsPage; language: string | undefined }[] = [];
  for (const page of pages) {
    signal.throwIfAborted();
    const text = await textOfPage(page);
    const { widthMm = 210, heightMm = 297 } = page.made ?? {};
    const words = wordsOnPaper(text ?? { ...nothingRead }, widthMm, heightMm);
    const pictures = text && pictured.includes(format) ? await picturesOn(page, words, signal) : [];
    made.push({ words: { ...words, ...(pictures.length && { pictures }) }, language: text?.language });
    progress(made.length);
  }
  const ending = formatEndings[format];
  const perPage = document.files === 'page';
  return Promise.all(
    fileNames(document, made.length).map(async (name, i) => {
      const its = perPage ? [made[i]!] : made;
      const language = its.find((page) => page.language)?.language;
      const about = { title: name, ...(language && { language }), pages: its.map((page) => page.words), id: document.id, changed: Date.parse(document.changedAt), country: homeCountry() as 'GB' }; // prettier-ignore
      const written = await wordsPool.run((api) => api.write(format, about), priority.export, signal);
      if (!written.bytes) throw new WorkProblem(written.missing!);
      const file = await filePool.run((api) => api.asIs(new Blob([written.bytes as BlobPart]), ending), priority.export, signal);
      return { blob: file.blob, sha256: file.sha256, fileName: safeFileName(name, ending) };
    }),
  );
}

const nothingRead: ReadText = { look: '', documentId: '', language: '', lines: [], text: '', unread: 0, photo: [] };

const extensionOf = (picture: Blob) => (picture.type === 'image/png' ? 'png' : 'jpg');
const pictureNames = (document: Document, pages: readonly FilePage[]) =>
  fileNames({ ...document, files: 'page' }, pages.length).map((name, i) => ({
    name: safeFileName(name, extensionOf(pages[i]!.blob)),
    blob: pages[i]!.blob,
  }));

/** A two-level page as a picture that every program opens. */
export async function pngOf(page: Page, signal: AbortSignal): Promise<Blob> {
  const photo = await getPhoto(page.photoId);
  if (!photo) throw new WorkProblem('photo-gone');
  return pagePool.run((api) => api.png(page.photoId, photo, workRecipe(page), page.alone), priority.export, signal);
}

/** A document's pages as they are printed: pictures that every browser draws. */
export async function printedPages(pages: readonly Page[]): Promise<PrintedPage[]> {
  const { signal } = new AbortController();
  const made: PrintedPage[] = [];
  for (const page of pages) {
    if (page.state !== 'ready' || !page.recipe) continue;
    const { blob, widthMm, heightMm } = await pageImage(page, 'print', priority.export, signal);
    made.push({ blob: blob.type === 'image/x-group4' ? await pngOf(page, signal) : blob, widthMm, heightMm });
  }
  return made;
}

/** What was read on a page, as it lies over it in a file. */
function wordsOver({ lines, language }: ReadText, widthMm: number, heightMm: number): NonNullable<FilePage['words']> {
  const [across, down] = [widthMm / 10_000, heightMm / 10_000];
  return {
    language,
    lines: lines.map((line) =>
      line.map(([text, x, y, width, height]) => ({
        text,
        x: x * across,
        y: y * down,
        width: width * across,
        height: height * down,
      })),
    ),
  };
}

/** Saves some of a document's pages to this device as a PDF of their own. */
export function savePdfOf(document: Document, pages: readonly Page[], name: string) {
  return runJob('export', document.id, pages.length, async ({ signal, tell }) => {
    const { files: _files, format: _format, ...as } = document;
    const [file] = await makeFiles({ ...as, name }, pages, signal, (done) => tell({ done }));
    saveBlob(file!.blob, file!.fileName);
  });
}

/** The document's name, or for a file a page the name with the page's number, all as long, so that they sort. */
export function fileNames({ name, files }: Pick<Document, 'name' | 'files'>, pages: number): string[] {
  if (files !== 'page') return [name];
  const digits = String(pages).length;
  return Array.from({ length: pages }, (_, i) => `${name}, ${String(i + 1).padStart(digits, '0')}`);
}
